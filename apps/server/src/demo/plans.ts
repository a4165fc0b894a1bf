/** Plans of the observatory: one that can be carried out, one that stands on it, one that the record has overtaken. All invented. */
import type { Change } from '@insel/core';
import type { Wirer } from './cabling.js';

export async function writePlans({ make, fleet, id }: Wirer): Promise<void> {
  const begin = async (name: string, purpose: string): Promise<string> => {
    await make({ type: 'plan.record', input: { name, purpose, owner: 'planner' } });
    return [...fleet.all('plan')].find((plan) => plan.name === name)!.id;
  };
  const draw = (
    planId: string,
    { type, input }: Change,
    more: { day?: string; person?: string; remark?: string; byHand?: boolean } = {},
  ) =>
    make({
      type: 'plan-step.draw',
      input: { planId, type, input: JSON.stringify(input), ...more },
    });

  const storms = await begin('Before the storms', 'The gauges write more from December on.');
  const host = id('host', 'razorbill');
  const [reach] = fleet.referring('poolReach', 'hostId', host);
  await draw(
    storms,
    {
      type: 'guest.plan',
      input: {
        name: 'tide-cache',
        hostId: host,
        family: 'Linux',
        purpose: 'keeps the newest readings at hand',
        vcpu: 2,
        memoryMiB: 8192,
        volumes: [{ poolId: reach!.poolId, bytes: 60e9 }],
        adapters: [{ networkId: id('network', 'harbour-guests'), address: { as: 'next' } }],
      },
    },
    { day: '2026-12-02', person: 'planner' },
  );
  await draw(
    storms,
    { type: 'guest.edit', input: { id: id('guest', 'tide-api'), vcpu: 6 } },
    { day: '2026-12-02', remark: 'after the cache answers' },
  );
  await draw(storms, {
    type: 'guest.edit',
    input: { id: id('guest', 'tide-db'), memoryMiB: 96 * 1024 },
  });

  const modules = await begin(
    'More memory in razorbill',
    'Two modules more, so that the tides have room when the storms come.',
  );
  await make({
    type: 'plan.edit',
    input: { id: modules, onPlanId: storms, needsApproval: true },
  });
  await draw(
    modules,
    {
      type: 'host.edit',
      input: { id: host, notes: 'Two modules of 32 GiB more, in slots 5 and 6.' },
    },
    { byHand: true, person: 'planner', remark: 'one person, ten minutes, with an earth strap' },
  );
  await draw(modules, {
    type: 'guest.edit',
    input: { id: id('guest', 'tide-db'), memoryMiB: 112 * 1024 },
  });

  const watch = await begin('Night watch', 'What must run at night stands in one group.');
  await draw(watch, { type: 'guest-group.record', input: { name: 'night watch' } });
  await draw(watch, { type: 'guest.edit', input: { id: id('guest', 'ledger'), owner: 'watch' } });
  await make({ type: 'guest-group.record', input: { name: 'night watch' } });
}
