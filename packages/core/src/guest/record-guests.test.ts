import { beforeEach, describe, expect, it } from 'vitest';
import { allFindings } from '../finding/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { MOST_GUESTS } from './record-guests.js';
import type { Input } from '../change/index.js';

type RecordedGuest = Input<'guest.record'>;

let world: World;
beforeEach(() => {
  world = smallWorld();
});

const input = (
  name: string,
  ip?: string,
  more: Partial<RecordedGuest['adapters'][number]> = {},
): RecordedGuest => ({
  name,
  hostId: world.id('host', 'gannet'),
  state: 'in service',
  family: 'Linux',
  vcpu: 2,
  memoryMiB: 1024,
  volumes: [{ poolId: world.id('pool', 'gannet-data'), bytes: 50e9 }],
  adapters: [
    {
      networkId: world.id('network', 'shore'),
      address: ip ? { as: 'given', ip } : { as: 'none' },
      ...more,
    },
  ],
});
const all = (guests: RecordedGuest[]) =>
  world.try({ type: 'guest.record-many', input: { guests } });

describe('guests from a table', () => {
  it('are recorded in one change, with what belongs to them', () => {
    const { title, subjects } = world.make({
      type: 'guest.record-many',
      input: { guests: [input('a1', '192.0.2.10'), input(' a2 ', '192.0.2.11')] },
    });
    expect([title, subjects.map((subject) => subject.name)]).toEqual([
      'recorded 2 guests from a table',
      ['a1', 'a2'],
    ]);
    expect([
      world.fleet.count('guest'),
      world.fleet.count('volume'),
      world.fleet.count('adapter'),
    ]).toEqual([2, 2, 2]);
  });
  it('are undone as one', () => {
    world.make({
      type: 'guest.record-many',
      input: { guests: [input('a1', '192.0.2.10'), input('a2')] },
    });
    world.make({ type: 'undo', input: { revision: world.fleet.revision } });
    expect([
      world.fleet.count('guest'),
      world.fleet.count('volume'),
      world.fleet.count('adapter'),
    ]).toEqual([0, 0, 0]);
  });
  it('all or none: the row at fault is named', () => {
    expect(all([input('a1'), input('two\nlines')])).toMatchObject({
      code: 'bad-name',
      field: 'guests.1.name',
    });
    expect(all([input('a1'), input('a2'), input('a3', undefined, { mac: 'zz' })])).toMatchObject({
      code: 'bad-mac',
      field: 'guests.2.adapters.0.mac',
    });
    expect(all([input('a1', '192.0.2.300')])).toMatchObject({ field: 'guests.0.adapters.0.ip' });
    expect(world.fleet.count('guest')).toBe(0);
  });
  it('keep the names they were found with; what no zone takes becomes a finding', () => {
    world.make({
      type: 'guest.record-many',
      input: { guests: [input('Büro_Mühle 2', '192.0.2.10')] },
    });
    const id = world.id('guest', 'Büro_Mühle 2');
    expect(
      allFindings(world.fleet, world.now).filter(({ about }) => about.id === id),
    ).toContainEqual(expect.objectContaining({ rule: 'illegal-name' }));
    expect(world.try({ type: 'guest.edit', input: { id, name: 'Büro_Mühle 3' } })).toMatchObject({
      code: 'bad-name',
    });
  });
  it('parts of one import say so', () => {
    const part = { importId: 'spring', number: 2, of: 3 };
    const { title } = world.make({
      type: 'guest.record-many',
      input: { guests: [input('a1')], part },
    });
    expect(title).toBe('recorded 1 guest from a table, part 2 of 3');
  });
  it('are what was found: the same address twice, more than the host has room for', () => {
    const big = input('a3');
    world.make({
      type: 'guest.record-many',
      input: {
        guests: [
          input('a1', '192.0.2.10'),
          input('a2', '192.0.2.10'),
          { ...big, memoryMiB: 64 * 1024 },
        ],
      },
    });
    expect(world.fleet.count('guest')).toBe(3);
  });
  it('an unknown MAC stays unknown, none is made up', () => {
    world.make({ type: 'guest.record-many', input: { guests: [input('a1')] } });
    expect([...world.fleet.all('adapter')]).toMatchObject([{ mac: null, macAssigned: false }]);
  });
  it('none, or too many at once, are refused', () => {
    expect(all([])).toMatchObject({ code: 'how-many' });
    expect(all(Array.from({ length: MOST_GUESTS + 1 }, (_, i) => input(`a${i}`)))).toMatchObject({
      code: 'how-many',
      sentence: 'Record 1 to 500 guests at a time.',
    });
  });
});
