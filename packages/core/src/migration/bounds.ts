/**
 * When a move may be made: what its guest and that one's group allow while it is down, and what both hosts, their groups and
 * their sites allow at any time, each by the clock of its place. Costs the windows, each once by a calendar of one question.
 */
import { crossing, openTimes, readWindow, zoneOr, type Stretch } from '../calendar/index.js';
import type { Fleet, Row } from '../record/index.js';
import { sidesOf } from './sides.js';

/** What somebody said of when. */
export interface Bound {
  kind: 'guest' | 'guestGroup' | 'host' | 'hostGroup' | 'site';
  id: string;
  /** Whose it is. */
  name: string;
  text: string;
  /** IANA name; UTC where nobody said. */
  zone: string;
}

export function boundsOf(fleet: Fleet, move: Row<'migration'>): Bound[] {
  const guest = fleet.need('guest', move.guestId);
  const group = fleet.get('guestGroup', guest.groupId);
  const zone = zoneOfMachine(fleet, move.sourceHostId, move.sourceDeviceId);
  const down: Bound[] = move.running
    ? []
    : [
        { kind: 'guest', id: guest.id, name: guest.name, text: guest.outageWindow, zone },
        ...(group
          ? [
              {
                kind: 'guestGroup' as const,
                id: group.id,
                name: group.name,
                text: group.outageWindow,
                zone,
              },
            ]
          : []),
      ];
  const places = sidesOf(fleet, move).flatMap(({ kind, id }) =>
    kind === 'host'
      ? boundsOfHost(fleet, id)
      : boundsOfSite(fleet, fleet.need('device', id).siteId),
  );
  const all = [...down, ...places].filter(({ text }) => text !== '');
  return [...new Map(all.map((bound) => [bound.id, bound])).values()];
}

/** Of a host itself, its group and its site. */
export function boundsOfHost(fleet: Fleet, hostId: string): Bound[] {
  const host = fleet.need('host', hostId);
  const group = fleet.get('hostGroup', host.groupId);
  const zone = zoneOfMachine(fleet, hostId, null);
  const own: Bound[] = [
    { kind: 'host', id: host.id, name: host.name, text: host.workWindow, zone },
    ...(group
      ? [
          {
            kind: 'hostGroup' as const,
            id: group.id,
            name: group.name,
            text: group.workWindow,
            zone,
          },
        ]
      : []),
    ...boundsOfSite(fleet, host.siteId),
  ];
  return own.filter(({ text }) => text !== '');
}

function boundsOfSite(fleet: Fleet, siteId: string | null): Bound[] {
  const site = fleet.get('site', siteId);
  if (!site || site.workWindow === '') return [];
  const { id, name, workWindow, timeZone } = site;
  return [{ kind: 'site', id, name, text: workWindow, zone: zoneOr(timeZone) }];
}

/** The clock of the site where a machine stands; UTC where nobody said. */
export function zoneOfMachine(
  fleet: Fleet,
  hostId: string | null,
  deviceId: string | null | undefined,
): string {
  const machine = fleet.get('host', hostId) ?? fleet.get('device', deviceId ?? null);
  return zoneOr(fleet.get('site', machine?.siteId ?? null)?.timeZone ?? '');
}

/** Answers when windows are open between two minutes of the epoch; each window is worked out once. */
export class WorkCalendar {
  private readonly known = new Map<string, Stretch[]>();

  constructor(
    readonly from: number,
    readonly until: number,
  ) {}

  open({ text, zone }: Pick<Bound, 'text' | 'zone'>): Stretch[] {
    const key = `${zone}\n${text}`;
    let found = this.known.get(key);
    if (!found) {
      const read = readWindow(text);
      found = openTimes(read.ok ? read.value : null, zone, this.from, this.until);
      this.known.set(key, found);
    }
    return found;
  }

  /** When all of them are open. */
  all(bounds: readonly Pick<Bound, 'text' | 'zone'>[]): Stretch[] {
    return bounds.reduce<Stretch[]>(
      (open, bound) => crossing(open, this.open(bound)),
      [[this.from, this.until]],
    );
  }
}

/** Those of the bounds that are not open all the time between two minutes of the epoch, which the calendar covers. */
export const shutDuring = (
  calendar: WorkCalendar,
  bounds: readonly Bound[],
  from: number,
  until: number,
): Bound[] =>
  bounds.filter(
    (bound) => !calendar.open(bound).some(([begins, ends]) => begins <= from && ends >= until),
  );

const WORDS: Record<Bound['kind'], (name: string) => string> = {
  guest: (name) => `${name} may be down`,
  guestGroup: (name) => `one of ${name} may be down`,
  host: (name) => `${name} is worked at`,
  hostGroup: (name) => `hosts of ${name} are worked at`,
  site: (name) => `work is done at ${name}`,
};

/** @example "mail may be down Sat 22:00-04:00 (Europe/Lisbon)" */
export const boundWords = ({ kind, name, text, zone }: Bound): string =>
  `${WORDS[kind](name)} ${text.replace(/^not /i, 'any time, not ')} (${zone})`;
