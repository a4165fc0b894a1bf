/**
 * Plans of the observatory: one that can be carried out, one that stands on it, one that the record has overtaken, a
 * round of work, a host that takes another's place. All invented.
 */
import {
  rearranged,
  rearrangeProblem,
  solveRearrangement,
  stopAsk,
  type Change,
  type RearrangeAsk,
} from '@insel/core';
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
  await drawRound();
  await drawReplacement();

  /** The first stop of a round: razorbill is emptied, as *Work at hosts in turn* finds it. */
  async function drawRound(): Promise<void> {
    const ask: RearrangeAsk = stopAsk(
      {
        groupId: fleet.need('host', host).groupId,
        hostIds: [host],
        ...{ returns: true, workMinutes: 45, linkBitsPerSecond: 1e9 },
        platformId: null,
      },
      host,
    );
    const { problem, unmovable } = rearrangeProblem(fleet, ask);
    const found = rearranged(
      ...([fleet, ask, problem, solveRearrangement(problem), unmovable] as const),
    );
    if (found.moves.length === 0) return;
    await make({
      type: 'plan.draw-moves',
      input: {
        name: 'Patch round, razorbill first',
        purpose: 'razorbill is emptied, takes the new release in 45 minutes, and its guests back.',
        linkBitsPerSecond: 1e9,
        moves: found.moves.map(({ guestId, toHostId, toPoolId, running, why }) => ({
          ...{ guestId, targetHostId: toHostId, targetPoolId: toPoolId, running, remark: why },
        })),
      },
    });
  }

  /** puffin is ready at last, and takes over what the oldest host of the group carries. */
  async function drawReplacement(): Promise<void> {
    const puffin = id('host', 'puffin');
    const planId = await begin(
      'puffin for razorbill',
      'puffin stands in the rack; what razorbill carries goes there, and razorbill retires.',
    );
    await draw(
      planId,
      { type: 'host.edit', input: { id: puffin, state: 'in service' } },
      { day: '2026-12-07', person: 'planner', byHand: true, remark: 'two people, rails first' },
    );
    const [own] = fleet.referring('poolReach', 'hostId', puffin);
    for (const guest of fleet.referring('guest', 'hostId', host)) {
      if (guest.state !== 'in service' && guest.state !== 'stopped') continue;
      await draw(planId, {
        type: 'migration.plan',
        input: {
          ...{ guestId: guest.id, targetHostId: puffin, targetPoolId: own?.poolId ?? null },
          ...{ running: false, linkBitsPerSecond: 1e9 },
        },
      });
    }
  }
}
