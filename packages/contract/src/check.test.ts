import { describe, expect, it } from 'vitest';
import {
  checked,
  EditGuestBody,
  EditGuestsBody,
  EditPlatformBody,
  EditProfileBody,
  MakeClonesBody,
  PlanGuestBody,
  RecordGuestsBody,
  RecordHostBody,
  RecordMediumBody,
  RecordSnapshotBody,
  RetireGuestBody,
  SizeGuestBody,
  TickStepBody,
} from '../dist/index.js';

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

function fieldsWrong(type: new () => object, plain: unknown): string[] {
  const result = checked(type, plain);
  return result.ok ? [] : result.complaints.map((complaint) => complaint.field);
}

describe('a body is checked field by field', () => {
  it('takes what is right, and gives an instance', () => {
    const result = checked(PlanGuestBody, guest);
    expect(result.ok && result.value).toBeInstanceOf(PlanGuestBody);
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
      { ...guest, adapters: [{ networkId: ID, address: { take: 'any' } }] },
      ['adapters.0.address.take'],
    ],
    [{ ...guest, volumes: 'none' }, ['volumes']],
    [{ ...guest, reason: 5 }, ['reason']],
  ])('%o: %o', (plain, wanted) => expect(fieldsWrong(PlanGuestBody, plain)).toEqual(wanted));
  it('says each fault as a sentence', () => {
    const result = checked(RecordHostBody, {});
    for (const complaint of result.ok ? [] : result.complaints)
      expect(complaint.sentence).toMatch(/[.]$/);
    expect(fieldsWrong(RecordHostBody, {})).toEqual(
      expect.arrayContaining(['name', 'state', 'platformId', 'sockets', 'installedMiB', 'pools']),
    );
  });
  it('leaves out is not the same as empty', () => {
    expect(fieldsWrong(EditGuestBody, {})).toEqual([]);
    expect(fieldsWrong(EditGuestBody, { vcpu: 'two' })).toEqual(['vcpu']);
  });
  it('limits how many clones are asked for at once', () =>
    expect(
      fieldsWrong(MakeClonesBody, {
        copy: 'full',
        pattern: 'a-#',
        start: 1,
        taking: 'run',
        clones: Array(201).fill({}),
      }),
    ).toEqual(['clones']));
  it('is not confused by what is no object', () => {
    for (const plain of [null, [], 'x', 5]) expect(checked(PlanGuestBody, plain).ok).toBe(false);
  });
});

describe('bodies about guests', () => {
  const size = { profileId: ID, networkIds: [] };
  const medium = { name: 'a.img', bytes: 1 };
  const CASES: [string, new () => object, unknown, string[]][] = [
    ['a size may be asked with nothing but a role', SizeGuestBody, size, []],
    ['a load is a whole number, or none', SizeGuestBody, { ...size, load: null, vcpu: null }, []],
    ['nobody plans for more than twenty years', SizeGuestBody, { ...size, years: 21 }, ['years']],
    [
      'nothing is negative',
      SizeGuestBody,
      { ...size, load: -1, dataBytes: -5 },
      ['load', 'dataBytes'],
    ],
    ['a digest may be left empty', RecordMediumBody, { ...medium, sha256: '' }, []],
    ['a digest in capitals is one', RecordMediumBody, { ...medium, sha256: 'AB'.repeat(32) }, []],
    [
      'one digit short is none',
      RecordMediumBody,
      { ...medium, sha256: 'a'.repeat(63) },
      ['sha256'],
    ],
    ['a release has a day', RecordMediumBody, { ...medium, releasedOn: 'June' }, ['releasedOn']],
    [
      'buses are among those there are',
      EditPlatformBody,
      { diskBuses: ['SATA', 'drum'] },
      ['diskBuses'],
    ],
    ['a step of load is at least one', EditProfileBody, { loadStep: 0 }, ['loadStep']],
    ['a tick can be taken back', TickStepBody, { step: 'updates', outcome: null }, []],
    ['a tick says how it went', TickStepBody, { step: 'updates', outcome: 'maybe' }, ['outcome']],
    [
      'a snapshot was taken at a time',
      RecordSnapshotBody,
      { name: 'x', poolId: ID, takenAt: 'lately' },
      ['takenAt'],
    ],
    ['what is cleared away is a list', RetireGuestBody, { clear: 'all' }, ['clear']],
    ['an end is a day, or none', EditGuestsBody, { ids: [ID], endDate: null }, []],
    [
      'guests are chosen by id',
      EditGuestsBody,
      { ids: ['web'], criticality: 'vital' },
      ['ids', 'criticality'],
    ],
    [
      'a fault of a table has its row',
      RecordGuestsBody,
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
