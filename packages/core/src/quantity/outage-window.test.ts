import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseOutageWindow } from './outage-window.js';

describe('an outage window', () => {
  const window = (text: string) => {
    const read = parseOutageWindow(text);
    return read.ok ? read.value : read.sentence;
  };
  it.each([
    ['Sat, Sun 02:00-06:00', { days: [6, 0], fromMinute: 120, minutes: 240 }],
    ['any day 22:00–04:00', { days: [0, 1, 2, 3, 4, 5, 6], fromMinute: 1320, minutes: 360 }],
    ['Sunday 0:00-24:00', 'is not a window'],
    ['whenever', 'is not a window'],
    ['Monkey 02:00-04:00', 'is not a window'],
    ['friday 9:00-17:00', { days: [5], fromMinute: 540, minutes: 480 }],
    ['Fri 25:00-26:00', 'is not a window'],
    ['', null],
  ])('%s', (text, wanted) =>
    typeof wanted === 'string'
      ? expect(window(text)).toContain(wanted)
      : expect(window(text)).toEqual(wanted),
  );
});

it('any window is read as it is written', () => {
  const NAMES = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
  const clock = (minute: number) =>
    `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
  fc.assert(
    fc.property(
      fc.subarray([0, 1, 2, 3, 4, 5, 6], { minLength: 1 }),
      fc.integer({ min: 0, max: 1439 }),
      fc.integer({ min: 1, max: 1439 }),
      (days, fromMinute, minutes) => {
        const text = `${days.map((day) => NAMES[day]).join(', ')} ${clock(fromMinute)}-${clock((fromMinute + minutes) % 1440)}`;
        expect(parseOutageWindow(text)).toEqual({ ok: true, value: { days, fromMinute, minutes } });
      },
    ),
  );
});
