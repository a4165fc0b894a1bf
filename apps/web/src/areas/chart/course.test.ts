import { describe, expect, it } from 'vitest';
import { courseOf, powersBelow } from './course.js';

describe('a course', () => {
  it('lays guests head to tail', () =>
    expect(
      courseOf([
        { vcpu: 4, memoryMiB: 1024 },
        { vcpu: 1, memoryMiB: 512 },
      ]),
    ).toEqual([
      { vcpu: 0, memoryMiB: 0 },
      { vcpu: 4, memoryMiB: 1024 },
      { vcpu: 5, memoryMiB: 1536 },
    ]));
});

describe('marks along a side', () => {
  it('are powers of two', () => {
    expect(powersBelow(238, 160)).toEqual([64, 128]);
    expect(powersBelow(8, 46)).toEqual([4]);
  });
  it('stand apart from each other and from the corner', () => {
    for (const most of [0, 0.5, 1, 3, 30, 119, 128, 255, 256, 1000])
      for (const pixels of [5, 38, 100, 180]) {
        const places = powersBelow(most, pixels).map((mark) => (mark / most) * pixels);
        for (const [i, place] of places.entries()) {
          expect(place - (places[i - 1] ?? 0)).toBeGreaterThanOrEqual(22);
          expect(pixels - place).toBeGreaterThanOrEqual(11);
        }
      }
  });
});
