import { draftOf, noSuch, type ChangeBase, type Decider } from '../record/index.js';

/** Says that items of a clone's identity are done, or open again. */
export interface TickItems extends ChangeBase {
  type: 'clone.tick';
  itemIds: string[];
  done: boolean;
  remark?: string;
}

export const tickItems: Decider<TickItems> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const names: string[] = [];
  let guest: { kind: 'guest'; id: string; name: string } | undefined;
  for (const id of change.itemIds) {
    const item = fleet.get('identityItem', id);
    if (!item) return noSuch('identityItem');
    draft.update('identityItem', id, {
      doneAt: change.done ? (change.happenedAt ?? edge.now) : null,
      doneBy: change.done ? edge.actor.name : '',
      ...(change.remark === undefined ? {} : { remark: change.remark }),
    });
    const owner = fleet.need('guest', fleet.need('clone', item.cloneId).guestId);
    guest = { kind: 'guest', id: owner.id, name: owner.name };
    names.push(item.item);
  }
  if (!guest) return noSuch('identityItem');
  return {
    draft,
    title: `${change.done ? 'ticked' : 'reopened'} ${names.join(', ')} of ${guest.name}`,
    subjects: [guest],
  };
};
