/** Moves along time for the screen, and as a calendar (RFC 5545) that other programs read. */
import type { TimetableLane, TimetableQuery, TimetableView } from '@insel/contract';
import {
  boundsOfHost,
  boundWords,
  dayAt,
  midnights,
  minuteAt,
  timetable,
  WorkCalendar,
  zoneOr,
  type Fleet,
  type MoveSide,
} from '@insel/core';
import ical, { ICalCalendarMethod, ICalEventStatus } from 'ical-generator';
import { byName } from './common.js';

const DAY = 86_400_000;
const MINUTE = 60_000;
/** Days that are shown, and how many of them lie before now. */
const SHOWN = 14;
const BEFORE = 3;

export function timetableView(fleet: Fleet, query: TimetableQuery, now: string): TimetableView {
  const days = query.days ?? SHOWN;
  // A line says where now is.
  fleet.alters((Math.floor(Date.parse(now) / MINUTE) + 1) * MINUTE);
  const zone = zoneOr(query.zone ?? '');
  // Whole days of that clock: what is asked for goes to the nearest midnight.
  const first = query.from
    ? dayAt(zone, minuteOf(query.from) + 12 * 60)
    : dayAt(zone, minuteOf(now)) - BEFORE;
  const [from, until] = [first, first + days].map((day) => timeOf(minuteAt(zone, day, 0))) as [
    string,
    string,
  ];
  const calendar = new WorkCalendar(minuteOf(from), minuteOf(until));
  const found = timetable(fleet, from, until);
  const sides = new Map(
    found.bars.flatMap(({ source, target }) => [source, target]).map((side) => [side.id, side]),
  );
  return {
    ...found,
    from,
    until,
    now,
    lanes: [...sides.values()].sort(byName).map((side) => laneOf(fleet, side, calendar)),
    zone,
    zones: zonesOf(fleet),
    midnights: midnights(zone, minuteOf(from), minuteOf(until)).map(timeOf),
    revisions: Object.fromEntries(
      found.bars.map(({ id }) => [id, fleet.need('migration', id).revision]),
    ),
  };
}

const minuteOf = (time: string): number => Math.floor(Date.parse(time) / MINUTE);
const timeOf = (minute: number): string => new Date(minute * MINUTE).toISOString();

function laneOf(fleet: Fleet, side: MoveSide, calendar: WorkCalendar): TimetableLane {
  const bounds = side.kind === 'host' ? boundsOfHost(fleet, side.id) : [];
  if (bounds.length === 0) return { ...side, open: null, said: '' };
  const open = calendar
    .all(bounds)
    .map(([from, until]) => ({ from: timeOf(from), until: timeOf(until) }));
  return { ...side, open, said: bounds.map(boundWords).join('; ') };
}

const zonesOf = (fleet: Fleet): string[] => [
  ...new Set([
    'UTC',
    ...[...fleet.all('site')]
      .map(({ timeZone }) => timeZone)
      .filter(Boolean)
      .sort(),
  ]),
];

/** What is planned and what has begun, from a day before now on: times in UTC. */
export function calendarText(fleet: Fleet, now: string): string {
  const from = new Date(Date.parse(now) - DAY).toISOString();
  const calendar = ical({
    name: 'Insel: migrations',
    prodId: { company: 'Insel', product: 'migrations', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  });
  for (const bar of timetable(fleet, from, '9999-12-31T00:00:00.000Z').bars) {
    if (bar.state !== 'planned' && bar.state !== 'started') continue;
    calendar.createEvent({
      id: bar.id,
      stamp: now,
      start: bar.from,
      end: bar.windowUntil && bar.windowUntil > bar.from ? bar.windowUntil : bar.to,
      summary: `Move ${bar.guest}: ${bar.source.name} → ${bar.target.name}`,
      description: [
        `Expected to be done at ${bar.to.slice(0, 16).replace('T', ' ')} UTC.`,
        bar.decideBy ? `Decide by ${bar.decideBy.slice(0, 16).replace('T', ' ')} UTC.` : '',
      ]
        .filter(Boolean)
        .join('\n'),
      status: bar.state === 'started' ? ICalEventStatus.CONFIRMED : ICalEventStatus.TENTATIVE,
    });
  }
  return calendar.toString();
}
