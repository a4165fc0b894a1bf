/** What a move alters for others: addresses kept or learnt, packets on the way, clocks, Insel itself. */
import { beforeEach, expect, it } from 'vitest';
import type { Change } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { checksOf, inselChecks } from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
});
const id = (name: string) => world.id('host', name);
const plan = (): Change => ({
  type: 'migration.plan',
  input: {
    guestId: world.id('guest', 'web'),
    targetHostId: id('tern'),
    targetPoolId: world.id('pool', 'tern-data'),
    running: false,
    linkBitsPerSecond: 1e9,
  },
  override: 'nobody looked yet',
});
const move = () => [...world.fleet.all('migration')].at(-1)!;
const check = (name: string) => checksOf(world.fleet, move()).find((one) => one.name === name);

it('where the target carries its network it keeps its address', () => {
  world.make(plan());
  expect(check('address')).toMatchObject({
    passed: true,
    sentence: 'It keeps 192.0.2.10: nobody has to learn another address.',
  });
});

it('where it does not, all who refer to it are named', () => {
  const [carried] = world.fleet
    .referring('virtualSwitch', 'hostId', id('tern'))
    .filter(({ networkId }) => networkId === world.id('network', 'shore'));
  world.make({ type: 'host.drop-switch', input: { id: carried!.id } });
  world.make({ type: 'service.record', input: { name: 'pages', what: 'other' } });
  const serviceId = world.id('service', 'pages');
  world.make({ type: 'provider.record', input: { serviceId, guestId: world.id('guest', 'web') } });
  world.make({ type: 'need.record', input: { serviceId, hostId: id('gannet') } });
  const [subnet] = world.fleet.all('subnet');
  world.make({
    type: 'subnet.edit',
    input: { id: subnet!.id, nameServers: ['192.0.2.10', '203.0.113.53'] },
  });
  world.make({
    type: 'route.record',
    input: {
      deviceId: world.id('device', 'gate'),
      destination: '198.51.100.0/24',
      via: '192.0.2.10',
    },
  });
  world.make(plan());
  expect(check('address')).toMatchObject({
    passed: false,
    advice: true,
    sentence:
      '192.0.2.10 cannot stay: tern does not carry its network. Who must learn another: the name servers or gateway of 192.0.2.0/24; routes to 198.51.100.0/24; 1 machine waiting for it at a start.',
    remedy: expect.stringContaining('300 s') as string,
  });
});

it('a switch that passes less than the way says so', () => {
  for (const [name, ip] of [
    ['gannet', '192.0.2.21'],
    ['tern', '192.0.2.22'],
  ] as const)
    world.make({
      type: 'address.set',
      input: { hostId: id(name), networkId: world.id('network', 'shore'), ip, assigned: true },
    });
  world.make({
    type: 'network.edit',
    input: { id: world.id('network', 'shore'), vlanId: 20, mtu: 9000 },
  });
  world.make(plan());
  expect(check('packet size')).toBeUndefined();
  world.make({ type: 'physical-switch.record', input: { name: 'core', mtu: 1500 } });
  world.make({
    type: 'physical-switch.set-ports',
    input: {
      id: world.id('physicalSwitch', 'core'),
      ports: [{ name: '1', taggedVlans: '20' }],
    },
  });
  const found = world.id('physicalSwitch', 'core');
  world.make({ type: 'physical-switch.edit', input: { id: found, mtu: 9216 } });
  expect(check('packet size')).toMatchObject({
    passed: true,
    sentence: 'core passes the 9000 of shore.',
  });
  world.make({ type: 'physical-switch.edit', input: { id: found, mtu: 1500 } });
  expect(check('packet size')).toMatchObject({
    passed: false,
    sentence: 'shore has an MTU of 9000, and core passes 1500: a ping works, the copy hangs.',
  });
});

it('by whose clock it goes there is known where the host needs a service of time', () => {
  world.make(plan());
  expect(check('clock')).toMatchObject({ passed: null, advice: true });
  world.make({ type: 'service.record', input: { name: 'ticks', what: 'time' } });
  world.make({
    type: 'need.record',
    input: { serviceId: world.id('service', 'ticks'), hostId: id('tern') },
  });
  expect(check('clock')).toMatchObject({
    passed: true,
    sentence: 'tern takes its time from ticks.',
  });
});

it('Insel itself is known by its address, on what moves and at either side', () => {
  world.make({
    type: 'address.set',
    input: {
      ...{ hostId: id('tern'), networkId: world.id('network', 'shore') },
      ...{ ip: '192.0.2.22', assigned: true },
    },
  });
  world.make(plan());
  const seen = (...own: string[]) =>
    inselChecks(world.fleet, move(), new Set(own)).map(({ sentence }) => sentence);
  expect(seen('192.0.2.10')).toEqual([
    'Insel runs on web: while it is down, nobody looks anything up or ticks here.',
  ]);
  expect(seen('192.0.2.22')[0]).toMatch(/^Insel runs on tern/);
  expect(seen('192.0.2.99', '127.0.0.1')).toEqual([]);
});
