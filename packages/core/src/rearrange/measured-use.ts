/**
 * What guests of hosts use in each hour of the day, as measured, for evening out by it. Who was not measured long enough counts
 * with all it was given: what is unknown is not nothing. What guests use in the same hour is added up, as if their peaks came
 * together (common practice, no source). A second thread is no processor (capacity.ts).
 */
import { countsOnHost, memoryDemand, capacity, cores } from '../host/index.js';
import type { Use } from '../packing/index.js';
import { counted } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';

export const HOURS = 24;
/** Measured over at least so many days, with something in every hour. */
const LEAST_DAYS = 7;

/** 95th percentiles (type 7) of a guest's samples by hour of the day, in UTC; null: no sample in that hour. */
export interface HourlyUse {
  guestId: string;
  /** From the first sample to the last. */
  days: number;
  cpuPercent: (number | null)[];
  memoryMiB: (number | null)[];
}

export interface MeasuredUse extends Use {
  /** Guests that count on their hosts, and those of them that were measured long enough in both. */
  counting: number;
  measured: number;
  /** The longest that one of them was measured. */
  days: number;
}

/** @param hosts in the order of the question, as are guests */
export function measuredUse(
  fleet: Fleet,
  guests: readonly Row<'guest'>[],
  hostIds: readonly string[],
  use: readonly HourlyUse[],
): MeasuredUse {
  const byGuest = new Map(use.map((one) => [one.guestId, one]));
  const dims = HOURS * 2;
  const ofUnit = new Float64Array(guests.length * dims);
  const has = new Float64Array(hostIds.length * dims);
  for (const [i, id] of hostIds.entries()) {
    const [memory, processors] = [capacity(fleet, id).memory.value, cores(fleet.need('host', id))];
    for (let hour = 0; hour < HOURS; hour += 1) has.set([memory, processors], i * dims + hour * 2);
  }
  const found = { counting: 0, measured: 0, days: 0 };
  for (const [unit, guest] of guests.entries()) {
    // What is stopped uses nothing, which is known.
    if (!countsOnHost(guest) || guest.state === 'stopped') continue;
    const one = byGuest.get(guest.id);
    const [memory, cpu] = [whole(one, one?.memoryMiB), whole(one, one?.cpuPercent)];
    const given = memoryDemand(fleet, guest.hostId, guest.vcpu, guest.memoryMiB);
    for (let hour = 0; hour < HOURS; hour += 1)
      ofUnit.set(
        [
          memory ? given - guest.memoryMiB + memory[hour]! : given,
          cpu ? (cpu[hour]! * guest.vcpu) / 100 : guest.vcpu,
        ],
        unit * dims + hour * 2,
      );
    found.counting += 1;
    if (!memory || !cpu) continue;
    found.measured += 1;
    found.days = Math.max(found.days, Math.round(one!.days));
  }
  return { dims, hours: HOURS, ofUnit, has, ...found };
}

function whole(
  use: HourlyUse | undefined,
  values: readonly (number | null)[] = [],
): readonly number[] | null {
  if (!use || use.days < LEAST_DAYS || values.length < HOURS) return null;
  return values.every((value) => value !== null) ? values : null;
}

/** What is assumed where hosts are evened out by use, in a sentence or two. */
export function assumesOf({ counting, measured, days }: MeasuredUse): string {
  const others = counting - measured;
  if (measured === 0)
    return `None of the ${counted(counting, 'guest')} that count was measured for ${LEAST_DAYS} days in every hour: each counts with all that was given.`;
  const rest = others === 1 ? 'the other one counts' : `the other ${others} count`;
  return `Measured: ${measured} of the ${counting} guests that count, the 95th percentile of each hour of the day (UTC) over up to ${counted(days, 'day')}${
    others > 0 ? `; ${rest} with all that was given` : ''
  }. What is used in the same hour is added up, as if peaks came together. Room is still asked by what guests were given.`;
}
