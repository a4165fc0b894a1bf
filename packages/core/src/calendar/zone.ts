/** Time zones by their names in the time zone database of IANA (RFC 6557), and the clock on the wall there. */
import { Temporal } from 'temporal-polyfill';

const MINUTE = 60_000;
const DAY = 1440;

/** What is taken where no zone is recorded. */
export const zoneOr = (zone: string): string => zone || 'UTC';

/**
 * Minutes of the epoch at which a clock there shows a time. One that is left out in spring is taken by the offset before the
 * gap, of one that comes twice in autumn the first: RFC 5545, section 3.3.5.
 *
 * @param dayNumber days after 1970-01-01 @param minute of that day; past 1440 it is of the next
 */
export function minuteAt(zone: string, dayNumber: number, minute: number): number {
  const total = dayNumber * DAY + minute;
  if (zone === 'UTC') return total;
  const local = new Date(total * MINUTE).toISOString().slice(0, 16);
  const found = Temporal.PlainDateTime.from(local).toZonedDateTime(zone);
  return Math.floor(found.epochMilliseconds / MINUTE);
}

/** Days after 1970-01-01 that a clock there shows. */
export function dayAt(zone: string, minute: number): number {
  if (zone === 'UTC') return Math.floor(minute / DAY);
  const { year, month, day } = Temporal.Instant.fromEpochMilliseconds(
    minute * MINUTE,
  ).toZonedDateTimeISO(zone);
  return Date.UTC(year, month - 1, day) / (DAY * MINUTE);
}

/** @example "2027-01-16 02:00", as a clock there shows it */
export const clockText = (zone: string, minute: number): string =>
  Temporal.Instant.fromEpochMilliseconds(minute * MINUTE)
    .toZonedDateTimeISO(zone)
    .toPlainDateTime()
    .toString({ smallestUnit: 'minute' })
    .replace('T', ' ');

/** Midnights there from one minute of the epoch until another; two odd days of the year have 23 and 25 hours. */
export function midnights(zone: string, from: number, until: number): number[] {
  const found: number[] = [];
  for (let day = dayAt(zone, from); ; day += 1) {
    const at = minuteAt(zone, day, 0);
    if (at >= until) return found;
    if (at >= from) found.push(at);
  }
}
