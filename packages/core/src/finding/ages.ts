/** What time alone alters: each question notes when its answer becomes another one, so that what is kept of it wakes then. */
import type { Fleet } from '../record/index.js';

const DAY = 86_400_000;
const dayOf = (time: string): number => Date.parse(time.slice(0, 10));

/** Days from now until a date; negative when it has passed. */
export function daysUntil(fleet: Fleet, date: string, now: string): number {
  fleet.alters(dayOf(now));
  fleet.alters(dayOf(now) + DAY);
  return (Date.parse(date) - dayOf(now)) / DAY;
}

/** Whether a date lies before today. */
export function isPastDay(fleet: Fleet, date: string, now: string): boolean {
  fleet.alters(Date.parse(date) + DAY);
  return date < now.slice(0, 10);
}

/** Whole days since a time; negative before it. */
export function daysSince(fleet: Fleet, time: string, now: string): number {
  const days = Math.floor((Date.parse(now) - Date.parse(time)) / DAY);
  fleet.alters(Date.parse(time) + days * DAY);
  fleet.alters(Date.parse(time) + (days + 1) * DAY);
  return days;
}

/** Whether a time lies more than so many milliseconds back. */
export function isOlder(fleet: Fleet, time: string, ms: number, now: string): boolean {
  const flips = Date.parse(time) + ms + 1;
  fleet.alters(flips);
  return Date.parse(now) >= flips;
}
