/**
 * Guests and processors. Levels: System V ABI, processor supplement for x86-64 (psABI 1.0), section 3.1.1; that a running
 * guest keeps the flags it was started with is common practice, no source.
 */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { LEVEL_FLAGS, type PsabiLevel } from '../host/level.js';
import { isRefusal, type Row } from '../record/index.js';
import { processorFit, type Arrival, type ProcessorPoint } from './processor-fit.js';

const flagsOf = (level: PsabiLevel, more = '') =>
  ([1, 2, 3, 4] as const)
    .filter((one) => one <= level)
    .flatMap((one) => LEVEL_FLAGS[one])
    .concat(more)
    .join(' ')
    .trim();

let world: World;
let guestId: string;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
  guestId = world.id('guest', 'web');
});
const host = (name: string) => world.fleet.need('host', world.id('host', name));
const set = (name: string, fields: Partial<Row<'host'>>) => {
  // What is so already is no change.
  const decision = world.try({
    type: 'host.edit',
    input: { id: world.id('host', name), ...fields },
  });
  if (!isRefusal(decision)) world.fleet.apply(decision.patches, world.fleet.revision + 1);
};
const guest = (fields: Partial<Row<'guest'>>) =>
  world.make({ type: 'guest.edit', input: { id: guestId, ...fields } });
const points = (arrival: Arrival) =>
  processorFit(world.fleet.need('guest', guestId), host('gannet'), host('tern'), arrival);
const point = (name: ProcessorPoint['name'], arrival: Arrival) =>
  points(arrival).find((found) => found.name === name);
const move = (running: boolean, override?: string) =>
  world.try({
    type: 'migration.plan',
    input: {
      guestId,
      targetHostId: world.id('host', 'tern'),
      targetPoolId: world.id('pool', 'tern-data'),
      running,
      linkBitsPerSecond: 1e9,
    },
    override,
  });

describe('a running guest', () => {
  it('of level v4 does not go to a host of level v2', () => {
    set('gannet', { flags: flagsOf(4) });
    set('tern', { flags: flagsOf(2) });
    guest({ processorMode: 'v4' });
    expect(point('level', 'running')).toMatchObject({ fits: false });
    expect(move(true)).toMatchObject({ code: 'check-level', overridable: true });
    expect(move(false)).not.toHaveProperty('code');
  });
  it('that may use all of a v4 host does not go to a v2 host either', () => {
    set('gannet', { flags: flagsOf(4) });
    set('tern', { flags: flagsOf(2) });
    expect(move(true)).toMatchObject({ code: 'check-level' });
  });
  it('that sees its host’s own processor needs every flag of it', () => {
    guest({ processorMode: 'host' });
    set('gannet', { flags: flagsOf(3, 'aes') });
    set('tern', { flags: flagsOf(3) });
    expect(point('processor model', 'running')).toMatchObject({
      fits: false,
      sentence: 'web sees the processor of gannet itself; tern lacks aes of gannet.',
    });
    expect(move(true)).toMatchObject({ code: 'check-processor-model' });
    set('tern', { flags: flagsOf(4, 'aes') });
    expect(point('processor model', 'running')).toMatchObject({ fits: true });
    expect(move(true)).not.toHaveProperty('code');
  });
  it.each([
    ['', '', null],
    ['Tarn 3', 'Tarn 3', true],
    ['Tarn 3', 'Tarn 4', false],
  ])('without flags the models are compared: %s and %s', (had, has, fits) => {
    guest({ processorMode: 'host' });
    set('gannet', { processorModel: had });
    set('tern', { processorModel: has });
    expect(point('processor model', 'running')?.fits).toBe(fits);
  });
  it('a level that is told to the guest makes the model no matter', () => {
    guest({ processorMode: 'v2' });
    expect(point('processor model', 'running')).toBeUndefined();
  });
});

describe('a stopped guest', () => {
  it('goes down a level with a caution', () => {
    set('gannet', { flags: flagsOf(4) });
    set('tern', { flags: flagsOf(2) });
    expect(point('level', 'stopped')).toMatchObject({ fits: false, caution: true });
    guest({ processorMode: 'v4' });
    expect(point('level', 'stopped')).toMatchObject({
      caution: true,
      remedy:
        'Let it see v2 at most before it starts there, and try its programs after the first start.',
    });
    expect(move(false)).not.toHaveProperty('code');
  });
  it.each([false, true])(
    'goes to no other architecture, whatever is written (running: %s)',
    (running) => {
      set('tern', { architecture: 'aarch64' });
      expect(move(running, 'it will emulate')).toMatchObject({
        code: 'check-architecture',
        overridable: false,
        sentence: 'web is made for x86-64, as gannet is; tern is aarch64: it cannot run there.',
      });
    },
  );
});

describe('what nobody has looked at', () => {
  it('is unknown: neither passed nor an objection', () => {
    expect(point('level', 'running')).toMatchObject({ fits: null });
    expect(point('processor model', 'running')).toMatchObject({ fits: null });
    expect(move(true)).not.toHaveProperty('code');
  });
  it('but a level that is told to a running guest must be known to be there', () => {
    guest({ processorMode: 'v3' });
    expect(point('level', 'running')).toMatchObject({ fits: false });
    expect(point('level', 'stopped')).toMatchObject({ fits: null });
  });
  it.each<[Row<'host'>['virtualisation'], boolean | null]>([
    ['on', true],
    ['switched off', false],
    ['absent', false],
    ['unknown', null],
  ])('a guest with guests of its own, virtualisation %s', (virtualisation, fits) => {
    guest({ nestedVirtualisation: true });
    set('tern', { virtualisation });
    expect(point('nested virtualisation', 'stopped')?.fits).toBe(fits);
    expect(isRefusal(move(false))).toBe(fits === false);
  });
});

describe('placing', () => {
  const plan = (fields: object) => {
    const { input, ...rest } = world.plan('new', 'tern', 1024);
    return world.try({ ...rest, input: { ...input, ...fields } });
  };
  it('a planned guest asks for its level and for virtualisation', () => {
    set('tern', { statedLevel: 2, virtualisation: 'switched off' });
    expect(plan({ processorMode: 'v3' })).toMatchObject({
      code: 'level-missing',
      field: 'processorMode',
    });
    expect(plan({ nestedVirtualisation: true })).toMatchObject({
      code: 'no-virtualisation',
      field: 'nestedVirtualisation',
    });
    expect(plan({ processorMode: 'v2' })).not.toHaveProperty('code');
  });
  it('and again when it is moved while planned; what is being built keeps its architecture', () => {
    set('gannet', { statedLevel: 3 });
    set('tern', { statedLevel: 2 });
    const { input, ...rest } = world.plan('new', 'gannet', 1024);
    world.make({ ...rest, input: { ...input, processorMode: 'v3' } });
    const id = world.id('guest', 'new');
    const toTern = () =>
      world.try({ type: 'guest.edit', input: { id, hostId: world.id('host', 'tern') } });
    expect(toTern()).toMatchObject({ code: 'level-missing' });
    set('tern', { statedLevel: 3, architecture: 'aarch64' });
    expect(toTern()).not.toHaveProperty('code');
    world.make({ type: 'guest.set-state', input: { id, state: 'building' } });
    expect(toTern()).toMatchObject({ code: 'other-architecture', overridable: false });
  });
  it('a clone is a copy: it runs on no other architecture', () => {
    set('tern', { architecture: 'aarch64' });
    world.make({ type: 'guest.set-state', input: { id: guestId, state: 'stopped' } });
    const clones = [{ hostId: world.id('host', 'tern'), poolId: world.id('pool', 'tern-data') }];
    expect(
      world.try({
        type: 'clone.make',
        input: {
          originId: guestId,
          copy: 'full',
          pattern: 'web-#',
          start: 2,
          taking: 'run',
          clones,
        },
        override: 'we try',
      }),
    ).toMatchObject({ code: 'other-architecture', field: 'clones.0.hostId', overridable: false });
  });
});
