/** How what is drawn over time is drawn: the same grid, ticks and colours everywhere. */

/** @example dayOf(Date.parse('2026-11-20')) // '11-20' */
export const dayOf = (time: number): string => new Date(time).toISOString().slice(5, 10);

export const GRID = { stroke: 'var(--rule)', vertical: false } as const;
export const TIME_AXIS = {
  dataKey: 'time',
  type: 'number',
  domain: ['dataMin', 'dataMax'] as [string, string],
  tickFormatter: dayOf,
  stroke: 'var(--faint)',
  fontSize: 12,
} as const;
export const VALUE_AXIS = { stroke: 'var(--faint)', fontSize: 12 } as const;

const MOST_TICKS = 6;

/**
 * An axis of sizes: its ends and ticks are multiples of a power of two of their unit, so that each is a round number of MiB,
 * GiB or TiB.
 *
 * @param low @param high what is to be seen, in any unit of binary prefixes @example sizeAxis(0, 500).ticks // 0, 128, 256, 384, 512
 */
export function sizeAxis(low: number, high: number): { domain: [number, number]; ticks: number[] } {
  const span = Math.max(1, high - low);
  const step = 2 ** Math.ceil(Math.log2(span / (MOST_TICKS - 1)));
  const [first, last] = [
    Math.floor(low / step),
    Math.max(Math.floor(low / step) + 1, Math.ceil(high / step)),
  ];
  const ticks = Array.from({ length: last - first + 1 }, (_, i) => (first + i) * step);
  return { domain: [first * step, last * step], ticks };
}
