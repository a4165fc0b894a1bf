/** Guests of a host head to tail, and the round marks of its sides. */
export interface Scale {
  /** Pixels per vCPU and per MiB. */
  x: number;
  y: number;
}

export interface Point {
  vcpu: number;
  memoryMiB: number;
}

export interface Arrival extends Point {
  id: string;
  name: string;
}

/** Points of a course that begins at a point and goes on guest by guest. */
export function courseOf(
  guests: readonly Point[],
  from: Point = { vcpu: 0, memoryMiB: 0 },
): Point[] {
  const points = [from];
  for (const guest of guests) {
    const last = points.at(-1)!;
    points.push({ vcpu: last.vcpu + guest.vcpu, memoryMiB: last.memoryMiB + guest.memoryMiB });
  }
  return points;
}

/** Marks closer than that to each other, or to an edge, cannot be told apart. */
const APART = 22;

/**
 * Powers of two along a side, as far apart as can be read.
 *
 * @param most what the side stands for @param pixels its length
 * @example powersBelow(238, 160) // [64, 128]
 */
export function powersBelow(most: number, pixels: number): number[] {
  if (most < 1) return [];
  const marks: number[] = [];
  for (let mark = 2 ** Math.floor(Math.log2(most)); mark >= 1; mark /= 2) {
    const at = (mark / most) * pixels;
    if (at < APART) break;
    if (pixels - at < APART / 2) continue;
    marks.unshift(mark);
  }
  return marks;
}
