/** Whether a move's time lies within what its guest, hosts and sites allow. Costs the days of its window. */
import type { Fleet, Row } from '../record/index.js';
import { boundsOf, boundWords, shutDuring, WorkCalendar } from './bounds.js';
import type { Check } from './check.js';

const MINUTE = 60_000;

/** None for a move without a time, and where nobody said when. */
export function windowChecks(fleet: Fleet, move: Row<'migration'>): Check[] {
  if (move.windowFrom === null || move.windowUntil === null) return [];
  const bounds = boundsOf(fleet, move);
  if (bounds.length === 0) return [];
  const [from, until] = [move.windowFrom, move.windowUntil].map((time) =>
    Math.floor(Date.parse(time) / MINUTE),
  ) as [number, number];
  const shut = shutDuring(new WorkCalendar(from, until), bounds, from, until);
  return [
    {
      name: 'work window',
      advice: true,
      passed: shut.length === 0,
      sentence:
        shut.length === 0
          ? `Its time lies within what is allowed: ${bounds.map(boundWords).join('; ')}.`
          : `Its time is not all within what is allowed: ${shut.map(boundWords).join('; ')}.`,
      remedy: 'Let times be found in the timetable, or ask whoever set that.',
      field: 'windowFrom',
    },
  ];
}
