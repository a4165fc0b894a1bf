/**
 * When work may be done, as people write it: days and hours, several of them, and days that are closed. Days are a
 * recurrence of RFC 5545; hours are those of the clock on the wall at the place.
 */

/** A recurrence (RFC 5545, section 3.3.10) of days, and the day that it counts from. */
export interface Days {
  rule: string;
  from: string | null;
}

export interface Opening extends Days {
  /** Minutes after midnight on the clock of the place; over midnight it belongs to the day on which it begins. */
  fromMinute: number;
  /** 1 to 1440, on the clock: the two odd days of the year make it longer or shorter. */
  minutes: number;
}

export interface WorkWindow {
  /** None: any time. */
  openings: Opening[];
  /** No opening begins on these days. */
  closed: Days[];
}

export type ReadWindow = { ok: true; value: WorkWindow | null } | { ok: false; sentence: string };

const DAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];
const MONTHS = [
  ...['january', 'february', 'march', 'april', 'may', 'june', 'july'],
  ...['august', 'september', 'october', 'november', 'december'],
];
const DATE = String.raw`\d{4}-\d{2}-\d{2}`;
/** The last two working days of a month and the first two of the next: books are closed then. Common practice, no source. */
const MONTH_END = 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1,2,-2,-1';
const EXAMPLES =
  'any day 02:00-04:00; Sat, Sun 22:00-04:00; last Sun of Mar, Sep all day; not 2026-12-24 to 2027-01-02; not month end';

/** @example readWindow('Sat, Sun 22:00-04:00; not 2026-12-26') // FREQ=WEEKLY;BYDAY=SA,SU from 1320, 360 minutes */
export function readWindow(text: string): ReadWindow {
  const window: WorkWindow = { openings: [], closed: [] };
  for (const part of text
    // What stands in a recurrence, as in BYDAY=SA, is no part of its own.
    .split(/;(?!\s*[a-z]+=)|\n/i)
    .map((one) => one.trim())
    .filter(Boolean)) {
    const closed = /^not\s+(.*)$/i.exec(part);
    if (closed) {
      const days = readDays(closed[1]!);
      if (!days) return no(part, 'no days');
      if (typeof days === 'string') return no(part, days);
      window.closed.push(days);
      continue;
    }
    const hours =
      /^(.*?)[\s,]*(?:(\d{1,2}):(\d{2})\s*(?:[-–]|to)\s*(\d{1,2}):(\d{2})|(all day))$/i.exec(part);
    if (!hours) return no(part, 'no hours');
    const days = readDays(hours[1]!);
    if (!days) return no(part, 'no days');
    if (typeof days === 'string') return no(part, days);
    const [from, until] = hours[6]
      ? [0, 1440]
      : [minuteOf(hours[2]!, hours[3]!), minuteOf(hours[4]!, hours[5]!)];
    if (from === null || until === null || from === until || from === 1440)
      return no(part, 'no such hours');
    window.openings.push({
      ...days,
      fromMinute: from,
      minutes: until > from ? until - from : until - from + 1440,
    });
  }
  const empty = window.openings.length === 0 && window.closed.length === 0;
  return { ok: true, value: empty ? null : window };
}

const no = (part: string, why: string): ReadWindow => ({
  ok: false,
  sentence: `"${part}" is not a window (${why}): write ${EXAMPLES}.`,
});

function minuteOf(hours: string, minutes: string): number | null {
  const value = Number(hours) * 60 + Number(minutes);
  return Number(minutes) < 60 && value <= 1440 ? value : null;
}

/** A text says what is wrong; null: these are no days at all. */
function readDays(text: string): Days | string | null {
  const words = text.trim().toLowerCase();
  if (words === '' || words === 'any day' || words === 'daily')
    return { rule: 'FREQ=DAILY', from: null };
  if (words === 'month end') return { rule: MONTH_END, from: null };
  const rule = /^rrule:\s*(\S+?)(?:\s+from\s+(\S+))?$/.exec(words);
  if (rule) return readRule(rule[1]!.toUpperCase(), rule[2] ?? null);
  const dates = new RegExp(`^(${DATE})(?:\\s+to\\s+(${DATE}))?$`).exec(words);
  if (dates) return readDates(dates[1]!, dates[2] ?? dates[1]!);
  const every = new RegExp(
    `^every\\s+(other|\\d+)\\s*(?:weeks?)?(?:\\s+on)?\\s+(.*?)\\s+from\\s+(${DATE})$`,
  ).exec(words);
  if (every) {
    const weekly = namedDays(every[2]!);
    const interval = every[1] === 'other' ? 2 : Number(every[1]);
    if (!weekly || interval < 1) return null;
    if (!isDate(every[3]!)) return `there is no day ${every[3]}`;
    return { rule: `FREQ=WEEKLY;INTERVAL=${interval};BYDAY=${weekly.join(',')}`, from: every[3]! };
  }
  return readNamed(words);
}

function readNamed(words: string): Days | null {
  const [front, behind] = words.split(/\s+of\s+/);
  const months = behind === undefined ? [] : indexesOf(behind, MONTHS);
  if (!months) return null;
  const places = /^((?:(?:\d(?:st|nd|rd|th)|last)[\s,]*(?:and\s+)?)*)(.*)$/.exec(front!)!;
  const ordinals = [...places[1]!.matchAll(/(\d)(?:st|nd|rd|th)|last/g)].map(([, n]) => n ?? '-1');
  const days = namedDays(places[2]!);
  if (!days || ordinals.some((n) => n === '0' || Number(n) > 5)) return null;
  const inMonths =
    months.length > 0 ? `;BYMONTH=${months.map((month) => month + 1).join(',')}` : '';
  const monthly = ordinals.flatMap((n) => days.map((day) => `${n}${day}`));
  return monthly.length > 0
    ? { rule: `FREQ=MONTHLY;BYDAY=${monthly.join(',')}${inMonths}`, from: null }
    : { rule: `FREQ=WEEKLY;BYDAY=${days.join(',')}${inMonths}`, from: null };
}

/** As RFC 5545 writes them: MO; null: one of them is no day. */
function namedDays(text: string): string[] | null {
  const all = indexesOf(text.trim() === 'any day' ? 'sun-sat' : text, DAYS);
  return all && all.map((day) => DAYS[day]!.slice(0, 2).toUpperCase());
}

/** Names of at least three letters, one after another or from one to another; null: one is none of them. */
function indexesOf(text: string, names: readonly string[]): number[] | null {
  const indexOf = (word: string) =>
    word.length < 3 ? -1 : names.findIndex((name) => name.startsWith(word));
  const found: number[] = [];
  for (const word of text
    .trim()
    .split(/(?:[\s,]|\band\b)+/)
    .filter(Boolean)) {
    const [first, last] = word.split(/[-–]/).map(indexOf);
    if (first === undefined || first < 0 || (last !== undefined && last < 0)) return null;
    for (let at = first; ; at = (at + 1) % names.length) {
      found.push(at);
      if (at === (last ?? first)) break;
    }
  }
  return found.length > 0 ? [...new Set(found)] : null;
}

const isDate = (text: string): boolean => {
  const time = Date.parse(`${text}T00:00:00.000Z`);
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(text);
};

function readDates(first: string, last: string): Days | string {
  for (const day of [first, last]) if (!isDate(day)) return `there is no day ${day}`;
  if (last < first) return 'it ends before it begins';
  return { rule: `FREQ=DAILY;UNTIL=${last.replaceAll('-', '')}T000000Z`, from: first };
}

const DAY_OF_WEEK = '(?:MO|TU|WE|TH|FR|SA|SU)';
const COUNTS = String.raw`[+-]?[1-9]\d{0,2}(?:,[+-]?[1-9]\d{0,2})*`;
/** Parts of a recurrence that speak of days: hours are said beside it. */
const PARTS: Record<string, RegExp> = {
  FREQ: /^(DAILY|WEEKLY|MONTHLY|YEARLY)$/,
  INTERVAL: /^[1-9]\d{0,3}$/,
  COUNT: /^[1-9]\d{0,3}$/,
  UNTIL: /^\d{8}$/,
  BYDAY: new RegExp(`^[+-]?[1-9]?\\d?${DAY_OF_WEEK}(?:,[+-]?[1-9]?\\d?${DAY_OF_WEEK})*$`),
  BYMONTH: /^(?:[1-9]|1[0-2])(?:,(?:[1-9]|1[0-2]))*$/,
  BYMONTHDAY: /^-?(?:[1-9]|[12]\d|3[01])(?:,-?(?:[1-9]|[12]\d|3[01]))*$/,
  BYYEARDAY: new RegExp(`^${COUNTS}$`),
  BYSETPOS: new RegExp(`^${COUNTS}$`),
  WKST: new RegExp(`^${DAY_OF_WEEK}$`),
};

function readRule(rule: string, from: string | null): Days | string {
  const parts = new Map(
    rule.split(';').map((part) => part.split('=', 2) as [string, string | undefined]),
  );
  for (const [name, value] of parts) {
    if (!PARTS[name]) return `${name} says nothing of days`;
    if (!PARTS[name].test(value ?? '')) return `${name} cannot be ${value || 'empty'}`;
  }
  const freq = parts.get('FREQ');
  if (!freq) return 'FREQ is missing';
  if (from !== null && !isDate(from)) return `there is no day ${from}`;
  const until = parts.get('UNTIL');
  if (until && !isDate(`${until.slice(0, 4)}-${until.slice(4, 6)}-${until.slice(6)}`))
    return `there is no day ${until}`;
  const named = [...parts.keys()].some((name) => /^BY(DAY|MONTHDAY|YEARDAY)$/.test(name));
  const counts = parts.has('INTERVAL') || parts.has('COUNT') || (freq !== 'DAILY' && !named);
  if (counts && from === null) return 'say from which day it counts, as in "from 2026-12-05"';
  return { rule: until ? rule.replace(/UNTIL=(\d{8})/, 'UNTIL=$1T000000Z') : rule, from };
}
