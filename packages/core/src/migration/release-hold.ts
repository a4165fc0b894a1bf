import {
  change,
  draftOf,
  noSuch,
  ref,
  refuse,
  type DeciderOf,
  type Subject,
} from '../record/index.js';

/** What was kept after a migration has been erased: disks of a guest, or a computer whole. A deed in the world. */
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
  if (!hold || hold.hostId) return noSuch('hold');
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
  const subjects: Subject[] = [{ kind: 'migration', id: migration.id, name: guest.name }];
  const device = fleet.get('device', hold.deviceId);
  if (device) {
    draft.update('device', device.id, { state: 'retired' });
    return {
      draft,
      title: `recorded that the disks of ${device.name} were erased, and retired it`,
      subjects: [...subjects, { kind: 'device', id: device.id, name: device.name }],
    };
  }
  // Of a guest that lives on a computer now the volumes themselves were kept.
  if (migration.targetHostId === null)
    for (const move of fleet.referring('volumeMove', 'migrationId', migration.id)) {
      if (move.fromPoolId !== hold.poolId) continue;
      draft.remove('volumeMove', move.id);
      draft.remove('volume', move.volumeId);
    }
  const pool = fleet.need('pool', hold.poolId!).name;
  return {
    draft,
    title: `recorded the deletion of ${guest.name}'s disks on pool ${pool}`,
    subjects,
  };
};
