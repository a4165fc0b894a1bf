import { describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import {
  allFindings,
  allFindingsAt,
  findingsAt,
  findingsOn,
  markOn,
  placesOf,
  RULES,
} from './index.js';

const rulesOf = (world: World) =>
  allFindings(world.fleet, world.now).map((finding) => finding.rule);

/** A world in which each rule has something to say. */
function wrongWorld(): World {
  const world = smallWorld();
  world.make(world.found('big', 'gannet', 60_000, '192.0.2.150'));
  world.make(world.found('twin', 'tern', 512, '192.0.2.9', 'in service', '02:00:00:00:00:01'));
  world.make(world.found('twin', 'tern', 512, '192.0.2.9', 'in service', '02:00:00:00:00:01'));
  world.make({
    type: 'network.record',
    input: { name: 'pen', subnet: { prefix: '198.51.100.0/30', gateway: '198.51.101.1' } },
  });
  world.make({
    type: 'guest.record',
    input: {
      name: 'stray',
      hostId: world.id('host', 'tern'),
      state: 'in service',
      family: 'BSD',
      vcpu: 1,
      memoryMiB: 256,
      volumes: [{ poolId: world.id('pool', 'tern-data'), bytes: 2e12 }],
      adapters: [
        { networkId: world.id('network', 'pen'), address: { as: 'given', ip: '198.51.100.1' } },
      ],
    },
  });
  world.make({ type: 'guest.edit', input: { id: world.id('guest', 'stray'), labels: ['lost'] } });
  world.make({
    type: 'address.set',
    input: {
      hostId: world.id('host', 'gannet'),
      networkId: world.id('network', 'pen'),
      ip: '198.51.100.2',
      assigned: false,
    },
  });
  return world;
}

describe('findings', () => {
  const world = wrongWorld();
  const found = allFindings(world.fleet, world.now);

  it('are what is planted, gravest first', () => {
    expect(new Set(found.map((finding) => finding.rule))).toEqual(
      new Set([
        'host-overfull',
        'pool-overfull',
        'duplicate-address',
        'duplicate-mac',
        'duplicate-name',
        'static-in-dynamic',
        'gateway-outside',
        'network-not-carried',
        'few-addresses-left',
        'not-verified',
        'management-shared',
        'name-server',
      ]),
    );
    const ranks = found.map((finding) => ['blocker', 'caution', 'note'].indexOf(finding.severity));
    expect(ranks).toEqual([...ranks].sort());
  });
  it('carry evidence, consequence, remedy and source, each a sentence', () => {
    for (const finding of found) {
      for (const text of [finding.evidence, finding.consequence, finding.remedy])
        expect(text).toMatch(/^[\dA-Za-z].*[.]$/);
      expect(finding.source.text.length).toBeGreaterThan(5);
    }
  });
  it('have an identity of rule and records that stays', () => {
    expect(new Set(found.map((finding) => finding.id)).size).toBe(found.length);
    expect(allFindings(world.fleet, world.now).map((finding) => finding.id)).toEqual(
      found.map((finding) => finding.id),
    );
    for (const finding of found)
      expect(allFindingsAt(world.fleet, placesOf(finding.id), world.now)).toContainEqual(finding);
  });
  it('stand at the sheet of what they are about, and mark its line in the list alike', () => {
    const big = world.id('guest', 'big');
    expect(findingsOn(world.fleet, 'guest', big, world.now).map((finding) => finding.rule)).toEqual(
      ['static-in-dynamic'],
    );
    expect(markOn(world.fleet, 'guest', big, world.now)).toEqual({ severity: 'caution', count: 1 });
    expect(
      findingsOn(world.fleet, 'host', world.id('host', 'tern'), world.now).map(
        (finding) => finding.rule,
      ),
    ).toEqual(['pool-overfull']);
    expect(markOn(world.fleet, 'network', world.id('network', 'pen'), world.now)!.severity).toBe(
      'blocker',
    );
  });
  it('a mark follows a change of the address', () => {
    const changed = wrongWorld();
    const big = changed.id('guest', 'big');
    expect(markOn(changed.fleet, 'guest', big, changed.now)).not.toBeNull();
    const [adapter] = changed.fleet.referring('adapter', 'guestId', big);
    const [address] = changed.fleet.referring('address', 'adapterId', adapter!.id);
    changed.make({
      type: 'address.set',
      input: { adapterId: adapter!.id, assigned: true, replaces: address!.id },
    });
    expect(markOn(changed.fleet, 'guest', big, changed.now)).toBeNull();
  });
});

describe('nothing is found', () => {
  it('in a sound world', () => expect(rulesOf(smallWorld())).toEqual([]));
  it('where an address is shared on purpose', () => {
    const world = smallWorld();
    for (const name of ['a', 'b']) {
      world.make(world.found(name, 'tern', 512, name === 'a' ? '192.0.2.9' : '192.0.2.10'));
      world.make({
        type: 'address.set',
        input: {
          adapterId: world.fleet.referring('adapter', 'guestId', world.id('guest', name))[0]!.id,
          ip: '192.0.2.77',
          assigned: false,
          use: 'shared',
        },
      });
    }
    expect(rulesOf(world)).toEqual([]);
  });
  it('where a reservation lies in the dynamic range', () => {
    const world = smallWorld();
    world.make(world.found('a', 'tern', 512, '192.0.2.9'));
    world.make({
      type: 'address.set',
      input: {
        adapterId: world.fleet.referring('adapter', 'guestId', world.id('guest', 'a'))[0]!.id,
        ip: '192.0.2.120',
        assigned: false,
        use: 'reservation',
      },
    });
    expect(rulesOf(world)).toEqual([]);
  });
  it('of a host that is planned or retired', () => {
    const world = smallWorld();
    world.make(world.found('big', 'tern', 60_000, '192.0.2.9'));
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), state: 'failed' } });
    expect(rulesOf(world)).toEqual([]);
  });
});

it('every rule has a name of its own at its kind', () =>
  expect(new Set(RULES.map((rule) => `${rule.name} ${rule.kind}`)).size).toBe(RULES.length));

it('after a change of one guest only what rules read of it is looked at again', () => {
  const world = smallWorld();
  const names = Array.from({ length: 60 }, (_, i) => `gauge-${i}`);
  for (const name of names) world.make({ ...world.plan(name, 'gannet', 64), override: 'many' });
  const now = world.now;
  const looked = { guest: 0, host: 0, subnet: 0, pool: 0 };
  const look = () => {
    for (const kind of ['guest', 'host', 'subnet', 'pool'] as const)
      world.fleet.gathered(
        kind,
        'counted',
        (fleet, id, at) => ((looked[kind] += 1), findingsAt(fleet, kind, id, at, false)),
        now,
      );
    return Object.values(looked).reduce((sum, n) => sum + n, 0);
  };
  const first = look();
  expect(looked.guest).toBe(60);
  world.make({
    type: 'guest.edit',
    input: { id: world.id('guest', 'gauge-7'), memoryMiB: 96 },
    override: 'more',
  });
  expect(look() - first).toBeLessThanOrEqual(20);
  expect(looked.guest).toBeLessThanOrEqual(62);
});
