/** How a host's square is drawn: its size on the sheet, and where the course of its guests goes. */
import type { ChartHost } from '@insel/contract';
import { courseOf, type Arrival, type Point, type Scale } from './course.js';
import type { InPencil } from './in-pencil.js';

/** Never smaller than what can be read, whatever the scale. */
const SMALLEST = { x: 28, y: 38 };
const SMALLEST_DENSE = { x: 14, y: 20 };
const MOST_TIMES_LARGER = 3;
/** Room for what lies beyond the capacity. */
const MARGIN = 7;

/** Widths and heights in pixels; kx of one vCPU, ky of one MiB. */
export function squareMeasures(
  host: ChartHost,
  scale: Scale,
  dense: boolean,
  landing: readonly Arrival[],
  pencil: InPencil | undefined,
) {
  const smallest = dense ? SMALLEST_DENSE : SMALLEST;
  const wanted = Math.max(
    smallest.x / Math.max(1, host.vcpu * scale.x),
    smallest.y / Math.max(1, host.memoryMiB * scale.y),
  );
  const larger = Math.max(1, Math.min(MOST_TIMES_LARGER, wanted));
  const [kx, ky] = [scale.x * larger, scale.y * larger];
  const [width, height] = [Math.max(1, host.vcpu) * kx, Math.max(1, host.memoryMiB) * ky];
  const course = courseOf(host.guests);
  const arriving = pencil ? [...landing, ...pencil.arriving] : landing;
  const end = course.at(-1)!;
  const after = courseOf(arriving, end);
  const last = after.at(-1)!;
  const over = last.vcpu > host.vcpu || last.memoryMiB > host.memoryMiB;
  const [outerX, outerY] = [
    Math.max(width, last.vcpu * kx) + MARGIN,
    Math.max(height, last.memoryMiB * ky) + MARGIN,
  ];
  const x = (point: Point) => point.vcpu * kx;
  const y = (point: Point) => outerY - point.memoryMiB * ky;
  const line = (points: readonly Point[]) => points.map((one) => `${x(one)},${y(one)}`).join(' ');
  return {
    ...{ larger, kx, ky, width, height, outerX, outerY },
    ...{ course, end, arriving, after, last, over, x, y, line },
  };
}

export type SquareMeasures = ReturnType<typeof squareMeasures>;
