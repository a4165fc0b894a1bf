import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

/** A volume's data has been deleted: a deed in the world, its room is free again. */
export const deleteVolume = change({
  type: 'volume.delete',
  title: 'Record that the volume was deleted',
  carried: 'by hand',
  undoable: false,
  alters: ['id'],
  input: { id: ref('volume') },
});

export const decideDeleteVolume: DeciderOf<typeof deleteVolume> = (fleet, { id }, context) => {
  const volume = fleet.get('volume', id);
  if (!volume) return noSuch('volume');
  const guest = fleet.need('guest', volume.guestId);
  const draft = draftOf(fleet, context);
  // Settled migrations no longer need to know which pool it came from; an open one keeps the volume in the record.
  for (const move of fleet.referring('volumeMove', 'volumeId', volume.id)) {
    const { state } = fleet.need('migration', move.migrationId);
    if (state === 'accepted' || state === 'rolled back') draft.remove('volumeMove', move.id);
  }
  draft.remove('volume', volume.id);
  return {
    draft,
    title: `recorded the deletion of ${volume.label} of ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
