/** Moves of guests step by step: what is held where, which checks fail, what can be taken back. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { headroom } from '../host/headroom.js';
import { poolFigures } from '../host/pool.js';
import { GIB } from '../quantity/index.js';
import type { Input } from '../change/index.js';
import { migrationChecks, routeEstimate, wayBetween } from './index.js';

type StepMigration = Input<'migration.step'>;

let world: World;
let guestId: string;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
  guestId = world.id('guest', 'web');
});

const plan = (more: object = {}) => ({
  type: 'migration.plan' as const,
  input: {
    guestId,
    targetHostId: world.id('host', 'tern'),
    targetPoolId: world.id('pool', 'tern-data'),
    running: false,
    linkBitsPerSecond: 1e9,
    ...more,
  },
});
const open = () => [...world.fleet.all('migration')].at(-1)!;
const step = (name: StepMigration['step'], more: Partial<StepMigration> = {}) =>
  world.make({ type: 'migration.step', input: { id: open().id, step: name, ...more } });
const refusedStep = (
  step: StepMigration['step'],
  more: Partial<StepMigration> = {},
  happenedAt?: string,
) => world.try({ type: 'migration.step', input: { id: open().id, step, ...more }, happenedAt });
const holds = () =>
  world.fleet
    .referring('hold', 'migrationId', open().id)
    .map((hold) =>
      `${hold.side} ${hold.hostId ? world.fleet.need('host', hold.hostId).name : world.fleet.need('pool', hold.poolId!).name} ${hold.until ?? ''}`.trim(),
    )
    .sort();
const volume = () => world.fleet.referring('volume', 'guestId', guestId)[0]!;
const poolOf = () => world.fleet.need('pool', volume().poolId).name;
const failed = (more: object = {}) => {
  const guest = world.fleet.need('guest', guestId);
  return migrationChecks(world.fleet, {
    guest,
    target: world.fleet.need('host', world.id('host', 'tern')),
    targetPoolId: world.id('pool', 'tern-data'),
    running: false,
    ...more,
  })
    .filter((check) => check.passed === false)
    .map((check) => check.name);
};

describe('a plan', () => {
  it('names both hosts, moves every volume, and has an estimate with its bytes', () => {
    const decision = world.make(plan());
    expect(decision.title).toBe('planned to migrate web from gannet to tern');
    expect(decision.overridden).toEqual([]);
    expect(open()).toMatchObject({ state: 'planned', bytes: 50e9, running: false });
    expect(open().estimateSeconds).toBeGreaterThan(50e9 / (1e9 / 8));
    expect(holds()).toEqual([]);
  });
  it('is refused to where the guest is, to nowhere, to no pool, and while another is open', () => {
    expect(
      world.try(plan({ targetHostId: world.id('host', 'gannet'), targetPoolId: null })),
    ).toMatchObject({
      code: 'same-host',
      field: 'targetHostId',
    });
    expect(world.try(plan({ targetHostId: 'nobody' }))).toMatchObject({
      code: 'no-such-record',
      field: 'targetHostId',
    });
    expect(world.try(plan({ targetPoolId: 'nothing' }))).toMatchObject({
      code: 'no-such-record',
      field: 'targetPoolId',
    });
    world.make(plan());
    expect(world.try(plan())).toMatchObject({
      code: 'migration-open',
      sentence: 'web has a migration that is planned.',
    });
    step('roll back');
    expect(world.try(plan())).not.toHaveProperty('code');
  });
});

describe('checks', () => {
  it('all pass between two like hosts', () => expect(failed()).toEqual([]));
  it('a target in maintenance offers nothing', () => {
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'tern'), state: 'maintenance' },
    });
    expect(failed()).toEqual(['target in service']);
  });
  it('a stopped guest does not move while running', () => {
    world.make({ type: 'guest.set-state', input: { id: guestId, state: 'stopped' } });
    expect(failed({ running: true })).toEqual(['state of the guest']);
    expect(failed()).toEqual([]);
  });
  it('volumes that stay need a pool that both reach', () =>
    expect(failed({ targetPoolId: null })).toEqual(['pool reach']));
  it('the full size must fit, and one GiB more is advised (common practice, no source)', () => {
    const tern = world.id('pool', 'tern-data');
    world.make({ type: 'pool.edit', input: { id: tern, usableBytes: 50e9 } });
    expect(failed()).toEqual(['size advised', 'fill alarm']);
    world.make({ type: 'pool.edit', input: { id: tern, usableBytes: 50e9 + GIB } });
    expect(failed()).toEqual(['fill alarm']);
    world.make({ type: 'pool.edit', input: { id: tern, usableBytes: 50e9 - 1 } });
    expect(failed()).toEqual(['size rule', 'real room', 'size advised', 'fill alarm']);
  });
  it('memory and processors are those of the policy', () => {
    world.make(world.found('big', 'tern', 12 * 1024, '192.0.2.20'));
    world.make({ type: 'guest.edit', input: { id: world.id('guest', 'big'), vcpu: 32 } });
    expect(failed()).toEqual(['memory', 'processors']);
  });
  it('every network of the guest must be there', () => {
    const shore = world.fleet.referring('virtualSwitch', 'hostId', world.id('host', 'tern'))[0]!;
    world.make({ type: 'host.drop-switch', input: { id: shore.id } });
    expect(failed()).toEqual(['network present']);
  });
});

describe('the steps', () => {
  it('hold room on the target, then on the source, until acceptance and the day', () => {
    world.make(plan());
    const before = headroom(world.fleet, world.id('host', 'tern')).memory.value;
    step('start');
    expect(holds()).toEqual(['target tern', 'target tern-data']);
    expect(headroom(world.fleet, world.id('host', 'tern')).memory.value).toBeLessThan(before);
    world.now = '2026-11-20T08:30:00.000Z';
    step('switch');
    expect([open().copySeconds, world.fleet.need('guest', guestId).hostId, poolOf()]).toEqual([
      1800,
      world.id('host', 'tern'),
      'tern-data',
    ]);
    expect(holds()).toEqual(['source gannet', 'source gannet-data']);
    step('accept', { keepUntil: '2026-12-01' });
    expect(holds()).toEqual(['source gannet-data 2026-12-01']);
    expect(poolFigures(world.fleet, world.id('pool', 'gannet-data')).left.value).toBe(1e12 - 50e9);
    world.make({
      type: 'hold.release',
      input: { id: world.fleet.referring('hold', 'migrationId', open().id)[0]!.id },
    });
    expect(poolFigures(world.fleet, world.id('pool', 'gannet-data')).left.value).toBe(1e12);
  });
  it('a measured duration goes before the clock; time does not run backwards', () => {
    world.make(plan());
    step('start');
    expect(refusedStep('switch', {}, '2026-11-19T00:00:00.000Z')).toMatchObject({
      code: 'time-backwards',
      field: 'happenedAt',
    });
    step('switch', { copySeconds: 540 });
    expect(open().copySeconds).toBe(540);
    expect(refusedStep('accept', { keepUntil: 'soon' })).toMatchObject({
      code: 'bad-date',
      field: 'keepUntil',
    });
  });
  it.each<[StepMigration['step'][], string]>([
    [[], 'planned'],
    [['start'], 'started'],
    [['start', 'switch'], 'switched'],
  ])('after %o it is taken back: guest and disks are where they were', (steps, state) => {
    world.make(plan());
    for (const name of steps) step(name);
    expect(open().state).toBe(state);
    step('roll back');
    expect([open().state, world.fleet.need('guest', guestId).hostId, poolOf()]).toEqual([
      'rolled back',
      world.id('host', 'gannet'),
      'gannet-data',
    ]);
    // What was written on the target is there until somebody says that it is gone.
    expect(holds()).toEqual(steps.length === 0 ? [] : ['target tern-data 2026-11-20']);
  });
  it('does not go on out of order', () => {
    world.make(plan());
    for (const name of ['switch', 'accept'] as const)
      expect(refusedStep(name)).toMatchObject({ code: 'state-cannot-follow' });
    step('start');
    for (const name of ['start', 'accept'] as const)
      expect(refusedStep(name)).toMatchObject({ code: 'state-cannot-follow' });
    step('switch');
    step('accept');
    for (const name of ['start', 'switch', 'accept', 'roll back'] as const)
      expect(refusedStep(name)).toMatchObject({ code: 'state-cannot-follow' });
  });
  it('the way back is not given up while it is needed', () => {
    world.make(plan());
    step('start');
    step('switch');
    const hold = world.fleet
      .referring('hold', 'migrationId', open().id)
      .find((found) => found.poolId)!;
    expect(world.try({ type: 'hold.release', input: { id: hold.id } })).toMatchObject({
      code: 'still-needed',
    });
    expect(
      world.try({ type: 'guest.edit', input: { id: guestId, hostId: world.id('host', 'gannet') } }),
    ).toMatchObject({ code: 'being-migrated' });
  });
});

describe('the way of a copy', () => {
  const way = () =>
    wayBetween(world.fleet, {
      sourceHostId: world.id('host', 'gannet'),
      targetHostId: world.id('host', 'tern'),
    })?.name ?? null;
  const network = (name: string, octet: number, more: object = {}) => {
    world.make({
      type: 'network.record',
      input: { name, subnet: { prefix: `198.51.${octet}.0/24` }, ...more },
    });
    for (const [host, last] of [
      ['gannet', 5],
      ['tern', 6],
    ] as const)
      world.make({
        type: 'address.set',
        input: {
          hostId: world.id('host', host),
          networkId: world.id('network', name),
          ip: `198.51.${octet}.${last}`,
          assigned: true,
        },
      });
  };
  const route = () =>
    routeEstimate(world.fleet, {
      guestId,
      sourceHostId: world.id('host', 'gannet'),
      targetHostId: world.id('host', 'tern'),
      running: false,
      linkBitsPerSecond: 1e9,
      movesStorage: true,
    }).best.lines[2]!.label;
  it('is a network in which both have an address, one for moving before any other', () => {
    expect(way()).toBeNull();
    expect(route()).toBe('Payload of the link, no network of both is recorded, MTU 1500');
    network('desks', 1);
    expect(way()).toBe('desks');
    network('carry', 2, { purpose: 'migration', vlanId: 30, mtu: 9000 });
    expect(way()).toBe('carry');
    expect(route()).toBe('Payload of the link, network carry, MTU 9000, with a VLAN tag');
  });
});
