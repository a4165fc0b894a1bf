/** Clones: names, addresses, what they take from their origin, identity ticked off. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { headroom } from '../host/headroom.js';
import { IDENTITY_ITEMS } from '../record/index.js';
import type { ChangeOf, Input } from '../change/index.js';
import { MOST_CLONES } from './index.js';
import { INHERITANCE } from './inheritance.js';

type MakeClones = Input<'clone.make'>;

let world: World;
let origin: string;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
  origin = world.id('guest', 'master');
});
const make = (more: Partial<MakeClones> = {}): ChangeOf<'clone.make'> => ({
  type: 'clone.make',
  input: {
    originId: origin,
    copy: 'full',
    pattern: 'reader-##',
    start: 1,
    taking: 'run',
    clones: [{}, {}],
    ...more,
  },
});
const made = () =>
  [...world.fleet.all('clone')].map((clone) => world.fleet.need('guest', clone.guestId));
const addressOf = (guestId: string) =>
  world.fleet
    .referring('adapter', 'guestId', guestId)
    .flatMap((adapter) => world.fleet.referring('address', 'adapterId', adapter.id))
    .map((row) => row.ip);

const places = () =>
  made().map((guest) => [guest.name, world.fleet.need('host', guest.hostId).name].join(' on '));
const poolOf = (guestId: string) =>
  world.fleet
    .referring('volume', 'guestId', guestId)
    .map((volume) => world.fleet.need('pool', volume.poolId).name);

describe('a batch is spread', () => {
  beforeEach(() => {
    world.host('skua', 64);
    world.host('fulmar', 32, { networks: [] });
  });
  const room = (host: string) => headroom(world.fleet, world.id('host', host)).memory.value;
  it('beside its origin, where nothing is said', () => {
    world.make(make());
    expect(places()).toEqual(['reader-01 on gannet', 'reader-02 on gannet']);
  });
  it('to where most is left, each time, with a pool there; never where the network is not carried', () => {
    const before = { gannet: room('gannet'), tern: room('tern'), skua: room('skua') };
    const wanted = Object.entries(before).sort(([, a], [, b]) => b - a)[0]![0];
    world.make(make({ spread: 'room', clones: Array.from({ length: 6 }, () => ({})) }));
    expect(places()[0]).toBe(`reader-01 on ${wanted}`);
    expect(places().filter((place) => place.endsWith('fulmar'))).toEqual([]);
    const [most, least] = [Math.max, Math.min].map((of) =>
      of(...Object.keys(before).map((name) => room(name))),
    ) as [number, number];
    // Even, as far as they began even: what was fullest was given nothing it could be spared.
    expect(most - least).toBeLessThanOrEqual(
      Math.max(...Object.values(before)) - Math.min(...Object.values(before)),
    );
    for (const guest of made())
      expect(poolOf(guest.id)).toEqual([`${world.fleet.need('host', guest.hostId).name}-data`]);
  });
  it('one a host, in turns, among those that are named', () => {
    const among = ['tern', 'skua'].map((name) => world.id('host', name));
    world.make(make({ spread: 'one a host', among, clones: [{}, {}, {}, {}] }));
    const hosts = places().map((place) => place.split(' on ')[1]);
    expect(hosts.filter((host) => host === 'tern')).toHaveLength(2);
    expect(hosts.filter((host) => host === 'skua')).toHaveLength(2);
    expect(new Set(hosts.slice(0, 2)).size).toBe(2);
  });
  it('one host after the other, the origin’s first', () => {
    world.make({ type: 'guest.edit', input: { id: origin, memoryMiB: 4096 } });
    const fits = Math.floor(room('gannet') / 4224);
    world.make(make({ spread: 'fill', clones: Array.from({ length: fits + 1 }, () => ({})) }));
    const hosts = places().map((place) => place.split(' on ')[1]);
    expect(hosts[0]).toBe('gannet');
    expect(hosts.at(-1)).not.toBe('gannet');
    expect(hosts.lastIndexOf('gannet')).toBe(hosts.filter((host) => host === 'gannet').length - 1);
  });
  it('dependent clones only to hosts that reach the base', () => {
    world.make(make({ spread: 'room', copy: 'dependent', clones: [{}, {}, {}] }));
    expect(places().every((place) => place.endsWith('gannet'))).toBe(true);
  });
  it('and says how many have no room', () => {
    const among = [world.id('host', 'fulmar')];
    expect(world.try(make({ spread: 'room', among }))).toMatchObject({
      code: 'no-seat',
      field: 'spread',
      sentence:
        'There is room for 0 of 2 clones: no host of those chosen has memory, processors, networks and a pool for one more.',
    });
  });
  it('a host that is written stays, and names say where each is', () => {
    world.make(
      make({
        pattern: '{host}-w{n}',
        spread: 'one a host',
        among: ['tern', 'skua'].map((name) => world.id('host', name)),
        clones: [{ hostId: world.id('host', 'gannet') }, {}, {}],
      }),
    );
    expect(places()[0]).toBe('gannet-w1 on gannet');
    expect(places().slice(1).sort()).toEqual(['skua-w1 on skua', 'tern-w1 on tern']);
  });
  it.each([
    ['tide-{m}', 'bad-name'],
    ['tide-{1..1}', 'too-few-names'],
  ])('%s cannot name two', (pattern, code) =>
    expect(world.try(make({ pattern }))).toMatchObject({ code, field: 'pattern' }),
  );
});

describe('clones', () => {
  it('take size, family and disks of their origin, but name, MAC and address of their own', () => {
    world.make(make());
    expect(
      made().map((guest) => [guest.name, guest.state, guest.vcpu, guest.memoryMiB, guest.family]),
    ).toEqual([
      ['reader-01', 'planned', 2, 512, 'Linux'],
      ['reader-02', 'planned', 2, 512, 'Linux'],
    ]);
    expect(made().map((guest) => addressOf(guest.id))).toEqual([['192.0.2.2'], ['192.0.2.3']]);
    const macs = [...world.fleet.all('adapter')].map((adapter) => adapter.mac);
    expect(new Set(macs).size).toBe(macs.length);
    expect(
      made().map((guest) =>
        world.fleet.referring('volume', 'guestId', guest.id).map((volume) => volume.bytes),
      ),
    ).toEqual([[50e9], [50e9]]);
  });
  it('names that are taken are passed over; a written one is kept', () => {
    world.make(world.found('reader-01', 'tern', 512, '192.0.2.11'));
    world.make(make({ clones: [{}, { name: 'reader-02' }, {}] }));
    expect(made().map((guest) => guest.name)).toEqual(['reader-03', 'reader-02', 'reader-04']);
  });
  it('a run jumps over what is held; single addresses fill the gaps', () => {
    world.make(world.found('gap', 'tern', 512, '192.0.2.3'));
    world.make(make());
    expect(made().map((guest) => addressOf(guest.id))).toEqual([['192.0.2.4'], ['192.0.2.5']]);
    world.make(make({ pattern: 'single-#', taking: 'single' }));
    expect(
      made()
        .slice(2)
        .map((guest) => addressOf(guest.id)),
    ).toEqual([['192.0.2.2'], ['192.0.2.6']]);
  });
  it('may go to another host and pool, each', () => {
    world.make(
      make({
        clones: [
          { hostId: world.id('host', 'tern'), poolId: world.id('pool', 'tern-data') },
          { ip: '192.0.2.77' },
        ],
      }),
    );
    const [far, near] = made();
    expect([
      world.fleet.need('host', far!.hostId).name,
      world.fleet.need('host', near!.hostId).name,
    ]).toEqual(['tern', 'gannet']);
    expect(
      world.fleet
        .referring('volume', 'guestId', far!.id)
        .map((volume) => world.fleet.need('pool', volume.poolId).name),
    ).toEqual(['tern-data']);
    expect(addressOf(near!.id)).toEqual(['192.0.2.77']);
  });
  it('dependent ones are thin: they share the base', () => {
    world.make(make({ copy: 'dependent' }));
    expect(
      made()
        .flatMap((guest) => world.fleet.referring('volume', 'guestId', guest.id))
        .every((volume) => volume.thin),
    ).toBe(true);
  });
  it.each<[string, Partial<MakeClones>, object]>([
    ['of nobody', { originId: 'nobody' }, { code: 'not-found' }],
    ['none at all', { clones: [] }, { code: 'how-many', field: 'count' }],
    [
      'too many',
      { clones: Array.from({ length: MOST_CLONES + 1 }, () => ({})) },
      { code: 'how-many' },
    ],
    [
      'two of one name',
      { clones: [{ name: 'twin' }, { name: 'Twin' }] },
      { code: 'name-twice', field: 'clones.1.name' },
    ],
    [
      'a name that another has',
      { clones: [{}, { name: 'Gannet' }] },
      { code: 'name-taken', field: 'clones.1.name' },
    ],
    [
      'an address that another has',
      { clones: [{}, { ip: '192.0.2.10' }] },
      { code: 'address-taken', field: 'clones.1.ip' },
    ],
    [
      'one address for two',
      { clones: [{ ip: '192.0.2.77' }, { ip: '192.0.2.77' }] },
      { code: 'address-taken', field: 'clones.1.ip' },
    ],
    ['without a pattern', { pattern: ' ' }, { code: 'bad-name', field: 'pattern' }],
    [
      'with a name that cannot be',
      { clones: [{ name: 'under_score' }] },
      { code: 'bad-name', field: 'clones.0.name' },
    ],
    [
      'to a host that is not',
      { clones: [{}, { hostId: 'nowhere' }] },
      { field: 'clones.1.hostId' },
    ],
    ['with an address that is held', { clones: [{ ip: '192.0.2.10' }] }, {}],
  ])('%s are refused', (_, more, refusal) => {
    const decided = world.try(make(more));
    expect(decided).toMatchObject(refusal);
    expect(decided).toHaveProperty('sentence');
    expect(made()).toEqual([]);
  });
  it('of a planned guest have no disk to copy', () => {
    world.make(world.plan('later', 'tern', 512));
    expect(world.try(make({ originId: world.id('guest', 'later') }))).toMatchObject({
      code: 'origin-not-built',
      overridable: true,
    });
  });
});

describe('identity', () => {
  const items = () =>
    world.fleet.referring('identityItem', 'cloneId', [...world.fleet.all('clone')][0]!.id);
  it('is ticked off by name and time, and opened again', () => {
    world.make(make({ clones: [{}] }));
    expect(
      items()
        .map((item) => item.item)
        .sort(),
    ).toEqual([...IDENTITY_ITEMS].sort());
    const [first] = items();
    const decision = world.make({
      type: 'clone.tick',
      input: { itemIds: [first!.id], done: true, remark: 'by the first-boot script' },
    });
    expect(decision.title).toBe(`ticked ${first!.item} of reader-01`);
    expect(world.fleet.need('identityItem', first!.id)).toMatchObject({
      doneAt: world.now,
      doneBy: 'planner',
      remark: 'by the first-boot script',
    });
    world.make({ type: 'clone.tick', input: { itemIds: [first!.id], done: false } });
    expect(world.fleet.need('identityItem', first!.id)).toMatchObject({
      doneAt: null,
      doneBy: '',
      remark: 'by the first-boot script',
    });
  });
  it('of nothing is refused', () =>
    expect(world.try({ type: 'clone.tick', input: { itemIds: [], done: true } })).toHaveProperty(
      'code',
    ));
});

describe('what a clone takes from its origin', () => {
  /** An origin of which everything that can be said of a guest has been said. */
  const said = () => {
    world.make({ type: 'guest-group.record', input: { name: 'readers' } });
    world.make({ type: 'profile.record', input: { name: 'reader', family: 'Linux' } });
    world.make({ type: 'service.record', input: { name: 'names', what: 'names' } });
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'gannet'), virtualisation: 'on' },
    });
    world.make({
      type: 'guest.edit',
      input: {
        id: origin,
        template: true,
        purpose: 'reads the gauges',
        heldWhenStopped: false,
        processorMode: 'host',
        nestedVirtualisation: true,
        startSeconds: 95,
        domain: 'shore.example',
        profileId: world.id('profile', 'reader'),
        groupId: world.id('guestGroup', 'readers'),
        firmware: 'UEFI',
        graphics: 'basic',
        criticality: 'high',
        outageWindow: 'Sun 02:00-04:00',
        gateway: '192.0.2.1',
        gateway6: '2001:db8::1',
        noGateway: true,
        gatewayOnLink: true,
        forwards: true,
        labels: ['gauge'],
        owner: 'harbour master',
        notes: 'only of this one',
        endDate: '2027-06-30',
      },
    });
    const [adapter] = world.fleet.referring('adapter', 'guestId', origin);
    world.make({
      type: 'adapter.edit',
      input: {
        id: adapter!.id,
        connected: false,
        masquerade: true,
        masqueradeFrom: '192.0.2.0/25',
        model: 'emulated',
        nameInside: 'lan0',
      },
    });
    const [volume] = world.fleet.referring('volume', 'guestId', origin);
    world.make({
      type: 'volume.edit',
      input: { id: volume!.id, bus: 'SATA', usedBytes: 3e9 },
    });
    world.make({
      type: 'route.record',
      input: { guestId: origin, destination: '198.51.100.0/24', via: '192.0.2.7' },
    });
    world.make({
      type: 'forwarded-port.record',
      input: { guestId: origin, port: 8443, toIp: '192.0.2.8', toPort: 443, atIp: '192.0.2.10' },
    });
    const serviceId = world.id('service', 'names');
    world.make({ type: 'need.record', input: { guestId: origin, serviceId } });
    world.make({ type: 'provider.record', input: { guestId: origin, serviceId } });
  };
  const rowOf = (kind: keyof typeof INHERITANCE, guestId: string) =>
    (kind === 'guest'
      ? world.fleet.need('guest', guestId)
      : world.fleet.referring(kind, 'guestId', guestId)[0]!) as unknown as Record<string, unknown>;

  it.each(Object.keys(INHERITANCE) as (keyof typeof INHERITANCE)[])(
    'of its %s: every field as was answered',
    (kind) => {
      said();
      world.make({ ...make({ clones: [{}] }), override: 'the copy is on its way' });
      const [from, to] = [rowOf(kind, origin), rowOf(kind, made()[0]!.id)];
      for (const [field, answer] of Object.entries(INHERITANCE[kind])) {
        if (answer === 'copied') expect([field, to[field]]).toEqual([field, from[field]]);
        if (answer === 'left' && from[field] !== null && from[field] !== '')
          expect([field, to[field]]).not.toEqual([field, from[field]]);
      }
    },
  );
  it('it provides nothing by itself, and has a MAC and an address of its own', () => {
    said();
    world.make({ ...make({ clones: [{}] }), override: 'the copy is on its way' });
    const { id } = made()[0]!;
    expect(world.fleet.referring('provider', 'guestId', id)).toEqual([]);
    expect(rowOf('adapter', id).mac).not.toBe(rowOf('adapter', origin).mac);
    expect(addressOf(id)).not.toEqual(addressOf(origin));
  });
  it('virtualisation inside is asked of the host it goes to', () => {
    said();
    const tern = world.id('host', 'tern');
    world.make({ type: 'host.edit', input: { id: tern, virtualisation: 'absent' } });
    const away = world.try(make({ clones: [{ hostId: tern }] }));
    expect(away).toMatchObject({ refused: true });
  });
});
