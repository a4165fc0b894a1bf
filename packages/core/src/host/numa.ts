/**
 * Whether a guest fits into one NUMA node: a processor with the memory next to it. Over more nodes part of the memory is
 * farther away. k = max(ceil(vCPU / cores of a node), ceil(memory / memory of a node)); the rule of dividing evenly is own.
 */
import type { MiB } from '../quantity/index.js';

export interface NodeSize {
  cores: number;
  /** For guests, after the node's share of what firmware, kernel and platform keep. */
  memoryMiB: MiB;
}

export type NumaFit =
  | { fits: true; nodes: number; vcpuPerNode: number[]; memoryPerNodeMiB: MiB; even: boolean }
  | { fits: false; nodes: number };

/** @param nodes alike ones; the smallest counts for all */
export function numaFit(nodes: readonly NodeSize[], vcpu: number, memoryMiB: MiB): NumaFit {
  const cores = Math.min(...nodes.map((node) => node.cores));
  const memory = Math.min(...nodes.map((node) => node.memoryMiB));
  const k =
    memory > 0 ? Math.max(Math.ceil(vcpu / cores), Math.ceil(memoryMiB / memory)) : Infinity;
  if (k > nodes.length) return { fits: false, nodes: k };
  const low = Math.floor(vcpu / k);
  const vcpuPerNode = Array.from({ length: k }, (_, i) => low + (i < vcpu % k ? 1 : 0));
  return {
    fits: true,
    nodes: k,
    vcpuPerNode,
    memoryPerNodeMiB: Math.ceil(memoryMiB / k),
    even: vcpu % k === 0 && memoryMiB % k === 0,
  };
}
