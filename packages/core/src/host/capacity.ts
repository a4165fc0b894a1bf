/**
 * What a host has for guests: installed memory less what firmware, kernel and platform keep; cores times the policy's
 * vCPU per core. Threads are no cores: a second thread adds some yield, not a processor.
 */
import { fromRecord, practice, standard, type Sure } from '../figure/index.js';
import type { MiB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { policyOf, type Policy } from './policy.js';

/**
 * Memory that firmware and kernel keep: measured where the running system was looked at, otherwise one page descriptor
 * of 64 bytes per 4 KiB page (Linux kernel documentation, mm/vmemmap_dedup), that is 1/64, rounded up.
 */
export function firmwareKeepsMiB(host: Pick<Row<'host'>, 'installedMiB' | 'visibleMiB'>): {
  value: MiB;
  measured: boolean;
} {
  if (host.visibleMiB !== null)
    return { value: Math.max(0, host.installedMiB - host.visibleMiB), measured: true };
  return { value: Math.ceil(host.installedMiB / 64), measured: false };
}

/**
 * Memory that the platform keeps of what the system sees: the larger of a fixed amount and a share, rounded up.
 * @example platformKeepsMiB({ keepsMiB: 2048, keepsPercent: 5 }, 65536) // 3277
 */
export function platformKeepsMiB(
  platform: Pick<Row<'platform'>, 'keepsMiB' | 'keepsPercent'>,
  visibleMiB: MiB,
): MiB {
  return Math.max(platform.keepsMiB, Math.ceil((platform.keepsPercent * visibleMiB) / 100));
}

export const cores = (host: Pick<Row<'host'>, 'sockets' | 'coresPerSocket'>): number =>
  host.sockets * host.coresPerSocket;

export interface Capacity {
  memory: Sure;
  vcpu: Sure;
  /** Kept free on purpose, part of the above: MiB and vCPU. */
  reserve: { memory: Sure; vcpu: Sure };
}

/** What of a host and its platform says so. */
const HAS = [
  ...(['id', 'name', 'groupId', 'platformId'] as const),
  ...(['installedMiB', 'visibleMiB', 'sockets', 'coresPerSocket'] as const),
] as const;
const KEEPS = ['id', 'name', 'keepsMiB', 'keepsPercent'] as const;
type Has = Pick<Row<'host'>, (typeof HAS)[number]>;
type Keeps = Pick<Row<'platform'>, (typeof KEEPS)[number]>;

export function capacity(fleet: Fleet, hostId: string): Capacity {
  return fleet.memo(hostId, 'capacity', () => {
    const host = fleet.pick('host', hostId, ...HAS);
    const policy = policyOf(fleet, host);
    const platform = fleet.pick('platform', host.platformId, ...KEEPS);
    const memory = memoryForGuests(host, platform, policy);
    const vcpu = vcpuForGuests(host, policy);
    return {
      memory,
      vcpu,
      reserve: {
        memory: reserveOf(memory, policy, host.name),
        vcpu: reserveOf(vcpu, policy, host.name),
      },
    };
  });
}

const policyName = (policy: Policy): string =>
  policy.from
    ? `Policy of the host group ${policy.from.name}`
    : 'The usual policy; put the host into a group to alter it';

function reserveOf(total: Sure, { reservePercent, ...policy }: Policy, hostName: string): Sure {
  const value = Math.ceil((total.value * reservePercent) / 100);
  return {
    name: `${total.name}-reserve`,
    title: `Kept free on purpose, ${hostName}`,
    value,
    unit: total.unit,
    lines: [
      { label: total.title, value: total.value, unit: total.unit, operator: '·' },
      { label: 'Reserve (policy)', value: reservePercent, unit: 'percent', operator: '×' },
      { label: 'Kept free', value, unit: total.unit, operator: '=' },
    ],
    sources: [practice('A reserve for a failed host')],
    policy: policyName({ reservePercent, ...policy }),
  };
}

function memoryForGuests(host: Has, platform: Keeps, policy: Policy): Sure {
  const from = { kind: 'host' as const, id: host.id };
  const firmware = firmwareKeepsMiB(host);
  const visible = host.installedMiB - firmware.value;
  const kept = platformKeepsMiB(platform, visible);
  const value = Math.floor((Math.max(0, visible - kept) * policy.memoryPercent) / 100);
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
        note: firmware.measured
          ? undefined
          : 'record what the running system sees to replace the estimate',
      },
      {
        label: `Platform keeps, larger of ${platform.keepsMiB} MiB and ${platform.keepsPercent} %`,
        value: kept,
        unit: 'MiB',
        operator: '−',
        from: { kind: 'platform', id: platform.id },
      },
      ...(policy.memoryPercent === 100
        ? []
        : [
            {
              label: 'Promised up to (policy)',
              value: policy.memoryPercent,
              unit: 'percent' as const,
              operator: '×' as const,
            },
          ]),
      { label: 'For guests', value, unit: 'MiB', operator: '=' },
    ],
    sources: [
      ...(firmware.measured
        ? []
        : [
            standard(
              'Page descriptors: Linux kernel documentation, mm/vmemmap_dedup (64 bytes per 4 KiB)',
            ),
          ]),
      practice('What the platform keeps'),
    ],
    policy: `Properties of the platform ${platform.name}; ${policyName(policy)}`,
  };
}

function vcpuForGuests(host: Has, policy: Policy): Sure {
  const value = cores(host) * policy.vcpuPerCore;
  return {
    name: 'vcpu-for-guests',
    title: `vCPU for guests, ${host.name}`,
    value,
    unit: 'vCPU',
    lines: [
      {
        label: 'Sockets',
        value: host.sockets,
        unit: 'count',
        operator: '·',
        from: { kind: 'host', id: host.id },
      },
      { label: 'Cores per socket', value: host.coresPerSocket, unit: 'cores', operator: '×' },
      { label: 'vCPU per core (policy)', value: policy.vcpuPerCore, unit: 'vCPU', operator: '×' },
      { label: 'vCPU for guests', value, unit: 'vCPU', operator: '=' },
    ],
    sources: [
      fromRecord('Cores: the record; threads are not counted as cores'),
      practice('vCPU per core: 4 for general servers, 1 where latency counts'),
    ],
    policy: policyName(policy),
  };
}
