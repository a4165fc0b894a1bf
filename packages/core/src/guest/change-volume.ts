import { roomObjections } from '../host/room.js';
import {
  draftOf,
  editFields,
  isRefusal,
  noSuch,
  object,
  type ChangeBase,
  type Decider,
  type Fleet,
  type Refusal,
  type Row,
  type Values,
} from '../record/index.js';

/** Edits a volume. Growing one of a planned guest needs room in its pool. */
export interface EditVolume extends ChangeBase {
  type: 'volume.edit';
  id: string;
  fields: Values;
}

export const editVolume: Decider<EditVolume> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const volume = editFields(fleet, draft, 'volume', change.id, change.fields, [
    'label',
    'bytes',
    'thin',
    'poolId',
    'bus',
    'use',
    'split',
    'usedBytes',
  ]);
  if (isRefusal(volume)) return volume;
  const guest = fleet.need('guest', volume.guestId);
  const poolId = String(change.fields.poolId ?? volume.poolId);
  const planning = guest.state === 'planned' || guest.state === 'building';
  const sound =
    fleet.get('pool', poolId) && Number.isSafeInteger(change.fields.bytes ?? volume.bytes);
  return {
    draft,
    title: `edited ${volume.label} of ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections: [
      ...baseObjections(fleet, volume, change.fields),
      ...(planning && sound
        ? roomObjections(fleet, draft.patches(), { hosts: [], pools: [poolId] })
        : []),
    ],
  };
};

/** What dependent clones share may neither grow nor move. */
function baseObjections(fleet: Fleet, volume: Row<'volume'>, fields: Values): Refusal[] {
  const dependents = fleet.referringCount('volume', 'baseId', volume.id);
  if (dependents === 0 || (fields.bytes === undefined && fields.poolId === undefined)) return [];
  return [
    object({
      code: 'is-a-base',
      field: fields.bytes === undefined ? 'poolId' : 'bytes',
      sentence: `${dependents} dependent ${dependents === 1 ? 'clone shares' : 'clones share'} the blocks of ${volume.label}: altering it breaks them.`,
      remedy: 'Make the clones whole first, or write why this one will do.',
    }),
  ];
}

/** Adds a volume to a guest. */
export interface AddVolume extends ChangeBase {
  type: 'volume.add';
  guestId: string;
  fields: {
    poolId: string;
    bytes: number;
    label: string;
    thin?: boolean;
    bus?: Row<'volume'>['bus'];
    use?: Row<'volume'>['use'];
    split?: boolean;
  };
}

export const addVolume: Decider<AddVolume> = (fleet, change, edge) => {
  const guest = fleet.get('guest', change.guestId);
  if (!guest) return noSuch('guest');
  const draft = draftOf(fleet, edge);
  draft.create('volume', { ...change.fields, guestId: guest.id });
  const planning =
    (guest.state === 'planned' || guest.state === 'building') &&
    fleet.get('pool', change.fields.poolId);
  return {
    draft,
    title: `added ${change.fields.label} to ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections: planning
      ? roomObjections(fleet, draft.patches(), { hosts: [], pools: [change.fields.poolId] })
      : [],
  };
};

/** Records that a volume's data has been deleted: a deed in the world, its room is free again. */
export interface DeleteVolume extends ChangeBase {
  type: 'volume.delete';
  id: string;
}

export const deleteVolume: Decider<DeleteVolume> = (fleet, change, edge) => {
  const volume = fleet.get('volume', change.id);
  if (!volume) return noSuch('volume');
  const guest = fleet.need('guest', volume.guestId);
  const draft = draftOf(fleet, edge);
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
