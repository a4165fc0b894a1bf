/**
 * Moves along time, with their hosts as lanes: when each is or was, until when it must be decided, and where more run at
 * once than the link bears. Its cost grows with the open
 * moves times those on record, which their estimates learn from, and for crowding with the square of those of a host.
 */
import type { Fleet, Row } from '../record/index.js';
import { boundsOf, boundWords, shutDuring, WorkCalendar } from './bounds.js';
import { decideBy } from './decide-by.js';
import { routeEstimate, routeOf } from './route.js';
import { sideOf, type MoveSide } from './sides.js';

export interface Bar {
  id: string;
  guest: string;
  guestId: string;
  source: MoveSide;
  target: MoveSide;
  state: Row<'migration'>['state'];
  /** UTC. */
  from: string;
  to: string;
  /** Of the window, where it has one. */
  windowFrom: string | null;
  windowUntil: string | null;
  decideBy: string | null;
  /** It is expected to take longer than its window. */
  overruns: boolean;
  /** What does not allow the time that it is planned for, in words. */
  shut: string[];
}

export interface Timetable {
  bars: Bar[];
  /** Planned without a window: they have no place in time. */
  loose: { id: string; guest: string }[];
  crowded: Crowd[];
}

/** More moves at once at a host than its link bears. */
export interface Crowd {
  /** The host, or the computer. */
  at: string;
  from: string;
  to: string;
  /** Names of the guests. */
  guests: string[];
  allowed: number;
}

/** Moves at once by the speed of the link. Common practice, no source: 1 at 1 Gbit/s, 4 at 10, 8 at 25. */
export const atOnce = (bitsPerSecond: number): number =>
  bitsPerSecond >= 25e9 ? 8 : bitsPerSecond >= 10e9 ? 4 : 1;

/** @param from @param until UTC: moves that touch this stretch */
export function timetable(fleet: Fleet, from: string, until: string): Timetable {
  const bars: Bar[] = [];
  const loose: Timetable['loose'] = [];
  for (const migration of fleet.all('migration')) {
    const guest = fleet.need('guest', migration.guestId).name;
    const when = timesOf(fleet, migration);
    if (!when) loose.push({ id: migration.id, guest });
    else if (when.from < until && when.to > from)
      bars.push({ ...barOf(fleet, migration, when), guest });
  }
  bars.sort((a, b) => a.from.localeCompare(b.from) || a.guest.localeCompare(b.guest));
  return { bars: withShut(fleet, bars), loose, crowded: crowds(fleet, bars) };
}

/** Says of each planned bar what does not allow its time. */
function withShut(fleet: Fleet, bars: readonly Bar[]): Bar[] {
  const planned = bars.filter(({ state }) => state === 'planned');
  if (planned.length === 0) return [...bars];
  const minuteOf = (time: string) => Math.floor(Date.parse(time) / 60_000);
  const calendar = new WorkCalendar(
    Math.min(...planned.map(({ from }) => minuteOf(from))),
    Math.max(...planned.map(({ to }) => minuteOf(to))),
  );
  return bars.map((bar) => {
    if (bar.state !== 'planned') return bar;
    const bounds = boundsOf(fleet, fleet.need('migration', bar.id));
    const shut = shutDuring(calendar, bounds, minuteOf(bar.from), minuteOf(bar.to));
    return { ...bar, shut: shut.map(boundWords) };
  });
}

const later = (time: string, seconds: number): string =>
  new Date(Date.parse(time) + seconds * 1000).toISOString();

const expected = (fleet: Fleet, migration: Row<'migration'>): number =>
  routeEstimate(fleet, routeOf(fleet, migration)).total.value ?? 0;

/** Undefined for one that is planned for no time. */
function timesOf(
  fleet: Fleet,
  migration: Row<'migration'>,
): { from: string; to: string } | undefined {
  const { state, windowFrom, startedAt, switchedAt, endedAt } = migration;
  if (startedAt) {
    const to = switchedAt ?? endedAt ?? later(startedAt, expected(fleet, migration));
    return { from: startedAt, to: to > startedAt ? to : later(startedAt, 60) };
  }
  if (state !== 'planned' || windowFrom === null)
    return endedAt ? { from: endedAt, to: later(endedAt, 60) } : undefined;
  return { from: windowFrom, to: later(windowFrom, Math.max(60, expected(fleet, migration))) };
}

function barOf(
  fleet: Fleet,
  migration: Row<'migration'>,
  { from, to }: { from: string; to: string },
): Omit<Bar, 'guest'> {
  const { id, guestId, state, windowFrom, windowUntil } = migration;
  return {
    id,
    guestId,
    source: sideOf(fleet, migration, 'source'),
    target: sideOf(fleet, migration, 'target'),
    state,
    from,
    to,
    windowFrom,
    windowUntil,
    decideBy: decideBy(fleet, migration)?.at ?? null,
    overruns:
      windowUntil !== null && (state === 'planned' || state === 'started') && to > windowUntil,
    shut: [],
  };
}

const isOpen = ({ state }: Bar): boolean => state === 'planned' || state === 'started';

/** Stretches in which more open moves touch a host than are allowed, each told once. */
function crowds(fleet: Fleet, bars: readonly Bar[]): Crowd[] {
  const bySide = new Map<string, Bar[]>();
  for (const bar of bars.filter(isOpen))
    for (const id of new Set([bar.source.id, bar.target.id]))
      bySide.set(id, [...(bySide.get(id) ?? []), bar]);
  return [...bySide].flatMap(([at, here]) => {
    const found: Crowd[] = [];
    for (const bar of here) {
      const meanwhile = here.filter(({ from, to }) => from <= bar.from && to > bar.from);
      const allowed = Math.min(
        ...meanwhile.map(({ id }) => atOnce(fleet.need('migration', id).linkBitsPerSecond)),
      );
      if (meanwhile.length <= allowed) continue;
      found.push({
        at,
        from: bar.from,
        to: meanwhile.map(({ to }) => to).sort()[0]!,
        guests: meanwhile.map(({ guest }) => guest),
        allowed,
      });
    }
    return found;
  });
}
