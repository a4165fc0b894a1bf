import { beforeEach, describe, expect, it } from 'vitest';
import { isRefusal, type Kind } from '../record/index.js';
import type { StandAlone } from '../record/stand-alone.js';
import { one, smallWorld, type World } from './testing.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make(world.plan('tide', 'gannet', 2048));
});

const record = (kind: StandAlone, fields: Record<string, unknown>) =>
  world.make(one(kind, 'record', fields));
const tryRecord = (kind: StandAlone, fields: Record<string, unknown>) =>
  world.try(one(kind, 'record', fields));
const last = (kind: Kind): string => [...world.fleet.all(kind)].at(-1)!.id;
const tide = () => world.id('guest', 'tide');
const names = () => {
  record('service', { name: 'names', what: 'names' });
  return last('service');
};

describe('recording one', () => {
  it.each<[StandAlone, Record<string, unknown>, string]>([
    ['guestGroup', { name: 'pair' }, 'There is a group of guests named PAIR already.'],
    ['service', { name: 'pair', what: 'time' }, 'There is a service named PAIR already.'],
    ['hostGroup', { name: 'pair' }, 'There is a host group named PAIR already.'],
  ])('two of kind %s are not named alike, in whatever case', (kind, fields, sentence) => {
    record(kind, fields);
    expect(tryRecord(kind, { ...fields, name: 'PAIR' })).toMatchObject({
      code: 'name-taken',
      field: 'name',
      sentence,
    });
  });
  it('snapshots of two guests, and two of one, may be named alike', () => {
    const fields = {
      guestId: tide(),
      poolId: world.id('pool', 'gannet-data'),
      name: 'before the update',
      takenAt: world.now,
      why: '',
    };
    record('snapshot', fields);
    expect(isRefusal(tryRecord('snapshot', fields))).toBe(false);
  });
  it('a name of another kind does not stand in the way', () => {
    record('guestGroup', { name: 'pair' });
    expect(isRefusal(tryRecord('hostGroup', { name: 'pair' }))).toBe(false);
  });
  it('keeps no field that the kind does not have, and refuses one out of its bounds', () => {
    expect(tryRecord('guestGroup', { name: 'trio', colour: 'red' })).toMatchObject({
      code: 'unknown-field',
      field: 'colour',
    });
    expect(isRefusal(tryRecord('guestGroup', { name: 'pair', needed: -1 }))).toBe(true);
    expect(isRefusal(tryRecord('guestGroup', { name: 'pair', spread: 'continent' }))).toBe(true);
  });
  it('refuses a reference to what is not there', () =>
    expect(
      isRefusal(
        tryRecord('snapshot', {
          guestId: 'nobody',
          poolId: world.id('pool', 'gannet-data'),
          name: 'a',
          takenAt: world.now,
          why: '',
        }),
      ),
    ).toBe(true));
});

describe('the log says what it was about', () => {
  it('a snapshot is told under its guest', () => {
    const { title, subjects } = record('snapshot', {
      guestId: tide(),
      poolId: world.id('pool', 'gannet-data'),
      name: 'early',
      takenAt: world.now,
      why: '',
    });
    expect([title, subjects]).toEqual([
      'recorded snapshot early of tide',
      [{ kind: 'guest', id: tide(), name: 'tide' }],
    ]);
  });
  it('a medium in a drive under the guest that has it', () => {
    record('medium', {
      name: 'linux-12.img',
      bytes: 1e9,
      family: 'Linux',
      sha256: 'ab'.repeat(32),
    });
    expect(
      record('drive', { guestId: tide(), mediumId: last('medium'), atPowerOn: true }),
    ).toMatchObject({
      title: 'recorded linux-12.img in a drive of tide',
      subjects: [{ kind: 'guest', id: tide() }],
    });
  });
  it('a provider under its service and its machine, a need under who needs it', () => {
    const serviceId = names();
    expect(record('provider', { serviceId, guestId: tide() })).toMatchObject({
      title: 'recorded tide as a provider of names',
      subjects: [
        { kind: 'service', id: serviceId },
        { kind: 'guest', id: tide() },
      ],
    });
    const hostId = world.id('host', 'tern');
    expect(record('dependency', { hostId, serviceId, purpose: '' })).toMatchObject({
      title: 'recorded that tern needs names',
      subjects: [{ kind: 'host', id: hostId }],
    });
  });
});

describe('editing one', () => {
  it('keeps its own name, takes no other’s', () => {
    record('guestGroup', { name: 'pair' });
    const id = last('guestGroup');
    record('guestGroup', { name: 'trio' });
    expect(
      world.make({ type: 'guest-group.edit', input: { id, name: 'Pair', needed: 1 } }).title,
    ).toBe('edited group of guests pair: name, needed');
    expect(world.fleet.need('guestGroup', id)).toMatchObject({ name: 'Pair', needed: 1 });
    expect(world.try({ type: 'guest-group.edit', input: { id, name: 'trio' } })).toMatchObject({
      code: 'name-taken',
    });
  });
  it('refuses what is not there', () => {
    expect(
      isRefusal(world.try({ type: 'guest-group.edit', input: { id: 'nobody', needed: 1 } })),
    ).toBe(true);
    expect(isRefusal(world.try({ type: 'guest-group.remove', input: { id: 'nobody' } }))).toBe(
      true,
    );
  });
});

describe('removing one', () => {
  it('a service goes with its providers, but not while somebody needs it', () => {
    const serviceId = names();
    record('provider', { serviceId, guestId: tide() });
    record('dependency', { hostId: world.id('host', 'tern'), serviceId, purpose: '' });
    expect(world.try({ type: 'service.remove', input: { id: serviceId } })).toMatchObject({
      code: 'still-referred-to',
    });
    world.make({ type: 'need.remove', input: { id: last('dependency') } });
    world.make({ type: 'service.remove', input: { id: serviceId } });
    expect([world.fleet.count('service'), world.fleet.count('provider')]).toEqual([0, 0]);
  });
  it('a device goes with its ports and their addresses', () => {
    world.make({ type: 'device.remove', input: { id: world.id('device', 'gate') } });
    expect([
      world.fleet.count('devicePort'),
      [...world.fleet.all('address')].some((row) => row.ip === '192.0.2.1'),
    ]).toEqual([0, false]);
  });
  it('and undone, all of it is back', () => {
    const before = [...world.fleet.all('devicePort')].map((row) => row.id);
    world.make({ type: 'device.remove', input: { id: world.id('device', 'gate') } });
    world.make({ type: 'undo', input: { revision: world.fleet.revision } });
    expect([...world.fleet.all('devicePort')].map((row) => row.id)).toEqual(before);
    expect([...world.fleet.all('address')].some((row) => row.ip === '192.0.2.1')).toBe(true);
  });
});
