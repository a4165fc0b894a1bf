/** Start order, services and needs as they are shown. */
import type { NeedView, ServiceView, StartOrderView, StartRow } from '@insel/contract';
import { findingsAt, fleetStart, whyBlocked, type Fleet, type Start } from '@insel/core';
import { asRead, byName, named, namedById } from './common.js';

const MOST_IN_WAVE = 200;
const MOST_WAITING = 100;

export function needViews(fleet: Fleet, field: 'hostId' | 'guestId', id: string): NeedView[] {
  return fleet.referring('dependency', field, id).map((row) => ({
    ...asRead(row),
    purpose: row.purpose,
    service: row.serviceId ? namedById(fleet, 'service', row.serviceId) : null,
    guest: row.onGuestId ? namedById(fleet, 'guest', row.onGuestId) : null,
  }));
}

export function serviceViews(fleet: Fleet, now: string): ServiceView[] {
  return [...fleet.all('service')].sort(byName).map((service) => ({
    id: service.id,
    revision: service.revision,
    name: service.name,
    what: service.what,
    hostGroup: service.hostGroupId ? namedById(fleet, 'hostGroup', service.hostGroupId) : null,
    providers: fleet.referring('provider', 'serviceId', service.id).map((row) => {
      const kind = row.guestId ? ('guest' as const) : ('device' as const);
      const machine = fleet.need(kind, (row.guestId ?? row.deviceId)!);
      return { ...named(machine), kind, provided: asRead(row), state: machine.state };
    }),
    needed: fleet.referringCount('dependency', 'serviceId', service.id),
    findings: findingsAt(fleet, 'service', service.id, now),
  }));
}

export function startOrderView(fleet: Fleet): StartOrderView {
  const found = fleetStart(fleet);
  const { graph, order, circles } = found;
  const byWave = new Map<number, Start[]>();
  for (const start of order.starts.values()) {
    // Services come with their providers; devices, with the power.
    if (start.node.kind !== 'host' && start.node.kind !== 'guest') continue;
    const wave = byWave.get(start.wave);
    if (wave) wave.push(start);
    else byWave.set(start.wave, [start]);
  }
  const row = ({ node, begins, up, after }: Start): StartRow => ({
    kind: node.kind,
    id: node.id,
    name: node.name,
    host: node.kind === 'guest' ? fleet.need('host', fleet.need('guest', node.id).hostId).name : '',
    begins,
    up,
    after: after ? graph.get(after)!.name : '',
  });
  const circling = new Set(circles.flatMap((circle) => circle.members.map((member) => member.key)));
  const waiting = [...order.blocked].filter(
    (key) => !circling.has(key) && (!graph.get(key)!.absent || graph.get(key)!.kind === 'service'),
  );
  const never = [...order.blocked]
    .map((key) => graph.get(key)!)
    .filter((node) => node.kind !== 'service' && !node.absent).length;
  return {
    seconds: order.seconds,
    never,
    waves: [...byWave]
      .sort(([a], [b]) => a - b)
      .map(([wave, starts]) => ({
        wave,
        total: starts.length,
        begins: Math.min(...starts.map((start) => start.begins)),
        up: starts.reduce((most, start) => Math.max(most, start.up), 0),
        // The slowest are kept; they stand in the order in which somebody walks past the hosts.
        rows: starts
          .sort((a, b) => b.up - a.up || byName(a.node, b.node))
          .slice(0, MOST_IN_WAVE)
          .map(row)
          .sort((a, b) => a.host.localeCompare(b.host) || byName(a, b)),
      })),
    circles: circles.map(({ members, steps, mends }) => ({
      steps,
      mends: mends.map(({ sentence, seconds, guestId, dependencyId }) => ({
        sentence,
        seconds,
        guestId,
        need: dependencyId ? asRead(fleet.need('dependency', dependencyId)) : null,
      })),
      members: members.map(({ kind, id, name }) => ({ kind, id, name })),
    })),
    waiting: {
      total: waiting.length,
      rows: waiting.slice(0, MOST_WAITING).map((key) => ({
        kind: graph.get(key)!.kind,
        id: graph.get(key)!.id,
        name: graph.get(key)!.name,
        sentence: whyBlocked(found, key),
      })),
    },
  };
}
