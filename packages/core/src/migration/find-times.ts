/**
 * Times for planned moves: each whole within what its guest allows, beside no more others than its hosts' links bear, members
 * of a group one after another, who provides a service to others after them, and who goes where there is no room yet after
 * those who leave from there. Costs what the search costs: orders tried · moves².
 */
import { clockText, readWindow } from '../calendar/index.js';
import { counted } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { schedule } from '../scheduling/index.js';
import { boundsOf, boundWords, WorkCalendar } from './bounds.js';
import { routeEstimate, routeOf } from './route.js';
import { sideOf } from './sides.js';
import { type Moving, worksOf } from './works-of-moves.js';

export interface TimesAsk {
  /** UTC: from when on, and how many days are looked at. */
  from: string;
  days: number;
  /** Also those that have a time already; else they stay where they are. */
  anew: boolean;
  /** When somebody is there, as in "Mon, Tue 18:00-23:00"; empty: always. */
  hours: string;
  /** By which clock the hours are meant: IANA name. */
  zone: string;
  /** Fewer at once at a host than its link bears; null: as many as it bears. */
  mostAtOnce: number | null;
}

export interface FoundTime {
  id: string;
  guestId: string;
  guest: string;
  source: string;
  target: string;
  /** UTC; until is by the long end of its estimate. */
  from: string;
  until: string;
  minutes: number;
  /** It stood there before. */
  kept: boolean;
}

export interface FoundTimes {
  times: FoundTime[];
  end: string | null;
  /** No order ends before this. */
  bound: string | null;
  proven: boolean;
  /** Stretches of time that are used: how often somebody has to be there. */
  windows: number;
  headline: string;
  /** Moves without a place, why, and the least that would give them one. */
  unfit: { id: string; guest: string; why: string; mend: string }[];
}

const MINUTE = 60_000;
const DAY = 1440;
/** A window is begun on the quarter of an hour, as people write times. */
const GRID = 15;

export function findTimes(fleet: Fleet, ask: TimesAsk): FoundTimes {
  const from = Math.ceil(Date.parse(ask.from) / MINUTE / GRID) * GRID;
  const until = from + ask.days * DAY;
  const calendar = new WorkCalendar(from, until);
  const hours = readWindow(ask.hours).ok ? [{ text: ask.hours, zone: ask.zone }] : [];
  const moving: Moving[] = [];
  const fixed: Moving[] = [];
  for (const row of fleet.all('migration')) {
    if (row.state !== 'planned' && row.state !== 'started') continue;
    const minutes = minutesOf(fleet, row);
    const stays = row.state === 'started' || (!ask.anew && row.windowFrom !== null);
    if (stays) {
      const at = Math.floor(Date.parse(row.startedAt ?? row.windowFrom ?? ask.from) / MINUTE);
      if (at + minutes > from)
        fixed.push({ at, row, minutes, bounds: [], windows: [[at, at + minutes]] });
      continue;
    }
    const bounds = boundsOf(fleet, row);
    moving.push({ row, minutes, bounds, windows: calendar.all([...bounds, ...hours]) });
  }
  const all = [...fixed, ...moving];
  const works = worksOf(fleet, all, ask);
  const { starts, bound, proven, windows } = schedule(works, from);
  const ends = all.flatMap(({ minutes }, i) => (starts[i] === null ? [] : [starts[i]! + minutes]));
  const times = all.flatMap((one, i) =>
    starts[i] === null ? [] : [timeOf(fleet, one, starts[i]!, i < fixed.length)],
  );
  const unfit = moving.flatMap((one, i) =>
    starts[fixed.length + i] === null ? [unfitOf(fleet, one, ask)] : [],
  );
  const end = ends.length > 0 ? Math.max(...ends) : null;
  return {
    times: times.sort((a, b) => a.from.localeCompare(b.from) || a.guest.localeCompare(b.guest)),
    end: end === null ? null : timeAt(end),
    bound: end === null ? null : timeAt(Math.min(end, bound)),
    proven: proven && unfit.length === 0,
    windows,
    headline: headlineOf(
      moving.length,
      unfit.length,
      end,
      Math.min(end ?? bound, bound),
      proven,
      ask.zone,
    ),
    unfit,
  };
}

const timeAt = (minute: number): string => new Date(minute * MINUTE).toISOString();

function headlineOf(
  moving: number,
  unfit: number,
  end: number | null,
  bound: number,
  proven: boolean,
  zone: string,
): string {
  if (moving === 0) return 'No planned move is without a time.';
  if (end === null || unfit === moving) return 'None of them finds a place.';
  const done = `${counted(moving - unfit, 'move')} ${moving - unfit === 1 ? 'is' : 'are'} done by ${clockText(zone, end)} ${zone}`;
  return proven && unfit === 0
    ? `${done}: no order ends earlier.`
    : `${done}; no order ends before ${clockText(zone, bound)}.`;
}

function minutesOf(fleet: Fleet, row: Row<'migration'>): number {
  const { totalRange, total } = routeEstimate(fleet, routeOf(fleet, row));
  return Math.max(1, Math.ceil(Math.max(total.value ?? 0, totalRange[1]) / 60));
}

function timeOf(fleet: Fleet, { row, minutes }: Moving, start: number, kept: boolean): FoundTime {
  return {
    id: row.id,
    guestId: row.guestId,
    guest: fleet.need('guest', row.guestId).name,
    source: sideOf(fleet, row, 'source').name,
    target: sideOf(fleet, row, 'target').name,
    from: timeAt(start),
    until: timeAt(start + minutes),
    minutes,
    kept,
  };
}

function unfitOf(
  fleet: Fleet,
  { row, minutes, bounds, windows }: Moving,
  ask: TimesAsk,
): FoundTimes['unfit'][number] {
  const guest = fleet.need('guest', row.guestId);
  const base = { id: row.id, guest: guest.name };
  const longest = Math.max(0, ...windows.map(([from, until]) => until - from));
  const said = [
    ...bounds.map(boundWords),
    ...(ask.hours ? [`somebody is there ${ask.hours} (${ask.zone})`] : []),
  ];
  if (windows.length === 0)
    return {
      ...base,
      why: `in these ${ask.days} days there is no time at which ${said.join(', and ')}`,
      mend: 'Look at more days, or let these times meet.',
    };
  if (longest < minutes)
    return {
      ...base,
      why: `it takes up to ${counted(minutes, 'minute')}, and no window is longer than ${longest}${said.length > 0 ? `: ${said.join(', and ')}` : ''}`,
      mend: `A window longer by ${counted(minutes - longest, 'minute')}, a faster link, or a move while it runs.`,
    };
  return {
    ...base,
    why: 'its windows are taken by others at its hosts',
    mend: 'Look at more days, or let more move at once.',
  };
}
