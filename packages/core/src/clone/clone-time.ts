/**
 * How long a batch takes: *made*, when the disks are copied, and *ready*, when each is a machine of its own. Bytes that
 * are really allocated, over the rate of the slower side. Copies that share the disks of one pool share their rate; pools
 * work side by side. Its cost grows with the number of copies on record.
 */
import { own, practice, type Figure, type WorkingLine } from '../figure/index.js';
import { counted } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { percentile, predictedRange } from '../measure/index.js';
import { isGeneralised, versionOf } from '../template/index.js';

/** Usual bytes per second of a copy within a pool: it reads and writes the same disks. Common practice, no source. */
const POOL_RATES = { spinning: 60e6, solid: 500e6, unknown: 80e6 } as const;
/** Between two hosts over 1 Gbit/s. Common practice, no source. */
const NETWORK_RATE = 85e6;
/** Minutes from made to ready, by whether the version was generalised. Common practice, no source. */
const READY_MINUTES = { generalised: 5, not: 12 } as const;

export interface CopyJob {
  /** Allocated bytes; 0 for a copy that shares its base. */
  bytes: number;
  fromPoolId: string;
  toPoolId: string;
}

export interface BatchTime {
  made: Figure;
  ready: Figure;
  /** Seconds, fastest and slowest. */
  range: { made: [number, number]; ready: [number, number] };
}

export type DiskSpeed = keyof typeof POOL_RATES;

export function speedOfPool(fleet: Fleet, poolId: string): DiskSpeed {
  const pool = fleet.need('pool', poolId);
  const disks = pool.arrayId
    ? fleet.referring('disk', 'arrayId', pool.arrayId)
    : [fleet.get('disk', pool.diskId)].flatMap((disk) => disk ?? []);
  if (disks.length === 0) return 'unknown';
  return disks.some((disk) => disk.class.endsWith('disk')) ? 'spinning' : 'solid';
}

/** Allocated bytes of a guest's volumes: what is known to be written, else the full size. */
export const allocatedBytes = (volumes: readonly Row<'volume'>[]): number =>
  volumes.reduce(
    (sum, { thin, usedBytes, bytes }) => sum + (thin ? (usedBytes ?? bytes) : bytes),
    0,
  );

/** Of clones that are in the fleet, all from one origin; null of none. */
export function timeOfClones(fleet: Fleet, clones: readonly Row<'clone'>[]): BatchTime | null {
  const [first] = clones;
  if (!first) return null;
  const version = versionOf(fleet, first.originId);
  const origins = fleet.referring('volume', 'guestId', first.originId);
  const copies = clones.flatMap(({ guestId }) =>
    fleet.referring('volume', 'guestId', guestId).map((volume, i) => {
      const from = origins[i] ?? volume;
      return {
        bytes: volume.baseId ? 0 : allocatedBytes([from]),
        fromPoolId: from.poolId,
        toPoolId: volume.poolId,
      };
    }),
  );
  return batchTime(fleet, copies, version?.sealedAt != null && isGeneralised(fleet, version.id));
}

/** Of the blocks that volumes get beside their own when they no longer share their base; null of none. */
export function timeOfPromotion(fleet: Fleet, volumes: readonly Row<'volume'>[]): BatchTime | null {
  const copies = volumes.flatMap(({ poolId, baseId }) => {
    const base = fleet.get('volume', baseId);
    return base ? [{ bytes: allocatedBytes([base]), fromPoolId: poolId, toPoolId: poolId }] : [];
  });
  return copies.length === 0 ? null : batchTime(fleet, copies, true);
}

/** Rates that copies of clones really reached, in bytes per second. */
export function pastRates(fleet: Fleet): number[] {
  return [...fleet.all('clone')].flatMap(({ copySeconds, copy, guestId, originId }) => {
    if (copySeconds === null || copy === 'dependent') return [];
    const bytes =
      allocatedBytes(fleet.referring('volume', 'guestId', originId)) ||
      allocatedBytes(fleet.referring('volume', 'guestId', guestId));
    return bytes > 0 ? [bytes / copySeconds] : [];
  });
}

export function batchTime(
  fleet: Fleet,
  copies: readonly CopyJob[],
  generalised: boolean,
): BatchTime {
  const rates = pastRates(fleet);
  const byWay = new Map<string, { bytes: number; count: number; label: string; usual: number }>();
  for (const { bytes, fromPoolId, toPoolId } of copies) {
    const same = fromPoolId === toPoolId;
    const key = same ? fromPoolId : `${fromPoolId}|${toPoolId}`;
    const way = byWay.get(key) ?? { bytes: 0, count: 0, ...wayOf(fleet, fromPoolId, toPoolId) };
    byWay.set(key, { ...way, bytes: way.bytes + bytes, count: way.count + 1 });
  }
  const seen = percentile(rates, 50);
  const seconds = (way: { bytes: number; usual: number }) => way.bytes / (seen ?? way.usual);
  const made = Math.max(0, ...[...byWay.values()].map(seconds));
  const { low: fast, high: slow } = predictedRange(rates.map((past) => seen! / past));
  const minutes = generalised ? READY_MINUTES.generalised : READY_MINUTES.not * copies.length;
  const ready = made + minutes * 60;
  const lines = [...byWay.values()].flatMap((way): WorkingLine[] => [
    {
      label: `Bytes allocated, ${counted(way.count, 'copy', 'copies')} ${way.label}`,
      value: way.bytes,
      unit: 'bytes',
      operator: '·',
    },
    {
      label: seen
        ? `Rate reached, median of ${counted(rates.length, 'past copy', 'past copies')}`
        : 'Usual rate there, all copies together',
      value: seen ?? way.usual,
      unit: 'bytes/s',
      operator: '÷',
    },
  ]);
  const range = (value: number): WorkingLine[] => [
    { label: 'Range, fastest', value: value * fast, unit: 'seconds', operator: '·' },
    { label: 'Range, slowest', value: value * slow, unit: 'seconds', operator: '·' },
  ];
  const sources = [
    seen
      ? own('Range: 8 of 10 batches fall into it, by past copies')
      : practice(
          'Rates of copies within a pool and between hosts; range without history 0.5 to 3 times',
        ),
    practice(
      `From made to ready: ${READY_MINUTES.generalised} min where it draws its own identity, all at once; ${READY_MINUTES.not} min each where a person gives it`,
    ),
  ];
  return {
    made: {
      name: 'clones-made',
      title: 'Made: disks copied',
      value: made,
      unit: 'seconds',
      lines: [
        ...lines,
        {
          label: byWay.size > 1 ? 'The slowest of these ways' : 'Made',
          value: made,
          unit: 'seconds',
          operator: '=',
        },
        ...range(made),
      ],
      sources,
    },
    ready: {
      name: 'clones-ready',
      title: 'Ready: machines of their own',
      value: ready,
      unit: 'seconds',
      lines: [
        { label: 'Made', value: made, unit: 'seconds', operator: '·' },
        {
          label: generalised
            ? 'They start with their own files, at once'
            : `${copies.length} × ${READY_MINUTES.not} min, one after the other`,
          value: minutes * 60,
          unit: 'seconds',
          operator: '+',
        },
        { label: 'Ready', value: ready, unit: 'seconds', operator: '=' },
        ...range(ready),
      ],
      sources,
    },
    range: { made: [made * fast, made * slow], ready: [ready * fast, ready * slow] },
  };
}

function wayOf(
  fleet: Fleet,
  fromPoolId: string,
  toPoolId: string,
): { label: string; usual: number } {
  const to = fleet.need('pool', toPoolId);
  const speed = speedOfPool(fleet, toPoolId);
  const words = { spinning: 'spinning disks', solid: 'solid disks', unknown: 'disks not recorded' };
  if (fromPoolId === toPoolId)
    return { label: `within pool ${to.name}, ${words[speed]}`, usual: POOL_RATES[speed] };
  const from = fleet.need('pool', fromPoolId);
  const hosts = new Set(
    [from, to].flatMap((pool) =>
      fleet.referring('poolReach', 'poolId', pool.id).map(({ hostId }) => hostId),
    ),
  );
  const slower = Math.min(POOL_RATES[speed], POOL_RATES[speedOfPool(fleet, from.id)]);
  const usual = hosts.size > 1 ? Math.min(slower, NETWORK_RATE) : slower;
  return { label: `from pool ${from.name} to ${to.name}`, usual };
}
