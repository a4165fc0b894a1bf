/** Changes of a guest's parts: adapters, volumes, states. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { GUEST_STATE_FOLLOWS, stateEffects } from './index.js';
import { GUEST_STATES } from '../record/index.js';

let world: World;
let web: string;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10', 'in service', '02:00:00:00:00:0a'));
  web = world.id('guest', 'web');
});
const shore = () => world.id('network', 'shore');
const adapters = () =>
  world.fleet.referring('adapter', 'guestId', web).sort((a, b) => a.position - b.position);
const ips = (adapterId: string) =>
  world.fleet.referring('address', 'adapterId', adapterId).map((row) => row.ip);

describe('adapters', () => {
  it('one more stands last, with a MAC of its own and the next free address', () => {
    const decision = world.make({
      type: 'adapter.add',
      input: { guestId: web, networkId: shore(), address: { as: 'next' } },
    });
    const [, second] = adapters();
    expect(second).toMatchObject({ position: 1, macAssigned: true });
    // Locally administered, unicast: second hexadecimal digit 2, 6, a or e (IEEE Std 802, section 8).
    expect(second!.mac).toMatch(/^[0-9a-f][26ae]:/);
    expect(ips(second!.id)).toEqual(['192.0.2.2']);
    expect(decision.title).toBe('gave web adapter 2 on shore, 192.0.2.2');
  });
  it('a found MAC may be double; a given one is read in any notation', () => {
    world.make({
      type: 'adapter.add',
      input: { guestId: web, networkId: shore(), mac: '0200.0000.000A', address: { as: 'none' } },
    });
    expect(adapters().map((adapter) => [adapter.mac, adapter.macAssigned])).toEqual([
      ['02:00:00:00:00:0a', false],
      ['02:00:00:00:00:0a', false],
    ]);
    expect(
      world.try({
        type: 'adapter.add',
        input: { guestId: web, networkId: shore(), mac: '02:00:00:00:00', address: { as: 'none' } },
      }),
    ).toMatchObject({ code: 'bad-mac', field: 'mac' });
  });
  it('an empty MAC asks for a generated one; a group address is no MAC of an adapter', () => {
    const [first] = adapters();
    world.make({ type: 'adapter.edit', input: { id: first!.id, mac: '' } });
    expect(adapters()[0]).toMatchObject({ macAssigned: true });
    expect(adapters()[0]!.mac).not.toBe('02:00:00:00:00:0a');
    // IEEE Std 802: the lowest bit of the first octet says group.
    expect(
      world.try({ type: 'adapter.edit', input: { id: first!.id, mac: '01:00:5e:00:00:01' } }),
    ).toMatchObject({ code: 'bad-mac' });
  });
  it('two are changed over: networks go, addresses and MACs stay', () => {
    world.make({
      type: 'network.record',
      input: { name: 'inner', subnet: { prefix: '198.51.100.0/24' } },
    });
    world.make({
      type: 'adapter.add',
      input: { guestId: web, networkId: world.id('network', 'inner'), address: { as: 'next' } },
    });
    const [a, b] = adapters();
    world.make({ type: 'adapter.swap', input: { aId: a!.id, bId: b!.id } });
    expect(adapters().map((adapter) => adapter.networkId)).toEqual([b!.networkId, a!.networkId]);
    expect([ips(a!.id), ips(b!.id)]).toEqual([['192.0.2.10'], ['198.51.100.2']]);
    world.make(world.found('other', 'tern', 512, '192.0.2.30'));
    const stranger = world.fleet.referring('adapter', 'guestId', world.id('guest', 'other'))[0]!;
    expect(
      world.try({ type: 'adapter.swap', input: { aId: a!.id, bId: stranger.id } }),
    ).toMatchObject({
      code: 'of-two-guests',
    });
  });
  it('one that is taken gives its address back', () => {
    const [first] = adapters();
    world.make({ type: 'adapter.remove', input: { id: first!.id } });
    expect([
      adapters(),
      [...world.fleet.all('address')].some((row) => row.ip === '192.0.2.10'),
    ]).toEqual([[], false]);
  });
});

describe('the order of adapters', () => {
  it('is put anew, all of them named once', () => {
    world.make({
      type: 'adapter.add',
      input: { guestId: web, networkId: null, address: { as: 'none' } },
    });
    const [a, b] = adapters();
    world.make({ type: 'adapter.order', input: { guestId: web, ids: [b!.id, a!.id] } });
    expect(adapters().map((adapter) => adapter.id)).toEqual([b!.id, a!.id]);
    expect(
      world.try({ type: 'adapter.order', input: { guestId: web, ids: [a!.id] } }),
    ).toMatchObject({
      code: 'not-all',
    });
  });
});

describe('states that may follow', () => {
  const effects = () =>
    Object.fromEntries(
      stateEffects(world.fleet, world.fleet.need('guest', web)).map(({ state, effect }) => [
        state,
        effect,
      ]),
    );
  it('say what they free: 2 GiB with 181 MiB of overhead, 2 vCPU', () => {
    // 128 + 2 · 8 + 16 + 1 % of 2,048, rounded up, is 181.
    expect(effects()).toEqual({
      stopped:
        'keeps disk, addresses and MACs, and its memory still counts: somebody will start it',
      retired:
        'frees 2.2 GiB and 2 vCPU of gannet; its volumes keep 46.6 GiB until their deletion is recorded',
    });
    world.make({ type: 'guest.edit', input: { id: web, heldWhenStopped: false } });
    expect(effects().stopped).toBe(
      'frees 2.2 GiB and 2 vCPU of gannet; keeps disk, addresses and MACs',
    );
    world.make({ type: 'guest.set-state', input: { id: web, state: 'stopped' } });
    expect(effects().retired).toContain('frees nothing more on its host');
  });
  it('say what is missing before service', () => {
    world.make(world.plan('new', 'tern', 1024));
    const id = world.id('guest', 'new');
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'tern'), state: 'maintenance' },
    });
    const [, service] = stateEffects(world.fleet, world.fleet.need('guest', id));
    expect(service!.effect).toContain('but tern is maintenance, and no first check is ticked yet');
  });
});

describe('volumes', () => {
  const pool = () => world.id('pool', 'gannet-data');
  it('of a guest that runs go in as they are; of a planned one they need room', () => {
    world.make({
      type: 'volume.add',
      input: { guestId: web, poolId: pool(), bytes: 5e12, label: 'found large' },
    });
    world.make({ ...world.plan('next', 'tern', 512) } as never);
    const next = world.id('guest', 'next');
    expect(
      world.try({
        type: 'volume.add',
        input: { guestId: next, poolId: world.id('pool', 'tern-data'), bytes: 5e12, label: 'wish' },
      }),
    ).toMatchObject({ code: 'no-storage' });
    const small = world.fleet.referring('volume', 'guestId', next)[0]!;
    expect(world.try({ type: 'volume.edit', input: { id: small.id, bytes: 5e12 } })).toMatchObject({
      code: 'no-storage',
    });
  });
  it('are deleted when that is recorded; an open migration keeps them', () => {
    const held = world.fleet.referring('volume', 'guestId', web)[0]!;
    world.make({
      type: 'migration.plan',
      input: {
        guestId: web,
        targetHostId: world.id('host', 'tern'),
        targetPoolId: world.id('pool', 'tern-data'),
        running: false,
        linkBitsPerSecond: 1e9,
      },
    });
    expect(world.try({ type: 'volume.delete', input: { id: held.id } })).toHaveProperty('code');
    world.make({
      type: 'migration.step',
      input: { id: [...world.fleet.all('migration')][0]!.id, step: 'roll back' },
    });
    world.make({ type: 'volume.delete', input: { id: held.id } });
    expect(world.fleet.referring('volume', 'guestId', web)).toEqual([]);
  });
});

describe('states', () => {
  const way: Record<string, string[]> = {
    planned: [],
    building: ['building'],
    'in service': ['in service'],
    stopped: ['in service', 'stopped'],
    retired: ['retired'],
  };
  it.each(
    GUEST_STATES.flatMap((from) =>
      GUEST_STATES.filter((to) => to !== from).map((to) => [from, to] as const),
    ),
  )('%s to %s follows the table', (from, to) => {
    world.make(world.plan('fresh', 'tern', 512));
    const id = world.id('guest', 'fresh');
    for (const state of way[from]!)
      world.make({ type: 'guest.set-state', input: { id, state: state as never } });
    const decided = world.try({ type: 'guest.set-state', input: { id, state: to } });
    if (GUEST_STATE_FOLLOWS[from].includes(to)) expect(decided).not.toHaveProperty('code');
    else
      expect(decided).toMatchObject({
        code: 'state-cannot-follow',
        sentence: `A guest that is ${from} does not become ${to}.`,
      });
  });
});

describe('an edit', () => {
  it.each([
    [{ name: 'web_1' }, 'bad-name'],
    [{ hostId: 'nowhere' }, 'no-such-record'],
    [{ vcpu: 0 }, 'bad-value'],
    [{ memoryMiB: 1.5 }, 'bad-value'],
    [{ startSeconds: -1 }, 'bad-value'],
    [{ state: 'retired' }, 'unknown-field'],
  ])('%o is refused as %s', (fields, code) =>
    expect(world.try({ type: 'guest.edit', input: { id: web, ...fields } })).toMatchObject({
      code,
    }),
  );
  it('of a running guest records what is, even without room', () => {
    world.make({ type: 'guest.edit', input: { id: web, memoryMiB: 64 * 1024 } });
    expect(world.fleet.need('guest', web).memoryMiB).toBe(64 * 1024);
  });
});
