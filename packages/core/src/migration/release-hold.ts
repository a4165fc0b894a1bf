import { change, draftOf, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';

/** The disks kept after a migration have been erased: a deed in the world. */
export const releaseHold = change({
  type: 'hold.release',
  title: 'Record that the kept disks were erased',
  carried: 'by hand',
  undoable: false,
  alters: ['id'],
  input: { id: ref('hold') },
});

export const decideReleaseHold: DeciderOf<typeof releaseHold> = (fleet, { id }, context) => {
  const hold = fleet.get('hold', id);
  if (!hold || !hold.poolId) return noSuch('hold');
  const migration = fleet.need('migration', hold.migrationId);
  const guest = fleet.need('guest', migration.guestId);
  if (hold.until === null) {
    return refuse({
      code: 'still-needed',
      sentence: `The migration of ${guest.name} is not settled: this room is the way back.`,
      remedy: 'Accept the migration or roll it back first.',
    });
  }
  const draft = draftOf(fleet, context);
  draft.remove('hold', hold.id);
  const pool = fleet.need('pool', hold.poolId).name;
  return {
    draft,
    title: `recorded the deletion of ${guest.name}'s disks on pool ${pool}`,
    subjects: [{ kind: 'migration', id: migration.id, name: guest.name }],
  };
};
