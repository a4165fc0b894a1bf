/** Moves as works to be scheduled: what each takes up, and after which others it comes. */
import type { Stretch } from '../calendar/index.js';
import { countsOnHost, memoryDemand, capacity, load } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Work } from '../scheduling/index.js';
import type { Bound } from './bounds.js';
import type { TimesAsk } from './find-times.js';
import { sidesOf } from './sides.js';
import { atOnce } from './timetable.js';

export interface Moving {
  /** Where it stays, in minutes of the epoch. */
  at?: number;
  row: Row<'migration'>;
  minutes: number;
  bounds: Bound[];
  windows: Stretch[];
}

export function worksOf(fleet: Fleet, all: readonly Moving[], { mostAtOnce }: TimesAsk): Work[] {
  const indexOf = new Map(all.map(({ row }, i) => [row.guestId, i]));
  const leaving = leavingFirst(fleet, all);
  return all.map(({ at, row, minutes, windows }, i): Work => {
    const bears = Math.min(atOnce(row.linkBitsPerSecond), mostAtOnce ?? Infinity);
    const { groupId } = fleet.need('guest', row.guestId);
    return {
      at,
      minutes,
      windows,
      uses: [
        ...sidesOf(fleet, row).map(({ id }) => ({ key: id, most: bears })),
        ...(groupId ? [{ key: groupId, most: 1 }] : []),
      ],
      after: [
        ...dependants(fleet, row.guestId).flatMap((id) => indexOf.get(id) ?? []),
        ...leaving[i]!,
      ],
    };
  });
}

/**
 * By move: those that leave the host it goes to, where that has not the room for all while they stand there. Where such moves
 * wait for each other in a circle no order helps, and none is asked for.
 */
function leavingFirst(fleet: Fleet, all: readonly Moving[]): number[][] {
  const tight = new Map<string, boolean>();
  const isTight = (hostId: string): boolean => {
    const known =
      tight.get(hostId) ??
      ((): boolean => {
        const [has, used] = [capacity(fleet, hostId), load(fleet, hostId)];
        let { memoryMiB, vcpu } = used;
        // What is under way holds its room already.
        for (const { row } of all) {
          const guest = fleet.need('guest', row.guestId);
          if (row.targetHostId !== hostId || row.state !== 'planned' || !countsOnHost(guest))
            continue;
          memoryMiB += memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB);
          vcpu += guest.vcpu;
        }
        return memoryMiB > has.memory.value || vcpu > has.vcpu.value;
      })();
    tight.set(hostId, known);
    return known;
  };
  const before = all.map(({ row }) => {
    const { targetHostId } = row;
    if (targetHostId === null || !isTight(targetHostId)) return [];
    return all.flatMap((other, i) =>
      other.row.sourceHostId === targetHostId && other.row.id !== row.id ? [i] : [],
    );
  });
  const leadsTo = (from: number, to: number, seen = new Set<number>()): boolean =>
    before[from]!.some((next) => {
      if (next === to) return true;
      if (seen.has(next)) return false;
      seen.add(next);
      return leadsTo(next, to, seen);
    });
  return before.map((those, i) => those.filter((one) => !leadsTo(one, i)));
}

/** Guests that need a service of this one, or this one itself: they move before it. */
function dependants(fleet: Fleet, guestId: string): string[] {
  const services = fleet
    .referring('provider', 'guestId', guestId)
    .map(({ serviceId }) => serviceId);
  const needs = [
    ...fleet.referring('dependency', 'onGuestId', guestId),
    ...services.flatMap((id) => fleet.referring('dependency', 'serviceId', id)),
  ];
  return [...new Set(needs.flatMap((need) => need.guestId ?? []))].filter((id) => id !== guestId);
}
