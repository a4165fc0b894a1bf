/**
 * How long a copy takes. Two answers, never one: the *physical best*, which no tool can beat (bytes over goodput), and
 * the *expected* time from what moves on this route have really reached, with its spread. Without history the spread is
 * wide and says so.
 */
import { own, practice, standard, type Figure } from '../figure/index.js';
import { GIB, type BitsPerSecond, type BytesPerSecond } from '../quantity/index.js';
import { goodput } from './goodput.js';

/** 12 GiB in about 9 minutes between two ordinary hosts. Common practice, no source. */
export const HABITUAL_RATE: BytesPerSecond = (12 * GIB) / (9 * 60);

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
  /** Past copies between these two hosts, and between any two. */
  sameRoute: readonly Observed[];
  anyRoute: readonly Observed[];
}

/** Fewer past copies than this do not narrow the range to what was seen. */
const ENOUGH = 3;

/** What is written meanwhile is copied again: so much more than the memory itself. Common practice, no source; the model is Clark et al., NSDI 2005. */
const AGAIN = 0.3;
export const copiedAgain = (changing: number): number => Math.round(changing * AGAIN);

export function estimate(input: EstimateInput): Estimate {
  const { bytes, changing = 0, link, mtu, tags = 0, way, sameRoute, anyRoute } = input;
  const top = goodput(link, { mtu, tags });
  const again = copiedAgain(changing);
  const usable = (list: readonly Observed[]) =>
    list.filter((run) => run.bytes > 0 && run.seconds > 0).map((run) => run.bytes / run.seconds);
  const route = usable(sameRoute);
  const rates = route.length ? route : usable(anyRoute);
  const basis = route.length ? 'this route' : rates.length ? 'other routes' : 'no history';
  const seen = rates.length ? median(rates) : HABITUAL_RATE;
  const rate = Math.min(seen, top);
  const [slow, fast] =
    rates.length >= ENOUGH
      ? [Math.min(...rates), Math.max(...rates)]
      : [rate / 3, rate * (rates.length ? 2 : 5)];
  const taken = (copied: number, speed: number) =>
    copied === 0 ? 0 : copied / Math.min(speed, top);
  const seconds = (speed: number) => taken(bytes + again, speed);
  const bytesLine = {
    label: 'Bytes to copy, full size',
    value: bytes,
    unit: 'bytes' as const,
    operator: '·' as const,
  };
  return {
    basis,
    low: seconds(fast),
    high: seconds(Math.min(slow, rate)),
    best: {
      name: 'copy-best',
      title: 'Physical best',
      value: taken(bytes, top),
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
        { label: 'At least', value: taken(bytes, top), unit: 'seconds', operator: '=' },
      ],
      sources: [standard('Frame overhead: IEEE Std 802.3; TCP timestamps: RFC 7323')],
    },
    expected: {
      name: 'copy-expected',
      title: 'Expected',
      value: seconds(rate),
      unit: 'seconds',
      lines: [
        bytesLine,
        ...(again
          ? [
              {
                label: `Written meanwhile and copied again, ${AGAIN * 100} % of the memory`,
                value: again,
                unit: 'bytes' as const,
                operator: '+' as const,
              },
            ]
          : []),
        {
          label: rates.length
            ? `Rate reached, median of ${rates.length} past ${rates.length === 1 ? 'copy' : 'copies'} on ${basis}`
            : 'Habitual rate, 12 GiB in 9 min',
          value: seen,
          unit: 'bytes/s',
          operator: '÷',
          note: rate < seen ? 'limited to what the link carries' : undefined,
        },
        { label: 'Expected', value: seconds(rate), unit: 'seconds', operator: '=' },
        { label: 'Range, fastest', value: seconds(fast), unit: 'seconds', operator: '·' },
        {
          label: 'Range, slowest',
          value: seconds(Math.min(slow, rate)),
          unit: 'seconds',
          operator: '·',
        },
      ],
      sources: rates.length
        ? [
            own(
              rates.length >= ENOUGH
                ? 'Range: slowest and fastest past copy'
                : `Range: a third to twice the rate, since fewer than ${ENOUGH} copies are on record`,
            ),
          ]
        : [
            practice('12 GiB took about 9 minutes between two ordinary hosts'),
            own('Range without history: a third to five times the rate'),
          ],
    },
  };
}

/** Middle value; mean of the two middle ones for an even count. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
