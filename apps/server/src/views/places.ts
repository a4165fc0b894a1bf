import type { HostGroupView, PlacementRuleView, RackView } from '@insel/contract';
import { commonLevel, own, type Fleet, type Row } from '@insel/core';
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
