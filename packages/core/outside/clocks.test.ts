/** The clock on the wall, by day and minute, as the system's own `date` (coreutils, with the time zone database) shows it. */
import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { dayAt, midnights, minuteAt } from '../src/index.js';

const ZONES = [
  ...[
    'Europe/Lisbon',
    'Europe/Berlin',
    'America/New_York',
    'America/St_Johns',
    'America/Sao_Paulo',
  ],
  ...[
    'Asia/Kathmandu',
    'Asia/Tokyo',
    'Australia/Lord_Howe',
    'Pacific/Auckland',
    'Pacific/Kiritimati',
  ],
];
/** A prime number of minutes apart, so that every hour and minute of the day is met over the years. */
const EVERY = 4051;
const [FROM, UNTIL] = ['2024-01-01T00:00Z', '2030-01-01T00:00Z'].map(
  (time) => Date.parse(time) / 60_000,
) as [number, number];

/** Local "day number, minute of the day" at each minute of the epoch. */
function shown(zone: string, minutes: readonly number[]): { day: number; minute: number }[] {
  const { stdout } = spawnSync('date', ['-f', '-', '+%F %H %M'], {
    env: { ...process.env, TZ: zone, LC_ALL: 'C' },
    input: minutes.map((at) => `@${at * 60}\n`).join(''),
    encoding: 'utf8',
  });
  return stdout
    .trim()
    .split('\n')
    .map((line) => line.split(' '))
    .map(([day, hour, minute]) => ({
      day: Date.parse(`${day}T00:00Z`) / 86_400_000,
      minute: Number(hour) * 60 + Number(minute),
    }));
}

const hasZones = shown('Asia/Tokyo', [0])[0]?.minute === 9 * 60;
if (!hasZones && process.env.CI && process.getuid?.() === 0)
  throw new Error('As root in CI the time zone database (tzdata) must be there.');

describe.runIf(hasZones)('six years of clocks', () => {
  it.each(ZONES)('%s', (zone) => {
    const minutes = Array.from(
      { length: Math.floor((UNTIL - FROM) / EVERY) },
      (_, i) => FROM + i * EVERY,
    );
    // Around every change of the offset each quarter of an hour.
    const days = midnights(zone, FROM, UNTIL);
    const odd = days.filter((at, i) => i > 0 && at - days[i - 1]! !== 1440);
    minutes.push(...odd.flatMap((at) => Array.from({ length: 192 }, (_, i) => at - 2880 + i * 15)));
    shown(zone, minutes).forEach(({ day, minute }, i) => {
      expect(dayAt(zone, minutes[i]!)).toBe(day);
      // An hour that comes twice means the first: one that is shown a second time is found before itself.
      const found = minuteAt(zone, day, minute);
      if (found !== minutes[i]) {
        expect(found).toBeLessThan(minutes[i]!);
        expect(shown(zone, [found])[0]).toEqual({ day, minute });
      }
    });
    expect(shown(zone, days).every(({ minute }) => minute === 0 || minute === 60)).toBe(true);
  });
});
