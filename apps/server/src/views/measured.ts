/** What measured samples say about a guest or a pool. */
import type { GuestUseView, PoolUseView, UsePoint } from '@insel/contract';
import {
  formatMemory,
  own,
  percentile,
  rightSize,
  runway,
  theilSen,
  type Figure,
  type Fleet,
  type RightSize,
  type Row,
} from '@insel/core';
import type { Sample } from '../record/samples.js';

/** Points of a chart; each stands for the samples of an equal part of the time. */
const POINTS = 240;
const DAY = 86_400_000;
const CPU_HEADROOM = 25;
const MEMORY_HEADROOM = 20;

export function guestUse(
  fleet: Fleet,
  guest: Row<'guest'>,
  samples: readonly Sample[],
): GuestUseView {
  const [first, last] = [samples[0]?.at ?? null, samples.at(-1)?.at ?? null];
  // Percentiles are taken of samples as they were taken; what is summed up is drawn, and counted.
  const whole = samples.filter((sample) => sample.samples === 1);
  const [wholeFrom, wholeTo] = [whole[0]?.at ?? null, whole.at(-1)?.at ?? null];
  const days = wholeFrom && wholeTo ? (Date.parse(wholeTo) - Date.parse(wholeFrom)) / DAY : 0;
  const all = samples.reduce((sum, sample) => sum + sample.samples, 0);
  const profile = fleet.get('profile', guest.profileId);
  const sized = (
    values: (number | null)[],
    sizing: {
      title: string;
      unit: 'vCPU' | 'MiB';
      now: number;
      headroomPercent: number;
      step: number;
      minimum: number;
    },
  ): RightSize | null => {
    const known = values.filter((value) => value !== null);
    if (known.length === 0) return null;
    return rightSize({
      ...sizing,
      use: {
        p95: percentile(known, 95)!,
        most: Math.max(
          ...known.slice(0, 1),
          known.reduce((most, value) => Math.max(most, value), 0),
        ),
        samples: known.length,
        days,
      },
    });
  };
  const vcpu = sized(
    whole.map((sample) =>
      sample.cpuPercent === null ? null : (sample.cpuPercent * guest.vcpu) / 100,
    ),
    {
      title: `vCPU ${guest.name} should have`,
      unit: 'vCPU',
      now: guest.vcpu,
      headroomPercent: CPU_HEADROOM,
      step: 1,
      minimum: profile?.minimumVcpu ?? 1,
    },
  );
  const memory = sized(
    whole.map((sample) => sample.memoryMiB),
    {
      title: `Memory ${guest.name} should have`,
      unit: 'MiB',
      now: guest.memoryMiB,
      headroomPercent: MEMORY_HEADROOM,
      step: guest.memoryMiB <= 4096 ? 256 : 1024,
      minimum: profile?.minimumMemoryMiB ?? 256,
    },
  );
  return {
    samples: all,
    summedUp: all - whole.length,
    days,
    firstAt: first,
    lastAt: last,
    points: pointsOf(samples),
    vcpu,
    memory,
    disk: diskFigure(fleet, guest, samples),
    saves: savesOf(fleet, guest, vcpu, memory),
  };
}

function savesOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  vcpu: RightSize | null,
  memory: RightSize | null,
): string {
  const parts = [
    vcpu?.advice === 'shrink' ? `${guest.vcpu - vcpu.to} vCPU` : '',
    memory?.advice === 'shrink' ? formatMemory(guest.memoryMiB - memory.to) : '',
  ].filter(Boolean);
  return parts.length
    ? `Smaller, it gives ${parts.join(' and ')} back to ${fleet.need('host', guest.hostId).name}; it has to be restarted for that.`
    : '';
}

function diskFigure(fleet: Fleet, guest: Row<'guest'>, samples: readonly Sample[]): Figure | null {
  const last = samples.findLast((sample) => sample.diskBytes !== null);
  if (!last) return null;
  const given = fleet
    .referring('volume', 'guestId', guest.id)
    .reduce((sum, volume) => sum + volume.bytes, 0);
  const value = given > 0 ? (last.diskBytes! / given) * 100 : null;
  return {
    name: 'disk-used',
    title: `Disk used by ${guest.name}`,
    value,
    unit: 'percent',
    lines: [
      {
        label: `Used on ${last.at.slice(0, 10)}, the last sample`,
        value: last.diskBytes,
        unit: 'bytes',
        operator: '·',
      },
      {
        label: 'Size of its volumes',
        value: given,
        unit: 'bytes',
        operator: '÷',
        from: { kind: 'guest', id: guest.id },
      },
      { label: 'Used of that', value, unit: 'percent', operator: '=' },
    ],
    sources: [own('Measured samples, as imported')],
  };
}

function pointsOf(samples: readonly Sample[]): UsePoint[] {
  if (samples.length === 0) return [];
  const first = Date.parse(samples[0]!.at);
  const span = Math.max(1, Date.parse(samples.at(-1)!.at) - first);
  const parts = new Map<number, Sample[]>();
  for (const sample of samples) {
    const part = Math.min(
      POINTS - 1,
      Math.floor(((Date.parse(sample.at) - first) / span) * POINTS),
    );
    const held = parts.get(part);
    if (held) held.push(sample);
    else parts.set(part, [sample]);
  }
  return [...parts.values()].map((part) => {
    const of = (pick: (sample: Sample) => number | null) =>
      part.map(pick).filter((value) => value !== null);
    const [cpu, memory, disk] = [
      of((sample) => sample.cpuPercent),
      of((sample) => sample.memoryMiB),
      of((sample) => sample.diskBytes),
    ];
    return {
      at: part[0]!.at,
      cpu: mean(cpu),
      cpuMost: most(of((sample) => sample.cpuMost)),
      memoryMiB: mean(memory),
      memoryMostMiB: most(of((sample) => sample.memoryMostMiB)),
      diskBytes: disk.at(-1) ?? null,
    };
  });
}

const mean = (values: number[]): number | null =>
  values.length
    ? Math.round((values.reduce((sum, value) => sum + value, 0) / values.length) * 10) / 10
    : null;
const most = (values: number[]): number | null => (values.length ? Math.max(...values) : null);

export function poolUse(pool: Row<'pool'>, samples: readonly Sample[], now: string): PoolUseView {
  const used = samples
    .filter((sample) => sample.diskBytes !== null)
    .map((sample) => ({ at: sample.at, usedBytes: sample.diskBytes! }));
  const points = used.map(({ at, usedBytes }) => ({ x: Date.parse(at) / 1000, y: usedBytes }));
  const line = theilSen(points);
  const [first, last] = [points[0], points.at(-1)];
  const until = (limitBytes: number, limitWords: string) =>
    runway({
      samples: points,
      limit: limitBytes,
      title: `Until ${limitWords.toLowerCase()}, pool ${pool.name}`,
      limitWords,
      now: Date.parse(now) / 1000,
    });
  return {
    samples: used.length,
    points: used.filter(
      (_, i) => i % Math.ceil(used.length / POINTS) === 0 || i === used.length - 1,
    ),
    trend:
      line && first && last
        ? {
            fromAt: used[0]!.at,
            from: line.intercept + line.slope * first.x,
            toAt: used.at(-1)!.at,
            to: line.intercept + line.slope * last.x,
          }
        : null,
    runway: until(pool.usableBytes, 'Usable'),
    alarmRunway: until(
      Math.floor((pool.usableBytes * pool.fillAlarmPercent) / 100),
      `Its alarm at ${pool.fillAlarmPercent} %`,
    ),
  };
}
