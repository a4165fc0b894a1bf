import { describe, expect, it } from 'vitest';
import { checked, EditGuestBody, MakeClonesBody, PlanGuestBody, RecordHostBody } from '../dist/index.js';

const ID = '018f0000-0000-7000-8000-000000000000';
const guest = { name: 'tide', hostId: ID, family: 'Linux', vcpu: 2, memoryMiB: 4096, volumes: [], adapters: [] };

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
    [{ ...guest, adapters: [{ networkId: ID, address: { take: 'any' } }] }, ['adapters.0.address.take']],
    [{ ...guest, volumes: 'none' }, ['volumes']],
    [{ ...guest, reason: 5 }, ['reason']],
  ])('%o: %o', (plain, wanted) => expect(fieldsWrong(PlanGuestBody, plain)).toEqual(wanted));
  it('says each fault as a sentence', () => {
    const result = checked(RecordHostBody, {});
    for (const complaint of result.ok ? [] : result.complaints) expect(complaint.sentence).toMatch(/[.]$/);
    expect(fieldsWrong(RecordHostBody, {})).toEqual(expect.arrayContaining(['name', 'state', 'platformId', 'sockets', 'installedMiB', 'pools']));
  });
  it('leaves out is not the same as empty', () => {
    expect(fieldsWrong(EditGuestBody, {})).toEqual([]);
    expect(fieldsWrong(EditGuestBody, { vcpu: 'two' })).toEqual(['vcpu']);
  });
  it('limits how many clones are asked for at once', () => expect(fieldsWrong(MakeClonesBody, { copy: 'full', pattern: 'a-#', start: 1, taking: 'run', clones: Array(201).fill({}) })).toEqual(['clones']));
  it('is not confused by what is no object', () => {
    for (const plain of [null, [], 'x', 5]) expect(checked(PlanGuestBody, plain).ok).toBe(false);
  });
});
