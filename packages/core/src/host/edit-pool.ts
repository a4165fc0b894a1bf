import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  omittable,
  ref,
  refs,
  some,
  type DeciderOf,
} from '../record/index.js';
import { poolFields } from './record-pool.js';

/** `hostIds`, if given, says anew which hosts reach it. */
export const editPool = change({
  type: 'pool.edit',
  title: 'Edit the pool',
  alters: ['id'],
  input: {
    id: ref('pool'),
    ...some(fieldsOf('pool'), ...poolFields),
    hostIds: omittable(refs('host')),
  },
});

export const decideEditPool: DeciderOf<typeof editPool> = (
  fleet,
  { id, hostIds, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const pool = editFields(fleet, draft, 'pool', id, fields);
  if (isRefusal(pool)) return pool;
  if (hostIds) {
    const held = fleet.referring('poolReach', 'poolId', pool.id);
    for (const reach of held) {
      if (!hostIds.includes(reach.hostId)) draft.remove('poolReach', reach.id);
    }
    for (const hostId of new Set(hostIds)) {
      if (!held.some((reach) => reach.hostId === hostId))
        draft.create('poolReach', { poolId: pool.id, hostId });
    }
  }
  return {
    draft,
    title: `edited pool ${pool.name}`,
    subjects: [{ kind: 'pool', id: pool.id, name: pool.name }],
  };
};
