/** How pools and the memory of host groups fill by what was measured, and when they run out by that. */
import type { Fleet } from '../record/index.js';
import { inTurns, runsOut, type Growth } from './growth.js';
import { groupOf, placeLevels, type PlaceLevel } from './levels.js';

/** What was in use of a pool, and when. */
export interface PoolSample {
  poolId: string;
  at: string;
  bytes: number;
}

/**
 * @param samples of each pool the oldest first; without one nothing is known of a pool, and nothing said
 * @returns null where it was stopped
 */
export function growthInUse(
  fleet: Fleet,
  samples: readonly PoolSample[],
  now: string,
  pause: () => Promise<boolean> = () => Promise.resolve(true),
): Promise<Growth[] | null> {
  const byPool = new Map<string, PoolSample[]>();
  for (const sample of samples) {
    const held = byPool.get(sample.poolId);
    if (held) held.push(sample);
    else byPool.set(sample.poolId, [sample]);
  }
  const pools = [...byPool].flatMap(([id, found]) => {
    const pool = fleet.get('pool', id);
    return pool ? [{ pool, found }] : [];
  });
  return inTurns(pools, pause, ({ pool, found }): Growth => {
    const { id, name, usableBytes: limit } = pool;
    const points = found.map(({ at, bytes }) => ({ at, taken: bytes, limit }));
    const level: PlaceLevel = {
      resource: 'storage in use',
      place: { kind: 'pool', id, name },
      unit: 'bytes',
      taken: points.at(-1)!.taken,
      limit,
    };
    return { ...level, points, runway: runsOut(level, points, now) };
  });
}

/** What was in use inside a guest, at one of several looks. */
export interface GuestSample {
  guestId: string;
  /** The later, the higher. */
  look: number;
  at: string;
  memoryMiB: number;
}

/**
 * Of the guests of a group that were measured at the last look, what they had in use together: at every look at which all of them
 * were. Who was not measured is not in it, and counted.
 */
export function memoryInUse(fleet: Fleet, samples: readonly GuestSample[], now: string): Growth[] {
  const limits = new Map(
    placeLevels(fleet)
      .filter(({ resource }) => resource === 'memory')
      .map((level) => [level.place.id, level]),
  );
  const byGroup = new Map<string, GuestSample[]>();
  for (const sample of samples) {
    const guest = fleet.get('guest', sample.guestId);
    const group = guest && groupOf(fleet.need('host', guest.hostId));
    if (!group || !limits.has(group)) continue;
    const held = byGroup.get(group);
    if (held) held.push(sample);
    else byGroup.set(group, [sample]);
  }
  return [...byGroup].map(([id, found]): Growth => {
    const { place, limit } = limits.get(id)!;
    const looks = new Map<number, Map<string, GuestSample>>();
    for (const sample of found) {
      const look = looks.get(sample.look) ?? new Map<string, GuestSample>();
      looks.set(sample.look, look.set(sample.guestId, sample));
    }
    const inOrder = [...looks].sort(([a], [b]) => a - b).map(([, look]) => look);
    const guests = [...inOrder.at(-1)!.keys()];
    const points = inOrder
      .filter((look) => guests.every((guest) => look.has(guest)))
      .map((look) => {
        const all = guests.map((guest) => look.get(guest)!);
        const at = all.map((sample) => sample.at).sort().at(-1)!; // prettier-ignore
        return { at, taken: all.reduce((sum, { memoryMiB }) => sum + memoryMiB, 0), limit };
      });
    const level: PlaceLevel = {
      ...{ resource: 'memory in use', place, unit: 'MiB', limit },
      taken: points.at(-1)!.taken,
    };
    const hosts = [...fleet.all('host')].filter((host) => groupOf(host) === id);
    const running = hosts.flatMap((host) =>
      fleet.referring('guest', 'hostId', host.id).filter(({ state }) => state === 'in service'),
    );
    return {
      ...level,
      points,
      runway: runsOut(level, points, now),
      measured: { guests: guests.length, of: Math.max(running.length, guests.length) },
    };
  });
}
