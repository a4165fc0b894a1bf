import { expect, it, test } from 'vitest';
import { numaFit } from './numa.js';

const GIB = 1024;
/** Two nodes of 16 cores and 248 GiB: hand-worked cases, overhead left out. */
const TWO = [
  { cores: 16, memoryMiB: 248 * GIB },
  { cores: 16, memoryMiB: 248 * GIB },
];

test.each([
  [8, 64, { nodes: 1, even: true }],
  [16, 248, { nodes: 1 }],
  [17, 64, { nodes: 2, vcpuPerNode: [9, 8], even: false }],
  [20, 200, { nodes: 2, vcpuPerNode: [10, 10], memoryPerNodeMiB: 100 * GIB, even: true }],
  [8, 300, { nodes: 2, vcpuPerNode: [4, 4] }],
  [32, 400, { nodes: 2, vcpuPerNode: [16, 16] }],
  [33, 64, { fits: false, nodes: 3 }],
  [4, 500, { fits: false, nodes: 3 }],
])('%d vCPU and %d GiB', (vcpu, gib, wanted) =>
  expect(numaFit(TWO, vcpu, gib * GIB)).toMatchObject({ fits: true, ...wanted }),
);

it('fits exactly, and one MiB more takes a second node', () =>
  expect([numaFit(TWO, 1, 248 * GIB).nodes, numaFit(TWO, 1, 248 * GIB + 1).nodes]).toEqual([1, 2]));
it('has no node where nothing is left for guests', () =>
  expect(numaFit([{ cores: 4, memoryMiB: 0 }], 1, 1).fits).toBe(false));
