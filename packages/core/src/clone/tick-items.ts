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
    itemIds: refs('identityItem', 500),
    done: said(flag()),
    remark: omittable(fieldsOf('identityItem').remark),
  },
});

export const decideTickItems: DeciderOf<typeof tickItems> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const items = new Set<string>();
  const guests = new Map<string, { kind: 'guest'; id: string; name: string }>();
  for (const id of input.itemIds) {
    const item = fleet.get('identityItem', id);
    if (!item) return noSuch('identityItem');
    draft.update('identityItem', id, {
      doneAt: input.done ? context.happenedAt : null,
      doneBy: input.done ? context.actor.name : '',
      ...(input.remark === undefined ? {} : { remark: input.remark }),
    });
    const owner = fleet.need('guest', fleet.need('clone', item.cloneId).guestId);
    guests.set(owner.id, { kind: 'guest', id: owner.id, name: owner.name });
    items.add(item.item);
  }
  const [guest] = guests.values();
  if (!guest) return noSuch('identityItem');
  const whose = guests.size === 1 ? guest.name : `${guests.size} clones`;
  return {
    draft,
    title: `${input.done ? 'ticked' : 'reopened'} ${[...items].join(', ')} of ${whose}`,
    subjects: [...guests.values()],
  };
};
