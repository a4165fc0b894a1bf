/**
 * What a pool has set apart, promised and really left. A thick volume, a snapshot and room held for a move take their bytes
 * at once; a thin volume is a promise, which may go beyond the pool up to its limit, and takes what its guest has written.
 */
import { counted } from '../quantity/index.js';
import { fromRecord, practice, type WorkingLine, type Sure } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';
import { partsOf, linesOf, wordsOf, type Parts, NONE, EMPTY } from './pool-parts.js';

export interface PoolFigures {
  /** Bytes left to promise; negative when promised beyond the limit. */
  left: Sure;
  /** Promised share of the limit, in per cent. */
  taken: Sure;
  /** Bytes that can really be written; negative when more is set apart than there is. */
  free: Sure;
  /** Share of the pool that is really taken, in per cent: what its fill alarm is compared with. */
  fill: Sure;
  /** Bytes that take their room at once: thick volumes, snapshots, room held for moves. */
  allocatedBytes: number;
  /** Full size of the thin volumes, and of the thin ones held for moves. */
  thinBytes: number;
  /** Allocated and thin together. */
  promisedBytes: number;
  limitBytes: number;
}

/** Bytes that a sample of the pool said were used, and when: measured data stands outside the fleet. */
export interface MeasuredUse {
  usedBytes: number;
  at: string;
}

/** @param measured the newest sample, where there is one: it goes before what somebody noted */
export function poolFigures(fleet: Fleet, poolId: string, measured?: MeasuredUse): PoolFigures {
  if (measured) return figuresOf(fleet, fleet.need('pool', poolId), measured);
  return fleet.memo(poolId, 'figures', () => figuresOf(fleet, fleet.need('pool', poolId), null));
}

function figuresOf(fleet: Fleet, pool: Row<'pool'>, sample: MeasuredUse | null): PoolFigures {
  const parts = partsOf(fleet, pool.id);
  const allocatedBytes =
    parts.thick.bytes + parts.planned.bytes + parts.held.bytes + parts.snapshots.bytes;
  const thinBytes = parts.thin.bytes + parts.heldThin.bytes;
  const promisedBytes = allocatedBytes + thinBytes;
  const limitBytes = Math.floor((pool.usableBytes * pool.promiseLimitPercent) / 100);
  const sources = [
    fromRecord('Sizes: the record; a thin volume counts with its full size'),
    practice('Promise limit'),
  ];
  const left = limitBytes - promisedBytes;
  const taken = shareOf(promisedBytes, limitBytes);
  return {
    ...reallyLeft(pool, parts, allocatedBytes, sample),
    allocatedBytes,
    thinBytes,
    promisedBytes,
    limitBytes,
    left: {
      name: 'pool-left',
      title: `Left to promise, pool ${pool.name}`,
      value: left,
      unit: 'bytes',
      lines: [
        usableLine(pool),
        {
          label: 'Promise limit',
          value: pool.promiseLimitPercent,
          unit: 'percent',
          operator: '×',
        },
        ...linesOf(parts),
        { label: 'Left', value: left, unit: 'bytes', operator: '=' },
      ],
      sources,
      policy: 'Promise limit of the pool',
    },
    taken: {
      name: 'pool-taken',
      title: `Promised, pool ${pool.name}`,
      value: taken,
      unit: 'percent',
      lines: [
        { label: wordsOf(parts), value: promisedBytes, unit: 'bytes', operator: '·' },
        {
          label: `Usable × ${pool.promiseLimitPercent} %`,
          value: limitBytes,
          unit: 'bytes',
          operator: '÷',
        },
        { label: 'Promised', value: taken, unit: 'percent', operator: '=' },
      ],
      sources,
      policy: 'Promise limit of the pool',
    },
  };
}

/**
 * What is taken: as somebody measured it, or what is known to lie there, whichever is more; and what is planned to come,
 * which no measurement has seen.
 */
function reallyLeft(
  pool: Row<'pool'>,
  parts: Parts,
  allocatedBytes: number,
  sample: MeasuredUse | null,
): Pick<PoolFigures, 'free' | 'fill'> {
  const known = allocatedBytes - parts.planned.bytes + parts.thinUsed.bytes;
  const used = sample?.usedBytes ?? pool.usedBytes;
  const measured = used !== null && used > known ? used : null;
  const asMeasured = `Used, as ${sample ? `measured ${sample.at.slice(0, 10)}` : 'noted'}`;
  const takenBytes = (measured ?? known) + parts.planned.bytes;
  const free = pool.usableBytes - takenBytes;
  const unknown = parts.thin.count - parts.thinUsed.count;
  const notKnown =
    unknown > 0 && used === null
      ? `what ${counted(unknown, 'thin volume')} ${unknown === 1 ? 'has' : 'have'} written is not known: less may be free`
      : undefined;
  const lines: WorkingLine[] =
    measured === null
      ? linesOf({ ...parts, thin: parts.thinUsed, heldThin: NONE }, 'written by thin volumes')
      : [
          { label: asMeasured, value: measured, unit: 'bytes', operator: '−' },
          ...linesOf({ ...EMPTY, planned: parts.planned }),
        ];
  const sources = [
    fromRecord(
      'Sizes: the record. A thick volume takes its size at once, a thin one what is written; where the use measured is more, it counts',
    ),
  ];
  return {
    free: {
      name: 'pool-free',
      title: `Really free, pool ${pool.name}`,
      value: free,
      unit: 'bytes',
      lines: [
        usableLine(pool),
        ...lines,
        { label: 'Free', value: free, unit: 'bytes', operator: '=', note: notKnown },
      ],
      sources,
    },
    fill: {
      name: 'pool-fill',
      title: `Full, pool ${pool.name}, alarm at ${pool.fillAlarmPercent} %`,
      value: shareOf(takenBytes, pool.usableBytes),
      unit: 'percent',
      lines: [
        {
          label: measured === null ? 'Allocated and written' : `${asMeasured}, and planned to come`,
          value: takenBytes,
          unit: 'bytes',
          operator: '·',
        },
        { ...usableLine(pool), operator: '÷' },
        {
          label: 'Full',
          value: shareOf(takenBytes, pool.usableBytes),
          unit: 'percent',
          operator: '=',
          note: notKnown,
        },
      ],
      sources: [...sources, practice('A fill alarm at 80 to 90 %')],
      policy: 'Fill alarm of the pool',
    },
  };
}

const usableLine = (pool: Row<'pool'>): WorkingLine => ({
  label: 'Usable',
  value: pool.usableBytes,
  unit: 'bytes',
  operator: '·',
  from: { kind: 'pool', id: pool.id },
});

const shareOf = (bytes: number, of: number): number =>
  of === 0 ? (bytes > 0 ? 100 : 0) : (bytes / of) * 100;
