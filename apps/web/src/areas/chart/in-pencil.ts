/** What a plan does to the hosts of the chart: guests in pencil, where they go, and where the course ended before. */
import type { ChartHost, PlanMove } from '@insel/contract';
import type { Arrival, Point } from './course.js';

export interface InPencil {
  /** Guests of the course that the plan alters or moves away. */
  touched: ReadonlySet<string>;
  /** How far the course went without the plan; null: as far as now. */
  before: Point | null;
  arriving: Arrival[];
}

export function inPencil(host: ChartHost, moves: readonly PlanMove[]): InPencil | undefined {
  const here = (one: { hostId: string } | null) => one?.hostId === host.id;
  const mine = moves.filter(({ was, is, goesTo }) => here(was) || here(is) || here(goesTo));
  if (mine.length === 0) return undefined;
  const end = host.guests.reduce(
    (sum, { vcpu, memoryMiB }) => ({ vcpu: sum.vcpu + vcpu, memoryMiB: sum.memoryMiB + memoryMiB }),
    { vcpu: 0, memoryMiB: 0 },
  );
  const before = { ...end };
  for (const { was, is } of mine)
    for (const [one, sign] of [[was, 1] as const, [is, -1] as const])
      if (one && here(one)) {
        before.vcpu += sign * one.vcpu;
        before.memoryMiB += sign * one.memoryMiB;
      }
  return {
    touched: new Set(mine.map(({ guestId }) => guestId)),
    before: before.vcpu === end.vcpu && before.memoryMiB === end.memoryMiB ? null : before,
    arriving: mine.flatMap(({ guestId, name, goesTo }) =>
      goesTo && here(goesTo) ? [{ id: guestId, name, ...goesTo }] : [],
    ),
  };
}
