/**
 * How places have filled over time, from the record's own history, and when they run out by that. What was recorded as found
 * counts as having been there: only what was planned, altered and retired is growth.
 */
import { runway, type Runway } from '../measure/index.js';
import { turnedRound, upcast, type Fleet, type LogEntry } from '../record/index.js';
import { placeLevels, type PlaceLevel } from './levels.js';

export interface GrowthPoint {
  at: string;
  taken: number;
  limit: number;
}

export interface Growth extends PlaceLevel {
  /** The oldest first; the last one is now. */
  points: GrowthPoint[];
  /** Null where nothing has altered: no trend. */
  runway: Runway | null;
  /** Of how many guests it is the sum, of how many that there are. */
  measured?: { guests: number; of: number };
}

/** Entries that say what exists already. */
const TOLD_AS_FOUND =
  /^(record\.begin|.*\.record|.*\.record-many|list\.take|host\.take-facts|names\.take|undo)$/;

const saysWhatExists = ({ change }: LogEntry): boolean =>
  TOLD_AS_FOUND.test((change as { type: string }).type);

/**
 * Walks back from now, entry by entry.
 * @param since entries of that time, the newest first
 * @param moments times to look at, the newest first, all before now
 * @param pause called between two looks; false: stop
 * @returns null where it was stopped
 */
export async function growth(
  fleet: Fleet,
  since: readonly LogEntry[],
  moments: readonly string[],
  now: string,
  pause: () => Promise<boolean> = () => Promise.resolve(true),
): Promise<Growth[] | null> {
  const was = fleet.overlay([]);
  const looks: { at: string; levels: Map<string, PlaceLevel> }[] = [
    { at: now, levels: byPlace(placeLevels(fleet)) },
  ];
  let next = 0;
  for (const at of moments) {
    for (; next < since.length && since[next]!.at > at; next += 1) takeBack(was, since[next]!);
    looks.push({ at, levels: byPlace(placeLevels(was)) });
    if (!(await pause())) return null;
  }
  looks.reverse();
  return inTurns([...looks.at(-1)!.levels], pause, ([key, level]): Growth => {
    const points = looks.flatMap(({ at, levels }) => {
      const then = levels.get(key);
      return then ? [{ at, taken: then.taken, limit: then.limit }] : [];
    });
    return { ...level, points, runway: runsOut(level, points, now) };
  });
}

/** So many places are looked at between two pauses: a trend takes some milliseconds. */
const AT_ONCE = 8;

/** @returns null where it was stopped */
export async function inTurns<T, R>(
  all: readonly T[],
  pause: () => Promise<boolean>,
  look: (one: T) => R,
): Promise<R[] | null> {
  const found: R[] = [];
  for (const [i, one] of all.entries()) {
    if (i % AT_ONCE === 0 && !(await pause())) return null;
    found.push(look(one));
  }
  return found;
}

const byPlace = (levels: readonly PlaceLevel[]): Map<string, PlaceLevel> =>
  new Map(levels.map((level) => [`${level.resource} ${level.place.id}`, level]));

/** What was created as found stays; what cannot be taken back without it stays as well. */
function takeBack(was: Fleet, entry: LogEntry): void {
  const found = saysWhatExists(entry);
  for (const patch of [...upcast(entry)].reverse()) {
    if (found && patch.op !== 'delete') continue;
    const back = turnedRound(patch);
    if (back.op === 'create' ? was.get(back.kind, back.id) : !was.get(back.kind, back.id)) continue;
    was.apply([back], was.revision);
  }
}

/** By the trend of what was taken, until what may be taken. @param more what would come beside it */
export function runsOut(
  { unit, limit, place }: Pick<PlaceLevel, 'unit' | 'limit' | 'place'>,
  points: readonly GrowthPoint[],
  now: string,
  more = 0,
): Runway | null {
  if (new Set(points.map(({ taken }) => taken)).size < 2) return null;
  return runway({
    samples: points.map(({ at, taken }) => ({ x: Date.parse(at) / 1000, y: taken })),
    limit: limit + more,
    unit,
    title: `Until ${place.name} runs out`,
    limitWords: 'May be taken',
    now: Date.parse(now) / 1000,
  });
}
