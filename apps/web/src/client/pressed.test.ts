import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { untilReleased, watchPresses, whenReleased } from './pressed.js';

const listeners = new Map<string, (event: { button: number }) => void>();
const happens = (type: string, button = 0) => listeners.get(type)!({ button });

beforeEach(() => {
  vi.useFakeTimers();
  watchPresses({
    addEventListener: (type: string, listener: unknown) =>
      void listeners.set(type, listener as (event: { button: number }) => void),
  });
});
afterEach(async () => {
  await vi.runAllTimersAsync();
  vi.useRealTimers();
});

/** What was called back, in its order. */
function noted() {
  const told: string[] = [];
  return { told, note: (what: string) => whenReleased(() => void told.push(what)) };
}

test('with nothing pressed it is called back at once', () => {
  const { told, note } = noted();
  note('a');
  expect(told).toEqual(['a']);
});

test('while pressed it waits until after the click, in its order', async () => {
  const { told, note } = noted();
  happens('pointerdown');
  note('a');
  note('b');
  await vi.advanceTimersByTimeAsync(100);
  expect(told).toEqual([]);
  happens('pointerup');
  // The click comes in the task of the release.
  expect(told).toEqual([]);
  note('c');
  await vi.advanceTimersByTimeAsync(0);
  expect(told).toEqual(['a', 'b', 'c']);
});

test('a press that is taken for a gesture ends as well, and another button is no press', async () => {
  const { told, note } = noted();
  happens('pointerdown', 2);
  note('a');
  expect(told).toEqual(['a']);
  happens('pointerdown');
  note('b');
  happens('pointercancel');
  await vi.advanceTimersByTimeAsync(0);
  expect(told).toEqual(['a', 'b']);
});

test('a press that lasts is no click: what waits is shown after a second', async () => {
  const { told, note } = noted();
  happens('pointerdown');
  note('a');
  await vi.advanceTimersByTimeAsync(999);
  expect(told).toEqual([]);
  await vi.advanceTimersByTimeAsync(2);
  expect(told).toEqual(['a']);
});

test('pressed again before it is told, it waits for the second release', async () => {
  let done = false;
  happens('pointerdown');
  void untilReleased().then(() => (done = true));
  happens('pointerup');
  happens('pointerdown');
  await vi.advanceTimersByTimeAsync(100);
  expect(done).toBe(false);
  happens('pointerup');
  await vi.advanceTimersByTimeAsync(0);
  expect(done).toBe(true);
});
