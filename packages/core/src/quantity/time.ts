/**
 * Points in time as text. Insel keeps one form only, the one that JavaScript prints: UTC, to the millisecond, such as
 * 2026-11-20T08:00:00.000Z; so that equal times are equal texts, in memory, in the log and in the tables.
 */

/** What is read: a date with a time of day, and an offset from UTC if it is not UTC (RFC 3339, section 5.6). */
const FORM =
  /^(\d{4})-(\d{2})-(\d{2})[Tt ](\d{2}):(\d{2})(?::(\d{2})(?:\.\d{1,9})?)?(?:[Zz]|[+-]\d{2}:\d{2})?$/;
const ZONE = /(?:[Zz]|[+-]\d{2}:\d{2})$/;
/** PostgreSQL keeps years up to 294276 and JavaScript up to 275760; what people mean has four digits. */
const FIRST_YEAR = 1000;

/**
 * The canonical form of a time; undefined if it is none. Without an offset it is taken as UTC.
 * @example canonicalTime('2026-11-20T10:00+02:00') // '2026-11-20T08:00:00.000Z'
 */
export function canonicalTime(text: string): string | undefined {
  const parts = FORM.exec(text);
  if (!parts || Number(parts[1]) < FIRST_YEAR || !isDay(text.slice(0, 10))) return undefined;
  const time = Date.parse(ZONE.test(text) ? text.replace(' ', 'T') : `${text.replace(' ', 'T')}Z`);
  return Number.isNaN(time) ? undefined : new Date(time).toISOString();
}

/**
 * Whether a text is a day of the calendar, as 2026-11-20.
 * @example isDay('2026-02-30') // false
 */
export function isDay(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number(text.slice(0, 4)) < FIRST_YEAR) return false;
  const time = Date.parse(`${text}T00:00:00Z`);
  return !Number.isNaN(time) && new Date(time).toISOString().slice(0, 10) === text;
}
