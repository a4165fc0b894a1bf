/**
 * How long a copy that is under way still takes, by what it has done: the rate so far, and what is left at that rate. Said
 * only from a tenth of the bytes and five minutes on: before, a cache flatters. Common practice, no source.
 */
import { practice, type Sure } from '../figure/index.js';
import { formatDuration } from '../quantity/index.js';
import type { Row } from '../record/index.js';

const SHARE = 0.1;
const MINUTES = 5;

export type CopyProgress =
  | { said: false; why: string }
  | {
      said: true;
      /** Seconds from its begin to its end, by the rate so far. */
      whole: Sure;
      /** When it ends at that rate. */
      endsAt: string;
      /** What was expected when it was planned, in seconds. */
      expectedSeconds: number | null;
    };

/** @returns null for a copy that is not under way, or of which nobody has said how far it is */
export function copyProgress(
  migration: Pick<
    Row<'migration'>,
    'state' | 'bytes' | 'bytesDone' | 'bytesDoneAt' | 'startedAt' | 'estimateSeconds'
  >,
): CopyProgress | null {
  const { state, bytes, bytesDone, bytesDoneAt, startedAt, estimateSeconds } = migration;
  if (state !== 'started' || bytesDone === null || !bytesDoneAt || !startedAt) return null;
  const seconds = (Date.parse(bytesDoneAt) - Date.parse(startedAt)) / 1000;
  if (seconds < MINUTES * 60 || bytesDone < SHARE * bytes)
    return {
      said: false,
      why: `A new estimate is made from a tenth of the bytes and ${MINUTES} minutes on; so far ${Math.floor((bytesDone / Math.max(1, bytes)) * 100)} % in ${formatDuration(Math.max(0, seconds))}.`,
    };
  const rate = bytesDone / seconds;
  const left = Math.max(0, bytes - bytesDone);
  const whole = seconds + left / rate;
  return {
    said: true,
    whole: {
      name: 'copy-by-progress',
      title: 'The copy, by what it has done',
      value: whole,
      unit: 'seconds',
      lines: [
        { label: 'Copied so far', value: bytesDone, unit: 'bytes', operator: '·' },
        { label: 'In', value: seconds, unit: 'seconds', operator: '÷' },
        { label: 'Rate so far', value: rate, unit: 'bytes/s', operator: '=' },
        { label: 'Left', value: left, unit: 'bytes', operator: '÷' },
        {
          label: 'Time so far, and what is left at that rate',
          value: whole,
          unit: 'seconds',
          operator: '=',
        },
      ],
      sources: [practice('Rate so far goes on; the last passes of a copy are often slower')],
    },
    endsAt: new Date(Date.parse(startedAt) + whole * 1000).toISOString(),
    expectedSeconds: estimateSeconds,
  };
}
