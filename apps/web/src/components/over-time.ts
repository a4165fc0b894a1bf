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
