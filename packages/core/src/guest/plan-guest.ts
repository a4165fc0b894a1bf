import { roomObjections } from '../host/index.js';
import { change, draftOf, isRefusal, omittable, refs, type DeciderOf } from '../record/index.js';
import { draftGuest, partsOf } from './draft-guest.js';
import { guestInput } from './guest-input.js';

/** Its place must have room; its name, MACs and addresses are given out. */
export const planGuest = change({
  type: 'guest.plan',
  title: 'Plan a guest',
  input: {
    ...guestInput,
    /** Rules of placement that it joins. */
    ruleIds: omittable(refs('placementRule', 16)),
  },
});

export const decidePlanGuest: DeciderOf<typeof planGuest> = (fleet, input, context) => {
  const { ruleIds = [], ...guest } = input;
  const { fields, ...parts } = partsOf(guest);
  const draft = draftOf(fleet, context);
  const planned = { ...parts, fields: { ...fields, state: 'planned' as const } };
  const drafted = draftGuest(fleet, draft, context, planned, true);
  if (isRefusal(drafted)) return drafted;
  for (const ruleId of ruleIds) {
    draft.create('placementMember', { ruleId, guestId: drafted.guestId });
  }
  const host = fleet.need('host', input.hostId);
  const pools = input.volumes.map((volume) => volume.poolId);
  const sound = pools.every((id) => fleet.get('pool', id)) && Number.isSafeInteger(input.memoryMiB);
  const room = sound ? roomObjections(fleet, draft.patches(), { hosts: [host.id], pools }) : [];
  const name = input.name.trim();
  return {
    draft,
    title: `planned guest ${name} on ${host.name}`,
    subjects: [{ kind: 'guest', id: drafted.guestId, name }],
    objections: [...room, ...drafted.objections],
  };
};
