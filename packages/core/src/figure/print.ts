import {
  formatBinary,
  formatDuration,
  formatLinkSpeed,
  formatMemory,
  formatRate,
  withMinus,
  type Rounding,
} from '../quantity/index.js';
import type { Figure, Unit } from './figure.js';

/**
 * Prints a value of a figure in its unit, as text for a screen or a log.
 *
 * @param rounding 'down' for what is free, 'up' for what is needed
 */
export const printValue = (
  value: number | null,
  unit: Unit,
  rounding: Rounding = 'nearest',
): string => (value === null ? 'unknown' : withMinus(inUnit(value, unit, rounding)));

function inUnit(value: number, unit: Unit, rounding: Rounding): string {
  switch (unit) {
    case 'MiB':
      return formatMemory(value, rounding);
    case 'bytes':
      return formatBinary(value, rounding);
    case 'seconds':
      return formatDuration(value);
    case 'days':
      return `${value.toLocaleString('en-GB')} ${value === 1 ? 'day' : 'days'}`;
    case 'bytes/s':
      return formatRate(value);
    case 'bit/s':
      return formatLinkSpeed(value);
    case 'percent':
      // A tiny chance is not none, and nobody reads powers of ten.
      if (value > 0 && value < 0.001) return '< 0.001 %';
      return value > 0 && value < 0.05
        ? `${value.toPrecision(2)} %`
        : `${Math.round(value * 10) / 10} %`;
    case 'ratio':
      return String(Math.round(value * 10000) / 10000);
    case 'watts':
      return `${value.toLocaleString('en-GB')} W`;
    case 'count':
      return value.toLocaleString('en-GB');
    default:
      return `${value.toLocaleString('en-GB')} ${unit}`;
  }
}

/** The workings as one line of text, for a refusal or a log entry. */
export function printWorkings(figure: Figure): string {
  return figure.lines
    .map(
      (line) =>
        `${line.operator === '·' || line.operator === '+' ? '' : `${line.operator} `}${line.label} ${printValue(line.value, line.unit)}`,
    )
    .join('; ');
}
