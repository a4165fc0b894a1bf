import {
  beginning,
  change,
  draftOf,
  fieldsOf,
  refs,
  without,
  type DeciderOf,
} from '../record/index.js';

export const poolFields = without(fieldsOf('pool'), 'confirmedAt', 'confirmedBy');

/** A pool that one or several hosts reach. */
export const recordPool = change({
  type: 'pool.record',
  title: 'Record a pool',
  input: { ...beginning(fieldsOf('pool'), ...poolFields), hostIds: refs('host') },
});

export const decideRecordPool: DeciderOf<typeof recordPool> = (
  fleet,
  { hostIds, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const poolId = draft.create('pool', fields);
  for (const hostId of new Set(hostIds)) draft.create('poolReach', { poolId, hostId });
  return {
    draft,
    title: `recorded pool ${fields.name}`,
    subjects: [{ kind: 'pool', id: poolId, name: fields.name }],
  };
};
