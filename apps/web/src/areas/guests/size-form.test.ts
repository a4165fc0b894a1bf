import type { ProfileView, SizeAnswer } from '@insel/contract';
import { describe, expect, it } from 'vitest';
import { devicesOf, EMPTY_SIZE, readSize, sizePlan, sizeQuestion } from './size-form.js';

const ROLE = {
  id: 'r',
  name: 'camera store',
  family: 'Linux',
  loadUnit: 'cameras',
  adapters: 1,
  forwards: false,
  nested: false,
  startSeconds: 60,
} as ProfileView;
const ANSWER = {
  chosen: { vcpu: 4, memoryMiB: 4096, systemBytes: 1e10, dataBytes: 5e12 },
  hostId: 'h',
  hosts: [{ hostId: 'h', pools: [{ poolId: 'p1' }, { poolId: 'p2' }] }],
  devices: [
    { device: 'disk bus', choice: 'paravirtual' },
    { device: 'adapter model', choice: 'paravirtual' },
    { device: 'firmware', choice: 'UEFI' },
    { device: 'processor', choice: 'v3' },
    { device: 'graphics', choice: 'none' },
  ],
} as unknown as SizeAnswer;
const named = { ...EMPTY_SIZE, name: 'shore-frames', profileId: 'r' };

describe('the form for sizing a guest', () => {
  it('asks as soon as a role is chosen; a number that cannot be read holds the question back', () => {
    expect(sizeQuestion(EMPTY_SIZE, undefined, [])).toBeNull();
    expect(
      sizeQuestion({ ...named, load: '16', years: '2', growth: '20' }, ROLE, ['n', '']),
    ).toMatchObject({
      profileId: 'r',
      load: 16,
      growthPercent: 20,
      years: 2,
      vcpu: null,
      networkIds: ['n'],
    });
    expect(sizeQuestion({ ...named, load: 'many' }, ROLE, [])).toBeNull();
    expect(readSize({ ...named, memory: '3 parsecs', vcpu: '0' }).faults).toMatchObject({
      memory: expect.any(String),
      vcpu: 'Write a whole number from 1 to 4096.',
    });
  });
  it('takes sizes that were typed instead of the suggested ones; 0 means none', () => {
    expect(readSize({ ...named, memory: '6 GiB', system: '0', data: '2 TB' }).values).toMatchObject(
      { memoryMiB: 6144, systemBytes: 0, dataBytes: 2e12 },
    );
  });
  it('plans with what is advised, unless another device is chosen', () => {
    expect(devicesOf({ ...named, bus: 'SATA' }, ANSWER)).toEqual({
      bus: 'SATA',
      model: 'paravirtual',
      firmware: 'UEFI',
      processor: 'v3',
      graphics: 'none',
    });
    expect(sizePlan(named, ROLE, ANSWER, ['n'], null)).toMatchObject({
      hostId: 'h',
      bootFirst: 'disk',
      volumes: [
        { label: 'system', poolId: 'p1', bus: 'paravirtual' },
        { label: 'data', bytes: 5e12 },
        { label: 'UEFI variables', use: 'UEFI variables', bytes: 4 * 2 ** 20 },
      ],
      adapters: [
        { networkId: 'n', model: 'paravirtual', masquerade: false, address: { as: 'next' } },
      ],
    });
  });
  it('needs a name; the medium goes first in the boot order; legacy needs no volume for variables', () => {
    expect(sizePlan({ ...named, name: ' ' }, ROLE, ANSWER, [], null)).toBeNull();
    const plan = sizePlan(
      { ...named, firmware: 'legacy', mediumId: 'm', poolId: 'p2' },
      ROLE,
      ANSWER,
      [],
      'full',
    );
    expect(plan).toMatchObject({
      bootFirst: 'medium',
      mediumIds: ['m'],
      volumes: [{ poolId: 'p2' }, { poolId: 'p2' }],
    });
  });
  it('a router translates on its outside, and may have no disk', () => {
    const router = { ...ROLE, forwards: true, adapters: 2 } as ProfileView;
    const answer = {
      ...ANSWER,
      chosen: { ...ANSWER.chosen, systemBytes: 0, dataBytes: 0 },
    } as SizeAnswer;
    expect(sizePlan(named, router, answer, ['out', 'in'], null)).toMatchObject({
      volumes: [],
      bootFirst: 'unknown',
      adapters: [
        { networkId: 'out', masquerade: true },
        { networkId: 'in', masquerade: false },
      ],
    });
  });
});
