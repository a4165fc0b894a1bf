/**
 * How long a copy takes. Two answers, never one: the *physical best*, which no tool can beat (bytes over goodput), and
 * the *expected* time from what moves on this route have really reached, with its spread. Without history the spread is
 * wide and says so.
 */
import { own, practice, standard, type Figure, type WorkingLine } from '../figure/index.js';
import { predictedRange } from '../measure/index.js';
import type { BitsPerSecond, BytesPerSecond } from '../quantity/index.js';
import { goodput } from './goodput.js';
import { HABITUAL_RATE, type FixedTime } from './method.js';
import { precopy, type Precopy } from './precopy.js';

export interface Observed {
  bytes: number;
  seconds: number;
}

export interface Estimate {
  best: Figure;
  expected: Figure;
  /** Range of the expected time, seconds. */
  low: number | null;
  high: number | null;
  basis: 'this route' | 'other routes' | 'no history';
  /** With what it costs beside the copy, and its range. */
  total: Figure;
  totalRange: [low: number, high: number];
  /** Of a running guest whose writing is known. */
  precopy: Precopy | null;
}

export interface EstimateInput {
  bytes: number;
  /** Bytes of them that change while they are copied, and are copied again in part: the memory of a running guest. */
  changing?: number;
  link: BitsPerSecond;
  mtu: number;
  /** VLAN tags on each frame of the way. */
  tags?: number;
  /** The way in words, such as "network hearth". */
  way?: string;
  /** What the method usually reaches without history; "link": what the link carries. */
  usual?: BytesPerSecond | 'link';
  /** Bytes per second that the running guest writes; null: nobody knows. */
  dirtyRate?: number | null;
  /** What it costs beside the copy. */
  fixed?: readonly FixedTime[];
  /** Past copies between these two hosts, and between any two. */
  sameRoute: readonly Observed[];
  anyRoute: readonly Observed[];
}

/** What is written meanwhile is copied again: so much more than the memory itself. Common practice, no source; the model is Clark et al., NSDI 2005. */
const AGAIN = 0.3;
export const copiedAgain = (changing: number): number => Math.round(changing * AGAIN);

export function estimate(input: EstimateInput): Estimate {
  const { bytes, changing = 0, link, mtu, tags = 0, way, sameRoute, anyRoute } = input;
  const { usual = HABITUAL_RATE, dirtyRate = null, fixed = [] } = input;
  const top = goodput(link, { mtu, tags });
  const usable = (list: readonly Observed[]) =>
    list.filter((run) => run.bytes > 0 && run.seconds > 0).map((run) => run.bytes / run.seconds);
  const route = usable(sameRoute);
  const rates = route.length ? route : usable(anyRoute);
  const basis = route.length ? 'this route' : rates.length ? 'other routes' : 'no history';
  const habit = usual === 'link' ? top : usual;
  const seen = rates.length ? median(rates) : habit;
  const rate = Math.min(seen, top);
  const rounds =
    changing > 0 && dirtyRate !== null ? precopy({ memoryBytes: changing, rate, dirtyRate }) : null;
  const again = rounds
    ? Math.max(0, Math.round(rounds.copiedBytes - changing))
    : copiedAgain(changing);
  const all = bytes + again;
  const best = bytes === 0 ? 0 : bytes / top;
  const expected = all === 0 ? 0 : all / rate;
  // What is usual now is the yardstick of past runs, so that their median is one.
  const factors = predictedRange(rates.map((past) => seen / past));
  const low = Math.max(best, expected * factors.low);
  const high = Math.max(expected, expected * factors.high);
  const beside = fixed.reduce((sum, { minutes }) => sum + minutes * 60, 0);
  const bytesLine = {
    label: 'Bytes to copy',
    value: bytes,
    unit: 'bytes' as const,
    operator: '·' as const,
  };
  const rangeLines = (from: number, to: number): WorkingLine[] => [
    { label: 'Range, fastest', value: from, unit: 'seconds', operator: '·' },
    { label: 'Range, slowest', value: to, unit: 'seconds', operator: '·' },
  ];
  return {
    basis,
    low,
    high,
    precopy: rounds,
    best: {
      name: 'copy-best',
      title: 'Physical best',
      value: best,
      unit: 'seconds',
      lines: [
        bytesLine,
        { label: 'Link', value: link, unit: 'bit/s', operator: '·' },
        {
          label: `Payload of the link${way ? `, ${way}` : ''}, MTU ${mtu}${tags ? ', with a VLAN tag' : ''}`,
          value: top,
          unit: 'bytes/s',
          operator: '÷',
        },
        { label: 'At least', value: best, unit: 'seconds', operator: '=' },
      ],
      sources: [standard('Frame overhead: IEEE Std 802.3; TCP timestamps: RFC 7323')],
    },
    expected: {
      name: 'copy-expected',
      title: 'Expected',
      value: expected,
      unit: 'seconds',
      lines: [
        bytesLine,
        ...againLines(again, rounds),
        {
          label: rates.length
            ? `Rate reached, median of ${rates.length} past ${rates.length === 1 ? 'copy' : 'copies'} on ${basis}`
            : usual === 'link'
              ? 'Rate of the link, nothing slower is known'
              : usual === HABITUAL_RATE
                ? 'Habitual rate, 12 GiB in 9 min'
                : 'Usual rate of the method',
          value: seen,
          unit: 'bytes/s',
          operator: '÷',
          note: rate < seen ? 'limited to what the link carries' : undefined,
        },
        { label: 'Expected', value: expected, unit: 'seconds', operator: '=' },
        ...rangeLines(low, high),
      ],
      sources: [
        ...(rates.length
          ? []
          : [practice('12 GiB took about 9 minutes between two ordinary hosts')]),
        RANGE_SOURCE,
      ],
    },
    total: {
      name: 'move-total',
      title: 'In all',
      value: expected + beside,
      unit: 'seconds',
      lines: [
        { label: 'Copy, as expected', value: expected, unit: 'seconds', operator: '·' },
        ...fixed.map(({ label, minutes }): WorkingLine => ({
          label,
          value: minutes * 60,
          unit: 'seconds',
          operator: '+',
        })),
        { label: 'In all', value: expected + beside, unit: 'seconds', operator: '=' },
        ...rangeLines(low + beside, high + beside),
      ],
      sources: [RANGE_SOURCE, practice('Minutes beside the copy')],
    },
    totalRange: [low + beside, high + beside],
  };
}

const RANGE_SOURCE = own(
  'Range: 8 of 10 runs fall into it, by past runs and, while they are few, 0.5 to 3 times',
);

function againLines(again: number, rounds: Precopy | null): WorkingLine[] {
  if (again === 0) return [];
  return [
    {
      label: rounds
        ? `Written meanwhile and copied again, ${rounds.rounds} rounds at ${rounds.ratio.toFixed(2)} written for each copied`
        : `Written meanwhile and copied again, ${AGAIN * 100} % of the memory`,
      value: again,
      unit: 'bytes',
      operator: '+',
    },
  ];
}

/** Middle value; mean of the two middle ones for an even count. */
function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
