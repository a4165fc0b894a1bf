/** What goes down when the power ends, in order, against the minutes that the UPS holds. */
import type { ShutDownQuery, ShutDownView, StopRow } from '@insel/contract';
import { hostsAt, outageOf, shutDown, type Fleet, type Row } from '@insel/core';
import { notFound } from '../problem-exception.js';

const MOST_ROWS = 400;

interface Scope {
  name: string;
  hostIds: string[];
  /** Minutes that are recorded, and of what. */
  holds: { minutes: number; from: string }[];
}

const KIND_OF = { feed: 'powerFeed', rack: 'rack', site: 'site', group: 'hostGroup' } as const;

function scopeOf(fleet: Fleet, { what, id }: ShutDownQuery): Scope {
  const place = fleet.get(KIND_OF[what], id);
  if (!place) throw notFound(KIND_OF[what]);
  const holding = (...rows: readonly (Row<'rack'> | Row<'powerFeed'>)[]) =>
    rows.flatMap(({ name, upsMinutes }) =>
      upsMinutes === null ? [] : [{ minutes: upsMinutes, from: `recorded at ${name}` }],
    );
  const inService = (hosts: readonly Row<'host'>[]) =>
    hosts.filter(({ state }) => state === 'in service' || state === 'maintenance');
  const ids = (hosts: readonly Row<'host'>[]) => inService(hosts).map((host) => host.id);
  const { name } = place;
  switch (what) {
    case 'feed':
      return {
        name,
        // Who has another feed goes on; what trips after it does not hold.
        hostIds: outageOf(fleet, id).hostIds,
        holds: holding(place as Row<'powerFeed'>),
      };
    case 'rack':
      return {
        name,
        hostIds: ids(fleet.referring('host', 'rackId', id)),
        holds: holding(place as Row<'rack'>),
      };
    case 'site': {
      const feeds = fleet
        .referring('powerFeed', 'siteId', id)
        .filter((feed) => hostsAt(fleet, feed.id).length > 0);
      // Where feeds are recorded they say it; else the racks.
      const from = holding(...feeds);
      return {
        name,
        hostIds: ids(fleet.referring('host', 'siteId', id)),
        holds: from.length > 0 ? from : holding(...fleet.referring('rack', 'siteId', id)),
      };
    }
    case 'group':
      return { name, hostIds: ids(fleet.referring('host', 'groupId', id)), holds: [] };
  }
}

export function shutDownView(fleet: Fleet, query: ShutDownQuery): ShutDownView {
  const { name, hostIds, holds } = scopeOf(fleet, query);
  const { stops, seconds, longest } = shutDown(fleet, hostIds);
  const [shortest] = holds.sort((a, b) => a.minutes - b.minutes);
  const minutes = query.minutes ?? shortest?.minutes ?? null;
  const waitMinutes = query.waitMinutes ?? 0;
  const [wait, end] = [waitMinutes * 60, minutes === null ? Infinity : minutes * 60];
  const rows = stops.map((stop): StopRow => ({
    kind: stop.kind === 'host' ? 'host' : 'guest',
    ...{ id: stop.id, name: stop.name, after: stop.after ?? '', forced: stop.forced },
    host: stop.hostId === null ? '' : fleet.need('host', stop.hostId).name,
    begins: stop.begins + wait,
    down: stop.down + wait,
    late: stop.down + wait > end,
  }));
  return {
    name,
    hosts: rows.filter(({ kind }) => kind === 'host').length,
    guests: rows.filter(({ kind }) => kind === 'guest').length,
    seconds: seconds + wait,
    waitMinutes,
    minutes,
    from: query.minutes !== undefined ? 'as typed' : (shortest?.from ?? ''),
    late: rows.filter(({ late }) => late).length,
    mayWaitSeconds: minutes === null ? null : end - seconds,
    longest,
    rows: rows.slice(0, MOST_ROWS),
    total: rows.length,
  };
}
