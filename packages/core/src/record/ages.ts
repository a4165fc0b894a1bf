/** What time alone alters: each question notes when its answer becomes another one, so that what is kept of it wakes then. */
import type { Fleet } from './fleet.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const dayOf = (time: string): number => Date.parse(time.slice(0, 10));

/** Today, YYYY-MM-DD. */
export function today(fleet: Fleet, now: string): string {
  fleet.alters(dayOf(now));
  fleet.alters(dayOf(now) + DAY);
  return now.slice(0, 10);
}

/** Days from now until a date; negative when it has passed. */
export const daysUntil = (fleet: Fleet, date: string, now: string): number =>
  (Date.parse(date) - Date.parse(today(fleet, now))) / DAY;

/** Whether a date lies before today. */
export function isPastDay(fleet: Fleet, date: string, now: string): boolean {
  fleet.alters(Date.parse(date) + DAY);
  return date < now.slice(0, 10);
}

/** Whole days since a time; negative before it. */
export const daysSince = (fleet: Fleet, time: string, now: string): number =>
  wholeSince(fleet, time, DAY, now);

/** Whole hours since a time; negative before it. */
export const hoursSince = (fleet: Fleet, time: string, now: string): number =>
  wholeSince(fleet, time, HOUR, now);

function wholeSince(fleet: Fleet, time: string, unit: number, now: string): number {
  const whole = Math.floor((Date.parse(now) - Date.parse(time)) / unit);
  fleet.alters(Date.parse(time) + whole * unit);
  fleet.alters(Date.parse(time) + (whole + 1) * unit);
  return whole;
}

/** Whether a time lies more than so many milliseconds back. */
export function isOlder(fleet: Fleet, time: string, ms: number, now: string): boolean {
  const flips = Date.parse(time) + ms + 1;
  fleet.alters(flips);
  return Date.parse(now) >= flips;
}
