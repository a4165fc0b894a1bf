/** Moves along time for the screen, and as a calendar (RFC 5545) that other programs read. */
import type { TimetableQuery, TimetableView } from '@insel/contract';
import { timetable, type Fleet } from '@insel/core';
import ical, { ICalCalendarMethod, ICalEventStatus } from 'ical-generator';
import { byName } from './common.js';

const DAY = 86_400_000;
/** Days that are shown, and how many of them lie before now. */
const SHOWN = 14;
const BEFORE = 3;

export function timetableView(fleet: Fleet, query: TimetableQuery, now: string): TimetableView {
  const days = query.days ?? SHOWN;
  const from = query.from ?? `${dayOf(Date.parse(now) - BEFORE * DAY)}T00:00:00.000Z`;
  const until = new Date(Date.parse(from) + days * DAY).toISOString();
  const found = timetable(fleet, from, until);
  const sides = new Map(
    found.bars.flatMap(({ source, target }) => [source, target]).map((side) => [side.id, side]),
  );
  return {
    ...found,
    from,
    until,
    now,
    lanes: [...sides.values()].sort(byName),
    revisions: Object.fromEntries(
      found.bars.map(({ id }) => [id, fleet.need('migration', id).revision]),
    ),
  };
}

const dayOf = (time: number): string => new Date(time).toISOString().slice(0, 10);

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
