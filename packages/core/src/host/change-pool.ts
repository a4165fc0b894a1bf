import {
  draftOf,
  editFields,
  isRefusal,
  type ChangeBase,
  type Decider,
  type NewFields,
  type Values,
} from '../record/index.js';

/** Records a pool that one or several hosts reach. */
export interface RecordPool extends ChangeBase {
  type: 'pool.record';
  fields: NewFields<'pool'>;
  hostIds: string[];
}

export const recordPool: Decider<RecordPool> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const poolId = draft.create('pool', change.fields);
  for (const hostId of new Set(change.hostIds)) draft.create('poolReach', { poolId, hostId });
  return {
    draft,
    title: `recorded pool ${String(change.fields.name)}`,
    subjects: [{ kind: 'pool', id: poolId, name: String(change.fields.name) }],
  };
};

const POOL_FIELDS = [
  'name',
  'usableBytes',
  'promiseLimitPercent',
  'arrayId',
  'diskId',
  'remote',
  'serverGuestId',
  'copies',
  'fillAlarmPercent',
  'usedBytes',
  'notes',
  'labels',
  'owner',
];

/** Edits a pool; `hostIds`, if given, says anew which hosts reach it. */
export interface EditPool extends ChangeBase {
  type: 'pool.edit';
  id: string;
  fields: Values;
  hostIds?: string[];
}

export const editPool: Decider<EditPool> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const pool = editFields(fleet, draft, 'pool', change.id, change.fields, POOL_FIELDS);
  if (isRefusal(pool)) return pool;
  if (change.hostIds) {
    const now = fleet.referring('poolReach', 'poolId', pool.id);
    for (const reach of now)
      if (!change.hostIds.includes(reach.hostId)) draft.remove('poolReach', reach.id);
    for (const hostId of change.hostIds)
      if (!now.some((reach) => reach.hostId === hostId))
        draft.create('poolReach', { poolId: pool.id, hostId });
  }
  return {
    draft,
    title: `edited pool ${pool.name}`,
    subjects: [{ kind: 'pool', id: pool.id, name: pool.name }],
  };
};
