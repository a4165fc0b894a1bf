import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { smallWorld } from '../change/testing.js';
import { overheadMiB } from '../host/index.js';
import { GIB } from '../quantity/index.js';
import type { Row } from '../record/index.js';
import {
  grownLoad,
  roundMemory,
  roundStorage,
  roundVcpu,
  sizeFaults,
  suggestSize,
  USUAL_PROFILES,
} from './index.js';

const world = smallWorld();
const profile = (name: string) => world.fleet.need('profile', world.id('profile', name));
const none = { load: null, growthPercent: 0, years: 0 };

describe('the size of a role', () => {
  /** Working values of the trade: common practice, no source. */
  it.each([
    ['text server', none, 1, 1024, 8, null],
    ['general server', { load: 50, growthPercent: 0, years: 0 }, 2, 3072, 52, null],
    ['desktop', none, 2, 4096, 40, null],
    ['NT-family server', { load: 20, growthPercent: 0, years: 0 }, 2, 6144, 60, null],
    ['router', none, 1, 1024, 0, null],
    ['nested hypervisor', none, 4, 16_384, 112, null],
    // 250 above 50, for each 100 one vCPU and 1 GiB: 2 + 2.5, 3 GiB + 2.5 GiB, rounded up.
    ['general server', { load: 300, growthPercent: 0, years: 0 }, 5, 6144, 52, null],
    // 16 cameras: 2 + 16 × 0.25 vCPU, 4 GiB + 16 × 256 MiB, 16 × 500 GB = 7,450.6 GiB in steps of 256.
    ['camera store', { load: 16, growthPercent: 0, years: 0 }, 6, 8192, 32, 7680],
  ])('%s for %j', (name, load, vcpu, memory, system, data) => {
    const size = suggestSize(profile(name), load);
    expect([
      size.vcpu.value,
      size.memory.value,
      size.system.value / GIB,
      size.data && size.data.value / GIB,
    ]).toEqual([vcpu, memory, system, data]);
    for (const figure of [size.vcpu, size.memory, size.system])
      expect(figure.lines.at(-1)!.value).toBe(figure.value);
  });
  it('grows with its load over the years: 10 cameras at 20 % a year are 15 in two', () => {
    expect(grownLoad({ load: 10, growthPercent: 20, years: 2 })).toBe(15);
    expect(grownLoad({ load: 100, growthPercent: 10, years: 3 })).toBe(134);
    const size = suggestSize(profile('camera store'), { load: 10, growthPercent: 20, years: 2 });
    expect(size.loadThen).toBe(15);
    expect(size.sentence).toBe(
      'A camera store for 10 cameras, which will be 15 in 2 years at 20 % a year gets 6 vCPU, 8 GiB of memory, 32 GiB for itself and 7 TiB for what it keeps.',
    );
  });
  it('is never below the minimum of its role', () => {
    const small: Row<'profile'> = {
      ...profile('database'),
      usualVcpu: 1,
      usualMemoryMiB: 512,
      usualBytes: GIB,
    };
    const size = suggestSize(small, none);
    expect([size.vcpu.value, size.memory.value, size.system.value / GIB]).toEqual([2, 4096, 32]);
    expect(size.memory.lines.map((line) => line.label)).toContain('At least, by the profile');
  });
  it('rounds up to sensible steps: never down, never twice', () => {
    expect([roundVcpu(2.5), roundVcpu(8), roundVcpu(8.2), roundVcpu(9)]).toEqual([3, 8, 10, 10]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2_000_000 }), (mib) => {
        expect(roundMemory(mib)).toBeGreaterThanOrEqual(mib);
        expect(roundMemory(roundMemory(mib))).toBe(roundMemory(mib));
        expect(roundStorage(mib * 2 ** 20)).toBeGreaterThanOrEqual(mib * 2 ** 20);
      }),
    );
  });
  // Steps grow with the size, and each begins at its bound: common practice, no source.
  it.each([
    [1, 128],
    [1024, 1024],
    [1025, 1536],
    [4096, 4096],
    [4097, 5120],
    [16_384, 16_384],
    [16_385, 20_480],
    [65_536, 65_536],
    [65_537, 73_728],
  ])('%i MiB become %i', (asked, given) => expect(roundMemory(asked)).toBe(given));
  it.each([
    [1, 4],
    [64, 64],
    [65, 80],
    [256, 256],
    [257, 320],
    [1024, 1024],
    [1025, 1280],
  ])('%i GiB of disk become %i', (asked, given) =>
    expect(roundStorage(asked * GIB) / GIB).toBe(given),
  );
  it('every usual role asks at least its own minimum, and says what its load is', () => {
    for (const { name } of USUAL_PROFILES) {
      const row = profile(name!);
      expect(row.usualVcpu).toBeGreaterThanOrEqual(row.minimumVcpu);
      expect(row.usualMemoryMiB).toBeGreaterThanOrEqual(row.minimumMemoryMiB);
      expect(row.stepMilliVcpu + row.stepMemoryMiB + row.stepDataBytes > 0).toBe(
        row.loadUnit !== '',
      );
    }
  });
  it('the usual roles come with a new record, and one that was removed comes back when asked for', () => {
    const other = smallWorld();
    expect(other.try({ type: 'profile.add-usual', input: {} })).toMatchObject({
      code: 'all-there',
    });
    other.make({ type: 'profile.remove', input: { id: other.id('profile', 'desktop') } });
    expect(other.make({ type: 'profile.add-usual', input: {} }).title).toBe(
      'added the roles desktop',
    );
  });
});

/** Nodes of 16 cores and 248 GiB: the worked cases of the NUMA rule, with the overhead that a guest adds taken off its memory. */
describe('what speaks against a size', () => {
  const here = smallWorld();
  here.make({
    type: 'host.record',
    input: {
      name: 'eider',
      state: 'in service',
      platformId: here.id('platform', 'Generic bare-metal 1'),
      sockets: 2,
      coresPerSocket: 16,
      threadsPerCore: 2,
      installedMiB: 512 * 1024,
      pools: [],
      networks: [],
    },
  });
  const eider = here.fleet.need('host', here.id('host', 'eider'));
  here.make({
    type: 'host.set-hardware',
    input: {
      hostId: eider.id,
      hardware: { nodes: [0, 1].map((node) => ({ node, cores: 16, memoryMiB: 248 * 1024 })) },
    },
  });
  const platform = here.fleet.need('platform', eider.platformId);
  const faults = (vcpu: number, demandMiB: number, host: Row<'host'> = eider) => {
    let memoryMiB = demandMiB;
    while (memoryMiB + overheadMiB(platform, vcpu, memoryMiB) > demandMiB) memoryMiB -= 1;
    return sizeFaults(here.fleet, { vcpu, memoryMiB }, null, host).map(({ fault }) => fault);
  };
  it.each([
    [8, 64, []],
    [16, 248, []],
    [17, 64, ['more than a node', 'uneven over nodes']],
    [33, 64, ['does not fit its nodes']],
    [4, 500, ['does not fit its nodes']],
    [65, 64, ['more than its threads']],
  ])('%i vCPU and %i GiB with overhead: %j', (vcpu, gib, found) =>
    expect(faults(vcpu, gib * 1024)).toEqual(found),
  );
  it('the sockets stand for nodes where none are recorded', () => {
    const tern = {
      ...here.fleet.need('host', here.id('host', 'tern')),
      sockets: 2,
      coresPerSocket: 4,
    };
    expect(faults(5, 2048, tern)).toContain('more than a node');
  });
  it('beyond the cores of one socket, an odd number leaves a core half used', () => {
    const tern = here.fleet.need('host', here.id('host', 'tern'));
    expect([faults(9, 2048, tern), faults(10, 2048, tern)]).toEqual([['odd number'], []]);
  });
  it('less than the minimum of a role is said', () => {
    const found = sizeFaults(
      here.fleet,
      { vcpu: 1, memoryMiB: 1024 },
      here.fleet.need('profile', here.id('profile', 'database')),
      null,
    );
    expect(found.map((guard) => guard.sentence)).toEqual([
      'A database would have 1 vCPU of at least 2 and 1 GiB of at least 4 GiB: it may not install, or crawl.',
    ]);
  });
});
