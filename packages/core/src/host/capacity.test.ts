import { describe, expect, it, test } from 'vitest';
import { overheadMiB } from './demand.js';
import { firmwareKeepsMiB, platformKeepsMiB } from './capacity.js';

/** Suggested coefficients: common practice, no source. */
const GENERIC = {
  keepsMiB: 2048,
  keepsPercent: 5,
  overheadMiB: 128,
  overheadPerVcpuMiB: 8,
  overheadPercent: 1,
  videoMiB: 16,
};

describe('overhead of a guest, hand-worked from 128 MiB + 8 per vCPU + 1 % + 16 video', () => {
  test.each([
    [1, 1024, 163],
    [2, 4096, 201],
    [4, 16_384, 340],
    [8, 65_536, 864],
    [32, 262_144, 3022],
  ])('%d vCPU, %d MiB: %d MiB', (vcpu, memory, wanted) =>
    expect(overheadMiB(GENERIC, vcpu, memory)).toBe(wanted),
  );
});

describe('what the platform keeps, larger of 2 GiB and 5 %', () => {
  test.each([
    [16, 2048, 14_336, 3],
    [64, 3277, 62_259, 14],
    [256, 13_108, 249_036, 57],
    [512, 26_215, 498_073, 115],
    [1024, 52_429, 996_147, 231],
  ])(
    'of %d GiB: %d MiB, %d MiB for guests, %d guests of 2 vCPU and 4 GiB',
    (gib, keeps, forGuests, fit) => {
      const visible = gib * 1024;
      expect(platformKeepsMiB(GENERIC, visible)).toBe(keeps);
      expect(visible - keeps).toBe(forGuests);
      expect(Math.floor(forGuests / (4096 + overheadMiB(GENERIC, 2, 4096)))).toBe(fit);
    },
  );
});

it('firmware and kernel keep what was measured, or 1/64 while nobody has looked', () => {
  // Linux keeps 64 bytes per 4 KiB page: kernel documentation, mm/vmemmap_dedup.
  expect(firmwareKeepsMiB({ installedMiB: 131_072, visibleMiB: 128_410 })).toEqual({
    value: 2662,
    measured: true,
  });
  expect(firmwareKeepsMiB({ installedMiB: 65_536, visibleMiB: null })).toEqual({
    value: 1024,
    measured: false,
  });
});
