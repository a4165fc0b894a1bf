/** What a host still has room for, what limits it first, and the largest guest that fits. */
import { practice, type Figure, type WorkingLine, type Sure } from '../figure/index.js';
import { overheadMiB, platformOf } from './demand.js';
import { counted, fewNames, formatMemory } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { capacity } from './capacity.js';
import { load } from './load.js';

export interface Headroom {
  /** MiB left above the reserve; negative when that is used, or more than there is. */
  memory: Sure;
  /** vCPU left above the reserve. */
  vcpu: Sure;
  memoryUsed: Sure;
  vcpuUsed: Sure;
  limits: 'memory' | 'processors';
}

export function headroom(fleet: Fleet, hostId: string): Headroom {
  return fleet.memo(hostId, 'headroom', () => {
    const host = fleet.need('host', hostId);
    const has = capacity(fleet, hostId);
    const used = load(fleet, hostId);
    const stopped = used.stopped.length
      ? `; stopped, with their room kept: ${fewNames(used.stopped)}`
      : '';
    const lines = (unit: 'MiB' | 'vCPU', guests: number, held: number): WorkingLine[] => [
      {
        label: `${counted(used.guests.count, 'guest')}${unit === 'MiB' ? ', overhead included' : ''}${stopped}`,
        value: guests,
        unit,
        operator: '−',
        from: { kind: 'host', id: hostId },
      },
      ...(used.held.count
        ? [
            {
              label: `${counted(used.held.count, 'hold')} of migrations`,
              value: held,
              unit,
              operator: '−' as const,
            },
          ]
        : []),
    ];
    const left = (
      name: string,
      title: string,
      total: Sure,
      reserve: Sure,
      guests: number,
      held: number,
    ): Sure => ({
      ...total,
      name,
      title: `${title}, ${host.name}`,
      value: total.value - reserve.value - guests - held,
      lines: [
        ...total.lines,
        ...(reserve.value
          ? [
              {
                label: 'Kept free on purpose (policy)',
                value: reserve.value,
                unit: total.unit,
                operator: '−' as const,
              },
            ]
          : []),
        ...lines(total.unit as 'MiB' | 'vCPU', guests, held),
        {
          label: 'Left',
          value: total.value - reserve.value - guests - held,
          unit: total.unit,
          operator: '=',
        },
      ],
      sources: [
        ...total.sources,
        ...(total.unit === 'MiB' ? [practice('Overhead of a guest')] : []),
        ...(reserve.value ? reserve.sources : []),
      ],
    });
    const share = (name: string, title: string, total: Sure, taken: number): Sure => {
      const value = total.value === 0 ? (taken > 0 ? 100 : 0) : (taken / total.value) * 100;
      return {
        ...total,
        name,
        title: `${title}, ${host.name}`,
        value,
        unit: 'percent',
        lines: [
          { label: 'Guests and holds', value: taken, unit: total.unit, operator: '·' },
          { label: total.title, value: total.value, unit: total.unit, operator: '÷' },
          { label: 'Taken', value, unit: 'percent', operator: '=' },
        ],
      };
    };
    const memoryUsed = share('memory-taken', 'Memory taken', has.memory, used.memoryMiB);
    const vcpuUsed = share('vcpu-taken', 'Processors taken', has.vcpu, used.vcpu);
    return {
      memory: left(
        'memory-headroom',
        'Memory left',
        has.memory,
        has.reserve.memory,
        used.guests.memoryMiB,
        used.held.memoryMiB,
      ),
      vcpu: left(
        'vcpu-headroom',
        'vCPU left',
        has.vcpu,
        has.reserve.vcpu,
        used.guests.vcpu,
        used.held.vcpu,
      ),
      memoryUsed,
      vcpuUsed,
      limits: memoryUsed.value >= vcpuUsed.value ? 'memory' : 'processors',
    };
  });
}

/**
 * The most memory a guest of that many vCPU can have on the host, in MiB: the largest m with m + overhead(m) ≤ what is
 * left. Null where not even one MiB fits, or the vCPU do not.
 */
export function largestGuest(fleet: Fleet, hostId: string, vcpu = 1): Figure {
  const room = headroom(fleet, hostId);
  const platform = platformOf(fleet, hostId);
  const left = room.memory.value;
  const fixed = overheadMiB(platform, vcpu, 0);
  let memory = Math.floor(((left - fixed) * 100) / (100 + platform.overheadPercent)) + 1;
  while (memory > 0 && memory + overheadMiB(platform, vcpu, memory) > left) memory -= 1;
  const fits = memory > 0 && room.vcpu.value >= vcpu;
  return {
    name: 'largest-guest',
    title: `Largest guest of ${vcpu} vCPU that fits, ${fleet.need('host', hostId).name}`,
    value: fits ? memory : null,
    unit: 'MiB',
    lines: [
      {
        label: 'Memory left',
        value: left,
        unit: 'MiB',
        operator: '·',
        from: { kind: 'host', id: hostId },
      },
      {
        label: `Overhead of a guest of ${vcpu} vCPU and ${formatMemory(Math.max(0, memory))}`,
        value: overheadMiB(platform, vcpu, Math.max(0, memory)),
        unit: 'MiB',
        operator: '−',
      },
      {
        label: 'Its memory',
        value: fits ? memory : null,
        unit: 'MiB',
        operator: '=',
        note: fits ? undefined : 'nothing fits',
      },
    ],
    sources: [practice('Overhead of a guest')],
    policy: `Properties of the platform ${platform.name}`,
  };
}
