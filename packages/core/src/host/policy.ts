/** How far a host may be promised: by its group, or by the habit for general servers. */
import type { Fleet, Row } from '../record/index.js';

export interface Policy {
  vcpuPerCore: number;
  /** Memory may be promised up to this share of what is there, in per cent. */
  memoryPercent: number;
  /** Share of processors and memory kept free on purpose, in per cent. */
  reservePercent: number;
  /** What says so. */
  from: { kind: 'hostGroup'; id: string; name: string } | null;
}

/** General servers: 4 vCPU per core; memory is never promised twice; nothing kept free. Common practice, no source. */
const DEFAULT_POLICY: Policy = {
  vcpuPerCore: 4,
  memoryPercent: 100,
  reservePercent: 0,
  from: null,
};

export function policyOf(fleet: Fleet, host: Pick<Row<'host'>, 'groupId'>): Policy {
  if (!host.groupId) return DEFAULT_POLICY;
  const { name, vcpuPerCore, memoryPercent, reservePercent } = fleet.pick(
    'hostGroup',
    host.groupId,
    ...(['name', 'vcpuPerCore', 'memoryPercent', 'reservePercent'] as const),
  );
  return {
    vcpuPerCore,
    memoryPercent,
    reservePercent,
    from: { kind: 'hostGroup', id: host.groupId, name },
  };
}
