/**
 * Stretches of time in which a window is open. Costs the days of the stretch that the window names, each placed on the
 * clock of its zone.
 */
import { RRuleTemporal } from 'rrule-temporal';
import { Temporal } from 'temporal-polyfill';
import type { Days, WorkWindow } from './work-window.js';
import { dayAt, minuteAt } from './zone.js';

/** Minutes of the epoch; the end is not part of it. */
export type Stretch = [from: number, until: number];

const MS_PER_DAY = 86_400_000;

/** @param window null: always open @returns sorted, none touching another */
export function openTimes(
  window: WorkWindow | null,
  zone: string,
  from: number,
  until: number,
): Stretch[] {
  if (!window) return until > from ? [[from, until]] : [];
  // One over midnight belongs to the day before; a day further for zones on either side.
  const [first, last] = [dayAt(zone, from) - 2, dayAt(zone, until) + 1];
  const closed = new Set(window.closed.flatMap((days) => dayNumbers(days, first, last)));
  const openings =
    window.openings.length > 0
      ? window.openings
      : [{ rule: 'FREQ=DAILY', from: null, fromMinute: 0, minutes: 1440 }];
  const found = openings.flatMap((opening) =>
    dayNumbers(opening, first, last)
      .filter((day) => !closed.has(day))
      .map((day): Stretch => {
        const begins = minuteAt(zone, day, opening.fromMinute);
        const ends = minuteAt(zone, day, opening.fromMinute + opening.minutes);
        return [Math.max(from, begins), Math.min(until, ends)];
      }),
  );
  return joined(found);
}

/** Sorted and without overlaps; what only touches becomes one. */
export function joined(stretches: readonly Stretch[]): Stretch[] {
  const sorted = stretches
    .filter(([from, until]) => until > from)
    .sort(([one], [other]) => one - other);
  const found: Stretch[] = [];
  for (const [from, until] of sorted) {
    const last = found.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], until);
    else found.push([from, until]);
  }
  return found;
}

/** What lies in both. */
export function crossing(one: readonly Stretch[], other: readonly Stretch[]): Stretch[] {
  const found: Stretch[] = [];
  for (let i = 0, j = 0; i < one.length && j < other.length;) {
    const both: Stretch = [Math.max(one[i]![0], other[j]![0]), Math.min(one[i]![1], other[j]![1])];
    if (both[1] > both[0]) found.push(both);
    if (one[i]![1] < other[j]![1]) i += 1;
    else j += 1;
  }
  return found;
}

/** Days after 1970-01-01, from one until another, both counted. */
function dayNumbers({ rule, from }: Days, first: number, last: number): number[] {
  if (rule === 'FREQ=DAILY' && from === null)
    return Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const recurrence = new RRuleTemporal({
    rruleString: `RRULE:${rule}`,
    dtstart: midnight(Date.parse(`${from ?? '1970-01-01'}T00:00:00.000Z`)),
    temporal: Temporal,
  });
  return recurrence
    .between(midnight(first * MS_PER_DAY), midnight(last * MS_PER_DAY), true)
    .map(({ epochMilliseconds }) => Math.floor(epochMilliseconds / MS_PER_DAY));
}

const midnight = (time: number) =>
  Temporal.Instant.fromEpochMilliseconds(time).toZonedDateTimeISO('UTC');
