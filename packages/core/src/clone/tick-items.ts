import {
  change,
  draftOf,
  fieldsOf,
  flag,
  noSuch,
  omittable,
  refs,
  said,
  type DeciderOf,
} from '../record/index.js';

/** Items of a clone's identity are done, or open again. May be repeated. */
export const tickItems = change({
  type: 'clone.tick',
  title: 'Tick items of identity',
  carried: 'only afterwards',
  input: {
    itemIds: refs('identityItem', 100),
    done: said(flag()),
    remark: omittable(fieldsOf('identityItem').remark),
  },
});

export const decideTickItems: DeciderOf<typeof tickItems> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const names: string[] = [];
  let guest: { kind: 'guest'; id: string; name: string } | undefined;
  for (const id of input.itemIds) {
    const item = fleet.get('identityItem', id);
    if (!item) return noSuch('identityItem');
    draft.update('identityItem', id, {
      doneAt: input.done ? context.happenedAt : null,
      doneBy: input.done ? context.actor.name : '',
      ...(input.remark === undefined ? {} : { remark: input.remark }),
    });
    const owner = fleet.need('guest', fleet.need('clone', item.cloneId).guestId);
    guest = { kind: 'guest', id: owner.id, name: owner.name };
    names.push(item.item);
  }
  if (!guest) return noSuch('identityItem');
  return {
    draft,
    title: `${input.done ? 'ticked' : 'reopened'} ${names.join(', ')} of ${guest.name}`,
    subjects: [guest],
  };
};
