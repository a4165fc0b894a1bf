/**
 * A plan of what would be taken over as it is: four hosts of the boat house. To empty one of them two guests have to change places, and
 * there is room for neither of them first: one stops over. All invented.
 */
import { planFleet, type Change, type Fleet, type Kind } from '@insel/core';
import { contextAt } from '../record/context.js';
import { decideDrawn } from '../views/plans.js';
import type { Wirer } from './cabling.js';

const HOSTS = ['dunlin', 'knot', 'ruff', 'stint'];
/** Guest, host, GiB of memory, what for. */
const GUESTS: [string, string, number, string][] = [
  ['sea-ice', 'ruff', 12, 'pictures of the ice; its key is plugged into knot'],
  ['foam', 'ruff', 10, 'heights of waves; its card is in stint'],
  ['surf', 'knot', 20, 'breakers along the shore'],
  ['sound-map', 'dunlin', 11, 'depths of the sound'],
  ['swell', 'stint', 17, 'swell from the open sea'],
];
const PINNED: [string, string][] = [
  ['sea-ice', 'knot'],
  ['foam', 'stint'],
];

export async function writeBoatHouse({ make, fleet, id }: Wirer): Promise<void> {
  await make({
    type: 'plan.record',
    input: {
      name: 'Boat house',
      purpose:
        'What if its four hosts come to us as they are? To empty ruff, surf and sound-map have to change places, and neither goes first.',
      owner: 'planner',
    },
  });
  const planId = [...fleet.all('plan')].find(({ name }) => name === 'Boat house')!.id;
  const draw = ({ type, input }: Change) =>
    make({ type: 'plan-step.draw', input: { planId, type, input: JSON.stringify(input) } });
  const would = (): Fleet => {
    const who = { id: 'planner', name: 'planner', role: 'planner' as const };
    const context = contextAt('2026-11-20T08:00:00.000Z', who);
    return planFleet(fleet, planId, context, decideDrawn).would;
  };
  const drawn = (kind: Kind & ('host' | 'hostGroup' | 'pool' | 'guest'), name: string) =>
    [...would().all(kind)].find((row) => row.name === name)!.id;

  await draw({ type: 'host-group.record', input: { name: 'boat house', vcpuPerCore: 4 } });
  for (const name of HOSTS)
    await draw({
      type: 'host.record',
      input: {
        name,
        state: 'in service',
        siteId: id('site', 'Lighthouse annex'),
        platformId: id('platform', 'Generic bare-metal 1'),
        processorModel: 'Invented R1 3.1 GHz',
        sockets: 1,
        coresPerSocket: 8,
        threadsPerCore: 2,
        installedMiB: 32 * 1024,
        pools: [],
        networks: [{ networkId: id('network', 'annex-guests') }],
      },
    });
  const hostIds = HOSTS.map((name) => drawn('host', name));
  const groupId = drawn('hostGroup', 'boat house');
  await draw({ type: 'host.edit-many', input: { ids: hostIds, groupId } });
  await draw({
    type: 'pool.record',
    input: { name: 'slipway', usableBytes: 4e12, remote: 'shelf of the boat house', hostIds },
  });
  const poolId = drawn('pool', 'slipway');
  for (const [name, host, memory, purpose] of GUESTS)
    await draw({
      type: 'guest.record',
      input: {
        ...{ name, purpose, hostId: drawn('host', host), state: 'in service', family: 'Linux' },
        ...{ vcpu: 2, memoryMiB: memory * 1024 },
        volumes: [{ poolId, bytes: 50e9, label: 'system' }],
        adapters: [{ networkId: id('network', 'annex-guests'), address: { as: 'next' } }],
      },
    });
  for (const [guest, host] of PINNED)
    await draw({
      type: 'rule.set',
      input: {
        ...{ name: `${guest} stays at ${host}`, rule: 'pinned', hostId: drawn('host', host) },
        guestIds: [drawn('guest', guest)],
      },
    });
}
