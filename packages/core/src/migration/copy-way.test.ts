/** What only the simulator of reachability can say of a move: its copy's way, and where two systems of one machine would meet. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Change, Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { checksOf, reachCheck, systemsMeet } from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
});
const id = (name: string) => world.id('host', name);
const otherPlatform = () =>
  world.make({
    type: 'host.edit',
    input: { id: id('tern'), platformId: world.id('platform', 'Generic bare-metal 2, lean') },
  });
const plan = (more: Partial<Input<'migration.plan'>> = {}): Change => ({
  type: 'migration.plan',
  input: {
    guestId: world.id('guest', 'web'),
    targetHostId: id('tern'),
    targetPoolId: world.id('pool', 'tern-data'),
    running: false,
    linkBitsPerSecond: 1e9,
    ...more,
  },
  override: 'nobody looked yet',
});
const move = () => [...world.fleet.all('migration')].at(-1)!;
const check = (name: string) => checksOf(world.fleet, move()).find((one) => one.name === name);
const edit = (input: Partial<Input<'migration.edit'>>) =>
  world.make({ type: 'migration.edit', input: { id: move().id, ...input } });
/** A network that only one host carries, alone inside it. */
function inside(name: string, hosts: string[], prefix: string, mode: 'guests only' | 'bridged') {
  world.make({ type: 'network.record', input: { name, subnet: { prefix } } });
  const networkId = world.id('network', name);
  for (const host of hosts)
    world.make({ type: 'host.carry', input: { hostId: id(host), networkId, mode } });
  return networkId;
}
const adapterOf = (guest: string) =>
  world.fleet.referring('adapter', 'guestId', world.id('guest', guest))[0]!;
/** Both are managed in the network of the shore. */
const giveHosts = (...ips: string[]) =>
  ['gannet', 'tern'].forEach((name, i) =>
    world.make({
      type: 'address.set',
      input: {
        ...{ hostId: id(name), networkId: world.id('network', 'shore') },
        ...{ ip: ips[i]!, assigned: true },
      },
    }),
  );

describe('from host to host', () => {
  it('nothing is asked where they share no network', () => {
    world.make(plan());
    expect(check('reach')).toBeUndefined();
  });
  it('an address that is reached passes; one that is not says why', () => {
    giveHosts('192.0.2.21', '192.0.2.22');
    world.make(plan());
    expect(check('reach')).toMatchObject({
      passed: true,
      sentence: 'gannet reaches 192.0.2.22 of tern, as far as addressing and routing go.',
    });
    world.make({
      type: 'host.set-hardware',
      input: { hostId: id('tern'), hardware: { ports: [{ name: 'p1' }] } },
    });
    const [port] = world.fleet.referring('port', 'hostId', id('tern'));
    world.make({ type: 'port.edit', input: { id: port!.id, up: false } });
    expect(check('reach')).toMatchObject({
      passed: false,
      advice: true,
      sentence: expect.stringMatching(/^gannet does not reach 192\.0\.2\.22 of tern: /) as string,
    });
  });
  it('one host asks nothing of itself', () =>
    expect(reachCheck(world.fleet, { sourceHostId: id('tern'), targetHostId: id('tern') })).toEqual(
      [],
    ));
});

describe('a copying environment', () => {
  beforeEach(otherPlatform);
  it('is nobody’s concern between hosts of one platform, or by an intermediate disk', () => {
    world.make(plan({ method: 'intermediate disk' }));
    expect(check('copying environment')).toBeUndefined();
  });
  it('without addresses it is said what would do, and never passed', () => {
    world.make(plan());
    expect(check('copying environment')).toMatchObject({
      passed: null,
      field: 'copyFromIp',
      sentence: expect.stringMatching(
        /^Nobody said what the copying environment is configured with; 192\.0\.2\.10 \(its own\) and 192\.0\.2\.\d+ \(free now\) would reach each other\.$/,
      ) as string,
    });
  });
  it('the machine’s own address serves its environment: the machine itself is off', () => {
    world.make(plan());
    edit({ copyFromIp: '192.0.2.10', copyToIp: '192.0.2.30' });
    expect(check('copying environment')).toMatchObject({
      passed: true,
      sentence: 'The copying environment is 192.0.2.10 and 192.0.2.30: they reach each other.',
    });
  });
  it.each([
    ['198.51.100.4', '198.51.100.4 lies in no subnet of shore'],
    ['192.0.2.11', '192.0.2.11 is another machine'],
  ])('%s is refused: %s', (copyToIp, sentence) => {
    world.make(world.found('mail', 'gannet', 512, '192.0.2.11'));
    world.make(plan());
    edit({ copyFromIp: '192.0.2.30', copyToIp });
    expect(check('copying environment')).toMatchObject({
      passed: false,
      field: 'copyToIp',
      sentence: expect.stringContaining(sentence) as string,
    });
  });
  it('two networks that nothing joins do not reach each other, and it says why', () => {
    const networkId = inside('quay', ['gannet', 'tern'], '198.51.100.0/24', 'guests only');
    world.make({ type: 'adapter.edit', input: { id: adapterOf('web').id, networkId } });
    world.make(plan());
    edit({ copyFromIp: '198.51.100.5', copyToIp: '198.51.100.6' });
    expect(check('copying environment')).toMatchObject({
      passed: false,
      sentence:
        'The copying environment at 198.51.100.5 and 198.51.100.6: they do not reach each other: nobody answers on the segment.',
    });
  });
});

describe('two systems of one machine', () => {
  it('meet in a network that both hosts are joined to', () => {
    world.make(plan());
    expect(systemsMeet(world.fleet, move())).toBe('both would be in shore');
  });
  it('do not meet where each host has the network for itself', () => {
    const networkId = inside('quay', ['gannet', 'tern'], '198.51.100.0/24', 'guests only');
    world.make({ type: 'adapter.edit', input: { id: adapterOf('web').id, networkId } });
    world.make(plan());
    expect(systemsMeet(world.fleet, move())).toBeNull();
    // Nothing keeps the first start then, though the source may be on.
    const step = (key: string) =>
      world.fleet.referring('moveStep', 'migrationId', move().id).find((one) => one.key === key)!
        .id;
    const tick = (key: string) =>
      world.make({
        type: 'migration.tick',
        input: { stepIds: [step(key)], state: 'done' },
        override: 'as an exercise',
      });
    tick('copied');
    tick('first-start');
    expect(move().state).toBe('switched');
  });
  it('do not meet while its adapters are disconnected', () => {
    world.make({ type: 'adapter.edit', input: { id: adapterOf('web').id, connected: false } });
    world.make(plan());
    expect(systemsMeet(world.fleet, move())).toBeNull();
  });
  it('of which nobody recorded how they are joined may meet', () => {
    world.make({ type: 'adapter.remove', input: { id: adapterOf('web').id } });
    world.make(plan());
    expect(systemsMeet(world.fleet, move())).toBe(
      'nobody recorded what the system on gannet is joined to',
    );
  });
  it('meet through a router, and it is named', () => {
    const networkId = inside('quay', ['tern'], '198.51.100.0/24', 'bridged');
    const subnet = world.fleet.referring('subnet', 'networkId', networkId)[0]!;
    world.make({
      type: 'device.set-ports',
      input: {
        id: world.id('device', 'gate'),
        ports: [
          {
            name: 'inner',
            networkId: world.id('network', 'shore'),
            addresses: [{ ip: '192.0.2.1' }],
          },
          { name: 'outer', networkId, addresses: [{ ip: '198.51.100.1' }] },
        ],
      },
    });
    world.make({ type: 'subnet.edit', input: { id: subnet.id, gateway: '198.51.100.1' } });
    otherPlatform();
    world.make(plan());
    expect(check('rehearsal')?.sentence).toBe(
      'A rehearsal stays disconnected: every network that tern carries reaches those of the source.',
    );
  });
  it('where nobody recorded how the source is joined, a rehearsal stays disconnected', () => {
    inside('bench', ['tern'], '203.0.113.0/28', 'guests only');
    world.make({ type: 'adapter.remove', input: { id: adapterOf('web').id } });
    otherPlatform();
    world.make(plan());
    expect(check('rehearsal')).toMatchObject({
      passed: null,
      sentence: 'Nobody recorded what gannet joins it to: a rehearsal stays disconnected.',
    });
  });
  it('a rehearsal may be connected to what reaches nothing of the source', () => {
    inside('bench', ['tern'], '203.0.113.0/28', 'guests only');
    otherPlatform();
    world.make(plan());
    expect(check('rehearsal')).toMatchObject({
      passed: true,
      sentence:
        'A rehearsal may be connected to bench of tern: nothing there reaches the networks of the source.',
    });
  });
});
