/**
 * What a computer would need as a guest: from its measured use where there is any, else as it is, with a note to look again
 * after two weeks. Common practice, no source.
 */
import { practice, type Figure } from '../figure/index.js';
import { GIB, type MiB } from '../quantity/index.js';
import type { Row } from '../record/index.js';

/** Share of its vCPU that a guest may use at its 95th percentile. */
const BUSY_PERCENT = 60;
const SPARE_PERCENT = 125;
/** Memory is given in steps of this. */
const STEP_MIB: MiB = 256;
const REVIEW_DAYS = 14;

export interface AsGuest {
  vcpu: Figure;
  memory: Figure;
  /** Not both uses were measured: what was not is that of the hardware, or not known. */
  unmeasured: boolean;
}

type Hardware = Pick<
  Row<'computer'>,
  'sockets' | 'coresPerSocket' | 'threadsPerCore' | 'cpuP95Percent' | 'memoryPeakMiB' | 'memoryMiB'
>;

/** @param host where it is to run: no more vCPU than one of its sockets has cores */
export function asGuest(computer: Hardware | null, host: Row<'host'> | null = null): AsGuest {
  return {
    vcpu: vcpuFigure(computer, host),
    memory: memoryFigure(computer),
    unmeasured: computer?.cpuP95Percent == null || computer.memoryPeakMiB === null,
  };
}

const unknownLine = (label: string, unit: 'cores' | 'MiB') => ({
  label,
  value: null,
  unit,
  operator: '·' as const,
  note: 'not recorded',
});

function vcpuFigure(computer: Hardware | null, host: Row<'host'> | null): Figure {
  const cores =
    computer?.sockets && computer.coresPerSocket
      ? computer.sockets * computer.coresPerSocket
      : null;
  const threads = cores && cores * (computer?.threadsPerCore ?? 1);
  const share = computer?.cpuP95Percent ?? null;
  const base = { name: 'vcpu-as-guest', title: 'vCPU as a guest', unit: 'vCPU' as const };
  const most = host?.coresPerSocket ?? Infinity;
  const sources = [
    practice(`vCPU: 95th percentile of use ÷ ${BUSY_PERCENT} %, within one NUMA node`),
  ];
  if (cores === null || threads === null)
    return { ...base, value: null, lines: [unknownLine('Cores', 'cores')], sources };
  const bound = Number.isFinite(most)
    ? [
        {
          label: `Cores of one socket of ${host!.name}`,
          value: most,
          unit: 'cores' as const,
          operator: '·' as const,
          note: 'no more than these',
        },
      ]
    : [];
  if (share === null) {
    const value = Math.min(cores, most);
    return {
      ...base,
      value,
      lines: [
        {
          label: 'Cores it has, its use is not measured',
          value: cores,
          unit: 'cores',
          operator: '·',
        },
        ...bound,
        { label: 'vCPU', value, unit: 'vCPU', operator: '=' },
      ],
      sources: [practice(`Unmeasured: as the source, looked at again after ${REVIEW_DAYS} days`)],
    };
  }
  const busy = (threads * share) / 100;
  const value = Math.max(1, Math.min(Math.ceil((busy * 100) / BUSY_PERCENT), cores, most));
  return {
    ...base,
    value,
    lines: [
      { label: 'Threads', value: threads, unit: 'vCPU', operator: '·' },
      { label: 'In use, 95th percentile', value: share, unit: 'percent', operator: '×' },
      { label: 'May be in use', value: BUSY_PERCENT, unit: 'percent', operator: '÷' },
      {
        label: 'Cores it has',
        value: cores,
        unit: 'cores',
        operator: '·',
        note: 'no more than these',
      },
      ...bound,
      { label: 'vCPU, rounded up', value, unit: 'vCPU', operator: '=' },
    ],
    sources,
  };
}

function memoryFigure(computer: Hardware | null): Figure {
  const base = { name: 'memory-as-guest', title: 'Memory as a guest', unit: 'MiB' as const };
  const { memoryPeakMiB: peak = null, memoryMiB: installed = null } = computer ?? {};
  if (peak !== null) {
    const value = Math.ceil((peak * SPARE_PERCENT) / 100 / STEP_MIB) * STEP_MIB;
    return {
      ...base,
      value,
      lines: [
        { label: 'Most in use', value: peak, unit: 'MiB', operator: '·' },
        { label: 'With a quarter to spare', value: SPARE_PERCENT, unit: 'percent', operator: '×' },
        { label: `In steps of ${STEP_MIB} MiB`, value, unit: 'MiB', operator: '=' },
      ],
      sources: [practice('Memory: peak × 1.25')],
    };
  }
  if (installed === null)
    return { ...base, value: null, lines: [unknownLine('Memory', 'MiB')], sources: [] };
  return {
    ...base,
    value: installed,
    lines: [
      {
        label: 'Memory it has, its use is not measured',
        value: installed,
        unit: 'MiB',
        operator: '=',
      },
    ],
    sources: [practice(`Unmeasured: as the source, looked at again after ${REVIEW_DAYS} days`)],
  };
}

/** Bytes of a volume that a disk's image fits in: its full size and 1 GiB, in whole GiB. Common practice, no source. */
export const volumeBytesFor = (diskBytes: number): number => (Math.ceil(diskBytes / GIB) + 1) * GIB;
