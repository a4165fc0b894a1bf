/**
 * What a host has for guests: installed memory less what firmware, kernel and platform keep; cores times the policy's
 * vCPU per core. Threads are no cores: a second thread adds some yield, not a processor.
 */
import { fromRecord, practice, standard, type Figure } from '../figure/index.js';
import type { MiB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { DEFAULT_POLICY } from './policy.js';

/**
 * Memory that firmware and kernel keep: measured where the running system was looked at, otherwise one page descriptor
 * of 64 bytes per 4 KiB page (Linux kernel documentation, mm/vmemmap_dedup), that is 1/64, rounded up.
 */
export function firmwareKeepsMiB(host: Pick<Row<'host'>, 'installedMiB' | 'visibleMiB'>): { value: MiB; measured: boolean } {
  if (host.visibleMiB !== null) return { value: Math.max(0, host.installedMiB - host.visibleMiB), measured: true };
  return { value: Math.ceil(host.installedMiB / 64), measured: false };
}

/**
 * Memory that the platform keeps of what the system sees: the larger of a fixed amount and a share, rounded up.
 * @example platformKeepsMiB({ keepsMiB: 2048, keepsPercent: 5 }, 65536) // 3277
 */
export function platformKeepsMiB(platform: Pick<Row<'platform'>, 'keepsMiB' | 'keepsPercent'>, visibleMiB: MiB): MiB {
  return Math.max(platform.keepsMiB, Math.ceil((platform.keepsPercent * visibleMiB) / 100));
}

export const cores = (host: Pick<Row<'host'>, 'sockets' | 'coresPerSocket'>): number => host.sockets * host.coresPerSocket;

export interface Capacity {
  memory: Figure & { value: number };
  vcpu: Figure & { value: number };
}

export function capacity(fleet: Fleet, hostId: string): Capacity {
  return fleet.memo(hostId, 'capacity', () => {
    const host = fleet.need('host', hostId);
    return { memory: memoryForGuests(host, fleet.need('platform', host.platformId)), vcpu: vcpuForGuests(host) };
  });
}

function memoryForGuests(host: Row<'host'>, platform: Row<'platform'>): Figure & { value: number } {
  const from = { kind: 'host' as const, id: host.id };
  const firmware = firmwareKeepsMiB(host);
  const visible = host.installedMiB - firmware.value;
  const kept = platformKeepsMiB(platform, visible);
  const value = Math.max(0, visible - kept);
  return {
    name: 'memory-for-guests',
    title: `Memory for guests, ${host.name}`,
    value,
    unit: 'MiB',
    lines: [
      { label: 'Installed', value: host.installedMiB, unit: 'MiB', operator: '·', from },
      {
        label: `Firmware and kernel keep (${firmware.measured ? 'measured' : 'estimated, 1/64'})`,
        value: firmware.value,
        unit: 'MiB',
        operator: '−',
        note: firmware.measured ? undefined : 'record what the running system sees to replace the estimate',
      },
      {
        label: `Platform keeps, larger of ${platform.keepsMiB} MiB and ${platform.keepsPercent} %`,
        value: kept,
        unit: 'MiB',
        operator: '−',
        from: { kind: 'platform', id: platform.id },
      },
      { label: 'For guests', value, unit: 'MiB', operator: '=' },
    ],
    sources: [
      ...(firmware.measured ? [] : [standard('Page descriptors: Linux kernel documentation, mm/vmemmap_dedup (64 bytes per 4 KiB)')]),
      practice('What the platform keeps'),
    ],
    policy: `Properties of the platform ${platform.name}`,
  };
}

function vcpuForGuests(host: Row<'host'>): Figure & { value: number } {
  const value = cores(host) * DEFAULT_POLICY.vcpuPerCore;
  return {
    name: 'vcpu-for-guests',
    title: `vCPU for guests, ${host.name}`,
    value,
    unit: 'vCPU',
    lines: [
      { label: 'Sockets', value: host.sockets, unit: 'count', operator: '·', from: { kind: 'host', id: host.id } },
      { label: 'Cores per socket', value: host.coresPerSocket, unit: 'cores', operator: '×' },
      { label: 'vCPU per core (policy)', value: DEFAULT_POLICY.vcpuPerCore, unit: 'vCPU', operator: '×' },
      { label: 'vCPU for guests', value, unit: 'vCPU', operator: '=' },
    ],
    sources: [fromRecord('Cores: the record; threads are not counted as cores'), practice('4 vCPU per core for general servers')],
    policy: 'Ratio of vCPU per core',
  };
}
