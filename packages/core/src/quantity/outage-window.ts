/** When a guest may be down for work: days of the week and hours, UTC. */
const DAYS = [
  'sunday',
  'monday',
  'tuesday',
  'wednesday',
  'thursday',
  'friday',
  'saturday',
] as const;

export interface OutageWindow {
  /** 0 is Sunday. */
  days: number[];
  /** Minutes after midnight UTC, and how long it lasts. A window over midnight belongs to the day on which it begins. */
  fromMinute: number;
  minutes: number;
}

type Read = { ok: true; value: OutageWindow | null } | { ok: false; sentence: string };

/** @example parseOutageWindow('Sat, Sun 22:00-04:00') // days 6 and 0, from 1320, 360 minutes */
export function parseOutageWindow(text: string): Read {
  const words = text.trim();
  if (words === '') return { ok: true, value: null };
  const parts = /^(.*?)\s*(\d{1,2}):(\d{2})\s*[-–]\s*(\d{1,2}):(\d{2})$/.exec(words);
  const no = {
    ok: false as const,
    sentence: `"${words}" is not a window: write any day 02:00-04:00, or Sat, Sun 22:00-04:00 (UTC).`,
  };
  if (!parts) return no;
  const days = daysOf(parts[1]!);
  const [from, until] = [minuteOf(parts[2]!, parts[3]!), minuteOf(parts[4]!, parts[5]!)];
  if (!days || from === null || until === null || from === until) return no;
  return { ok: true, value: { days, fromMinute: from, minutes: (until - from + 1440) % 1440 } };
}

function daysOf(text: string): number[] | null {
  const words = text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean);
  if (words.length === 0 || words.join(' ') === 'any day' || words.join(' ') === 'daily')
    return [0, 1, 2, 3, 4, 5, 6];
  const days = words.map((word) =>
    DAYS.findIndex((day) => word.length >= 3 && day.startsWith(word)),
  );
  return days.includes(-1) ? null : [...new Set(days)];
}

function minuteOf(hours: string, minutes: string): number | null {
  const value = Number(hours) * 60 + Number(minutes);
  return Number(minutes) < 60 && value <= 1440 ? value % 1440 : null;
}
