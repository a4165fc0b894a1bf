import type { HostGroupView, PlacementRuleView, PowerFeedView, RackView } from '@insel/contract';
import {
  beside,
  commonLevel,
  cordsOf,
  feedLoad,
  findingsAt,
  hostsAt,
  outageOf,
  own,
  type Fleet,
  type Row,
} from '@insel/core';
import { named, namedById } from './common.js';

export function groupView(fleet: Fleet, group: Row<'hostGroup'>): HostGroupView {
  const hosts = fleet
    .referring('host', 'groupId', group.id)
    .filter((host) => host.state !== 'retired')
    .sort((a, b) => a.name.localeCompare(b.name));
  return {
    ...group,
    hosts: hosts.map(named),
    level: commonLevel(
      fleet,
      hosts.map((host) => host.id),
    ),
  };
}

export function rackView(fleet: Fleet, rack: Row<'rack'>): RackView {
  const hosts = fleet
    .referring('host', 'rackId', rack.id)
    .filter((host) => host.state !== 'retired')
    .sort((a, b) => (b.rackUnit ?? 0) - (a.rackUnit ?? 0));
  const total = hosts.reduce((sum, host) => sum + (host.drawWatts ?? 0), 0);
  const unknown = hosts.filter((host) => host.drawWatts === null).length;
  return {
    ...rack,
    site: rack.siteId ? namedById(fleet, 'site', rack.siteId) : null,
    hosts: hosts.map((host) => ({
      ...named(host),
      unit: host.rackUnit,
      height: host.rackHeight,
      drawWatts: host.drawWatts,
    })),
    draw: {
      name: 'rack-draw',
      title: `Draw of ${rack.name}`,
      value: total,
      unit: 'watts',
      lines: [
        ...hosts.map((host) => ({
          label: host.name,
          value: host.drawWatts,
          unit: 'watts' as const,
          operator: '+' as const,
          from: { kind: 'host', id: host.id },
          note: host.drawWatts === null ? 'not recorded' : undefined,
        })),
        {
          label: unknown ? `Draw, ${unknown} unknown` : 'Draw',
          value: total,
          unit: 'watts',
          operator: '=',
        },
      ],
      sources: [own('Highest draw planned or measured, as recorded at each host')],
    },
  };
}

export function ruleView(fleet: Fleet, rule: Row<'placementRule'>): PlacementRuleView {
  const guests = fleet
    .referring('placementMember', 'ruleId', rule.id)
    .map((member) => namedById(fleet, 'guest', member.guestId))
    .sort((a, b) => a.name.localeCompare(b.name));
  return { ...rule, guests, host: rule.hostId ? namedById(fleet, 'host', rule.hostId) : null };
}

export function powerFeedView(fleet: Fleet, feed: Row<'powerFeed'>, now: string): PowerFeedView {
  const load = feedLoad(fleet, feed.id);
  const hosts = hostsAt(fleet, feed.id).map((host) => {
    const cords = cordsOf(fleet, host.id);
    const here = cords.filter(({ feedId }) => feedId === feed.id).length;
    return { ...named(host), here, cords: cords.length, drawWatts: host.drawWatts };
  });
  const worst = beside(fleet, feed.id)
    .map((otherId) => ({
      after: fleet.need('powerFeed', otherId).name,
      watts: feedLoad(fleet, feed.id, new Set([otherId])).watts,
    }))
    .sort((a, b) => b.watts - a.watts)[0];
  return {
    ...feed,
    site: feed.siteId ? namedById(fleet, 'site', feed.siteId) : null,
    hosts,
    worst: worst ?? null,
    takesDown: outageOf(fleet, feed.id).hostIds.map((id) => namedById(fleet, 'host', id)),
    findings: findingsAt(fleet, 'powerFeed', feed.id, now),
    load: {
      name: 'feed-load',
      title: `Carried by ${feed.name}`,
      value: load.watts,
      unit: 'watts',
      lines: [
        ...hosts.map(({ id, name, here, cords, drawWatts }) => ({
          label: cords > here ? `${name}, ${here} of ${cords} supplies` : name,
          value: drawWatts === null ? null : (drawWatts * here) / cords,
          unit: 'watts' as const,
          operator: '+' as const,
          from: { kind: 'host', id },
          note: drawWatts === null ? 'not recorded' : undefined,
        })),
        {
          label: load.unknown ? `Carried, ${load.unknown} unknown` : 'Carried',
          value: load.watts,
          unit: 'watts',
          operator: '=',
        },
      ],
      sources: [
        own(
          'Highest draw recorded at each host, shared equally by its supplies (common practice, no source)',
        ),
      ],
    },
  };
}
