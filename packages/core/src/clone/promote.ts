import { poolFigures } from '../host/index.js';
import {
  change,
  draftOf,
  noSuch,
  objection,
  refs,
  refuse,
  type DeciderOf,
  type Fleet,
  type Refusal,
  type Row,
  type Subject,
} from '../record/index.js';
import { fewNames, formatBinary } from '../quantity/index.js';
import { allocatedBytes } from './clone-time.js';

/** Dependent clones get all blocks of their own: their base may be altered or go. */
export const promoteClones = change({
  type: 'clone.promote',
  title: 'Promote to independent clones',
  carried: 'by hand',
  alters: ['guestIds'],
  input: { guestIds: refs('guest', 200) },
});

/** Bytes that lie in the base alone and are copied for each, by pool. */
function promotionBytes(fleet: Fleet, guestId: string): Map<string, number> {
  const found = new Map<string, number>();
  for (const volume of fleet.referring('volume', 'guestId', guestId)) {
    const base = fleet.get('volume', volume.baseId);
    if (!base) continue;
    const bytes = allocatedBytes([base]);
    found.set(volume.poolId, (found.get(volume.poolId) ?? 0) + bytes);
  }
  return found;
}

export const decidePromoteClones: DeciderOf<typeof promoteClones> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const subjects: Subject[] = [];
  const bytes = new Map<string, number>();
  for (const id of input.guestIds) {
    const guest = fleet.get('guest', id);
    if (!guest) return noSuch('guest');
    const shared = fleet.referring('volume', 'guestId', id).filter(({ baseId }) => baseId !== null);
    if (shared.length === 0)
      return refuse({
        code: 'not-dependent',
        field: 'guestIds',
        sentence: `${guest.name} shares no blocks: it is independent already.`,
      });
    for (const [pool, count] of promotionBytes(fleet, id))
      bytes.set(pool, (bytes.get(pool) ?? 0) + count);
    for (const volume of shared) draft.update('volume', volume.id, withAllBlocks(fleet, volume));
    for (const clone of fleet.referring('clone', 'guestId', id))
      draft.update('clone', clone.id, { copy: 'full' });
    subjects.push({ kind: 'guest', id, name: guest.name });
  }
  if (subjects.length === 0)
    return refuse({
      code: 'none-chosen',
      field: 'guestIds',
      sentence: 'Choose the clones to promote.',
    });
  return {
    draft,
    title: `made ${fewNames(subjects.map(({ name }) => name))} independent of ${subjects.length === 1 ? 'its base' : 'their bases'}`,
    subjects,
    objections: noRoom(fleet, bytes),
  };
};

/** What it has written itself and what its base has; what is not known of one of them is not known of both. */
function withAllBlocks(fleet: Fleet, volume: Row<'volume'>) {
  const base = fleet.need('volume', volume.baseId!);
  const known = volume.usedBytes !== null && base.usedBytes !== null;
  return {
    baseId: null,
    usedBytes: known ? Math.min(volume.bytes, volume.usedBytes! + base.usedBytes!) : null,
  };
}

function noRoom(fleet: Fleet, bytes: ReadonlyMap<string, number>): Refusal[] {
  return [...bytes].flatMap(([poolId, wanted]) => {
    const { free } = poolFigures(fleet, poolId);
    if (free.value >= wanted) return [];
    return [
      objection({
        code: 'no-room-to-promote',
        field: 'guestIds',
        sentence: `${formatBinary(wanted)} would be copied within pool ${fleet.need('pool', poolId).name}, ${formatBinary(Math.max(0, free.value))} are really free there.`,
        remedy: 'Make room, or promote fewer.',
        figure: free,
      }),
    ];
  });
}
