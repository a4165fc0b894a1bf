import { describe, expect, it } from 'vitest';
import type { ChangeType } from '@insel/core';
import { ChangeBody, checked, inputClass, SizeGuestBody, type Contract } from '../dist/index.js';

const ID = '018f0000-0000-7000-8000-000000000000';
const guest = {
  name: 'tide',
  hostId: ID,
  family: 'Linux',
  vcpu: 2,
  memoryMiB: 4096,
  volumes: [],
  adapters: [],
};

/** Fields with a complaint: of a question's class, or of a change's input. */
function fieldsWrong(what: Contract | ChangeType, plain: unknown): string[] {
  const result = checked(typeof what === 'string' ? inputClass(what) : what, plain);
  return result.ok ? [] : result.complaints.map((complaint) => complaint.field);
}

describe('a body is checked field by field', () => {
  it('takes what is right, and gives an instance', () => {
    const result = checked(inputClass('guest.plan'), guest);
    expect(result.ok && result.value).toBeInstanceOf(inputClass('guest.plan'));
  });
  it.each([
    [{ ...guest, name: '' }, ['name']],
    [{ ...guest, vcpu: 0 }, ['vcpu']],
    [{ ...guest, memoryMiB: 1.5 }, ['memoryMiB']],
    [{ ...guest, memoryMiB: 2 ** 53 }, ['memoryMiB']],
    [{ ...guest, family: 'quill' }, ['family']],
    [{ ...guest, hostId: 'gannet' }, ['hostId']],
    [{ ...guest, colour: 'red' }, ['colour']],
    [{ ...guest, volumes: [{ poolId: ID, bytes: -1 }] }, ['volumes.0.bytes']],
    [
      { ...guest, adapters: [{ networkId: ID, address: { as: 'any' } }] },
      ['adapters.0.address.as'],
    ],
    [{ ...guest, volumes: 'none' }, ['volumes']],
  ])('%o: %o', (plain, wanted) => expect(fieldsWrong('guest.plan', plain)).toEqual(wanted));
  it('says each fault as a sentence', () => {
    const result = checked(inputClass('host.record'), {});
    for (const complaint of result.ok ? [] : result.complaints)
      expect(complaint.sentence).toMatch(/[.]$/);
    expect(fieldsWrong('host.record', {})).toEqual(
      expect.arrayContaining(['name', 'state', 'platformId', 'sockets', 'installedMiB', 'pools']),
    );
  });
  it('leaves out is not the same as empty', () => {
    expect(fieldsWrong('guest.edit', { id: ID })).toEqual([]);
    expect(fieldsWrong('guest.edit', { id: ID, vcpu: 'two' })).toEqual(['vcpu']);
  });
  it('limits how many clones are asked for at once', () =>
    expect(
      fieldsWrong('clone.make', {
        originId: ID,
        copy: 'full',
        pattern: 'a-#',
        start: 1,
        taking: 'run',
        clones: Array(501).fill({}),
      }),
    ).toEqual(['clones']));
  it('is not confused by what is no object', () => {
    for (const plain of [null, [], 'x', 5])
      expect(checked(inputClass('guest.plan'), plain).ok).toBe(false);
  });
});

describe('a change as it is sent', () => {
  it('has its input apart, its words beside, and nothing else', () => {
    expect(fieldsWrong(ChangeBody, { input: { anything: 1 }, reason: 'why' })).toEqual([]);
    expect(fieldsWrong(ChangeBody, { input: {}, reason: 5 })).toEqual(['reason']);
    expect(fieldsWrong(ChangeBody, { input: [] })).toEqual(['input']);
    expect(fieldsWrong(ChangeBody, { name: 'x' })).toEqual(expect.arrayContaining(['name']));
    expect(fieldsWrong(ChangeBody, { input: {}, expects: [{ id: ID }] })).toEqual([
      'expects.0.revision',
    ]);
  });
  it('has ids in one form, however they were written', () => {
    const upper = ID.toUpperCase();
    const one = checked(inputClass('site.edit'), { id: upper, name: 'x' });
    expect(one.ok && one.value).toMatchObject({ id: ID });
    const many = checked(inputClass('guest.edit-many'), { ids: [upper], owner: 'x' });
    expect(many.ok && many.value).toMatchObject({ ids: [ID] });
  });
  it('takes one of several by its tag, with the fields of that one', () => {
    const given = (address: object) => ({ ...guest, adapters: [{ networkId: ID, address }] });
    expect(fieldsWrong('guest.plan', given({ as: 'given', ip: '192.0.2.9' }))).toEqual([]);
    expect(fieldsWrong('guest.plan', given({ as: 'next' }))).toEqual([]);
    expect(fieldsWrong('guest.plan', given({ as: 'next', ip: '192.0.2.9' }))).toEqual([
      'adapters.0.address.ip',
    ]);
    expect(fieldsWrong('guest.plan', given({ as: 'given' }))).toEqual(['adapters.0.address.ip']);
    expect(fieldsWrong('guest.plan', given({ as: ['next'] }))).toEqual(['adapters.0.address.as']);
    expect(fieldsWrong('guest.plan', given({ as: 'constructor' }))).toEqual([
      'adapters.0.address.as',
    ]);
  });
});

describe('bodies about guests', () => {
  const size = { profileId: ID, networkIds: [] };
  const medium = { name: 'a.img', bytes: 1 };
  const CASES: [string, Contract | ChangeType, unknown, string[]][] = [
    ['a size may be asked with nothing but a role', SizeGuestBody, size, []],
    ['a load is a whole number, or none', SizeGuestBody, { ...size, load: null, vcpu: null }, []],
    ['nobody plans for more than twenty years', SizeGuestBody, { ...size, years: 21 }, ['years']],
    [
      'nothing is negative',
      SizeGuestBody,
      { ...size, load: -1, dataBytes: -5 },
      ['load', 'dataBytes'],
    ],
    ['a digest may be left empty', 'medium.record', { ...medium, sha256: '' }, []],
    ['a digest in capitals is one', 'medium.record', { ...medium, sha256: 'AB'.repeat(32) }, []],
    ['one digit short is none', 'medium.record', { ...medium, sha256: 'a'.repeat(63) }, ['sha256']],
    ['a release has a day', 'medium.record', { ...medium, releasedOn: 'June' }, ['releasedOn']],
    [
      'buses are among those there are',
      'platform.edit',
      { id: ID, diskBuses: ['SATA', 'drum'] },
      ['diskBuses'],
    ],
    ['a step of load is at least one', 'profile.edit', { id: ID, loadStep: 0 }, ['loadStep']],
    ['a tick can be taken back', 'guest.tick', { guestId: ID, step: 'updates', outcome: null }, []],
    [
      'a tick says how it went',
      'guest.tick',
      { guestId: ID, step: 'updates', outcome: 'maybe' },
      ['outcome'],
    ],
    [
      'a snapshot was taken at a time',
      'snapshot.record',
      { guestId: ID, name: 'x', poolId: ID, takenAt: 'lately' },
      ['takenAt'],
    ],
    ['what is cleared away is a list', 'guest.retire', { id: ID, clear: 'all' }, ['clear']],
    ['an end is a day, or none', 'guest.edit-many', { ids: [ID], endDate: null }, []],
    [
      'guests are chosen by id',
      'guest.edit-many',
      { ids: ['web'], criticality: 'vital' },
      ['ids', 'criticality'],
    ],
    [
      'a fault of a table has its row',
      'guest.record-many',
      {
        guests: [
          { ...guest, state: 'in service' },
          { ...guest, state: 'asleep' },
        ],
      },
      ['guests.1.state'],
    ],
  ];
  it.each(CASES)('%s', (_, type, plain, wanted) =>
    expect(fieldsWrong(type, plain)).toEqual(wanted),
  );
});
