/**
 * The machines and services of the record as a graph of needs. A machine needs all that it names; a service needs any one
 * of its providers. What does not run now is in the graph only where somebody needs it, and never comes up.
 */
import { carries } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';

export type NodeKind = 'host' | 'guest' | 'service' | 'device';

/** Why one waits for another. */
export type NeedWay =
  'runs on' | 'is the guest' | 'needs' | 'uses' | 'keeps volumes at' | 'is provided by';

export interface StartNeed {
  /** Key of the node that must be up before. */
  to: string;
  way: NeedWay;
  /** The dependency of the record, where one says so. */
  dependencyId?: string;
  /** The pool, where volumes lie on one that a guest serves. */
  pool?: string;
}

export interface StartNode {
  key: string;
  kind: NodeKind;
  id: string;
  name: string;
  /** From having all it needs to being of use, in seconds. */
  seconds: number;
  needs: StartNeed[];
  /** One of its needs is enough. */
  any: boolean;
  /** Its host, and pools its volumes lie on, where these start only so many at once. */
  turns?: Turn[];
  /** Seconds after the power came back before which it has not all it needs, whatever the graph says. */
  notBefore?: number;
  /** Why it never comes up, such as "is stopped". */
  absent?: string;
}

/** A host or pool that starts only so many guests at once. */
export interface Turn {
  atId: string;
  most: number;
}

export type StartGraph = Map<string, StartNode>;

export const startKey = (kind: NodeKind, id: string): string => `${kind}:${id}`;

/** Hosts that carry guests, guests in service, every service, and whatever these need. */
export function startGraph(fleet: Fleet): StartGraph {
  const graph: StartGraph = new Map();
  for (const host of fleet.all('host')) if (carries(host)) addHost(fleet, graph, host);
  for (const guest of fleet.all('guest'))
    if (guest.state === 'in service') addGuest(fleet, graph, guest);
  for (const service of fleet.all('service')) addService(fleet, graph, service);
  return graph;
}

/**
 * The part of the graph that circles can lie in: hosts, services, the guests that something needs, and whatever these
 * need. A guest that nobody needs closes no circle; leaving such out spares nearly all guests of a fleet.
 */
export function neededGraph(fleet: Fleet): StartGraph {
  const graph: StartGraph = new Map();
  for (const host of fleet.all('host')) if (carries(host)) addHost(fleet, graph, host);
  for (const service of fleet.all('service')) addService(fleet, graph, service);
  const needed = new Set<string | null>();
  for (const need of fleet.all('dependency')) needed.add(need.onGuestId);
  for (const pool of fleet.all('pool')) needed.add(pool.serverGuestId);
  for (const id of needed) {
    const guest = fleet.get('guest', id);
    if (guest?.state === 'in service') addGuest(fleet, graph, guest);
  }
  return graph;
}

function addHost(fleet: Fleet, graph: StartGraph, host: Row<'host'>): string {
  const key = startKey('host', host.id);
  if (graph.has(key)) return key;
  const node: StartNode = {
    key,
    kind: 'host',
    id: host.id,
    name: host.name,
    seconds: host.bootSeconds,
    needs: [],
    any: false,
    ...(carries(host) ? {} : { absent: `is ${host.state}` }),
  };
  graph.set(key, node);
  if (node.absent) return key;
  const outer = fleet.get('guest', host.outerGuestId);
  if (outer) node.needs.push({ to: addGuest(fleet, graph, outer), way: 'is the guest' });
  node.needs.push(...stated(fleet, graph, 'hostId', host.id));
  return key;
}

/** Guests that a host may start at once: its own policy, else that of its group; null: no limit. */
export function startsAtOnce(fleet: Fleet, hostId: string): number | null {
  const host = fleet.need('host', hostId);
  return host.startsAtOnce ?? fleet.get('hostGroup', host.groupId)?.startsAtOnce ?? null;
}

function turnsOf(fleet: Fleet, guest: Row<'guest'>): Turn[] {
  const pools = new Set(fleet.referring('volume', 'guestId', guest.id).map(({ poolId }) => poolId));
  return [
    { atId: guest.hostId, most: startsAtOnce(fleet, guest.hostId) },
    ...[...pools].map((id) => ({ atId: id, most: fleet.need('pool', id).startsAtOnce })),
  ].flatMap(({ atId, most }) => (most === null ? [] : [{ atId, most }]));
}

function addGuest(fleet: Fleet, graph: StartGraph, guest: Row<'guest'>): string {
  const key = startKey('guest', guest.id);
  if (graph.has(key)) return key;
  const runs = guest.state === 'in service';
  const node: StartNode = {
    key,
    kind: 'guest',
    id: guest.id,
    name: guest.name,
    seconds: guest.startSeconds,
    needs: [],
    any: false,
    ...(runs ? {} : { absent: `is ${guest.state}` }),
  };
  graph.set(key, node);
  if (!runs) return key;
  const turns = turnsOf(fleet, guest);
  if (turns.length > 0) node.turns = turns;
  node.needs.push({ to: addHost(fleet, graph, fleet.need('host', guest.hostId)), way: 'runs on' });
  for (const volume of fleet.referring('volume', 'guestId', guest.id)) {
    const pool = fleet.need('pool', volume.poolId);
    const server = fleet.get('guest', pool.serverGuestId);
    if (!server || node.needs.some((need) => need.pool === pool.name)) continue;
    node.needs.push({
      to: addGuest(fleet, graph, server),
      way: 'keeps volumes at',
      pool: pool.name,
    });
  }
  node.needs.push(...stated(fleet, graph, 'guestId', guest.id));
  return key;
}

function addService(fleet: Fleet, graph: StartGraph, service: Row<'service'>): string {
  const key = startKey('service', service.id);
  if (graph.has(key)) return key;
  const node: StartNode = {
    key,
    kind: 'service',
    id: service.id,
    name: service.name,
    seconds: 0,
    needs: [],
    any: true,
  };
  graph.set(key, node);
  const providers = fleet.referring('provider', 'serviceId', service.id);
  if (providers.length === 0) node.absent = 'has no provider';
  for (const provider of providers) {
    const guest = fleet.get('guest', provider.guestId);
    node.needs.push({
      to: guest
        ? addGuest(fleet, graph, guest)
        : addDevice(graph, fleet.need('device', provider.deviceId!)),
      way: 'is provided by',
    });
  }
  return key;
}

/** A device comes up by itself, with the power. */
function addDevice(graph: StartGraph, device: Row<'device'>): string {
  const key = startKey('device', device.id);
  graph.set(key, {
    key,
    kind: 'device',
    id: device.id,
    name: device.name,
    seconds: 0,
    needs: [],
    any: false,
    ...(device.state === 'in service' ? {} : { absent: `is ${device.state}` }),
  });
  return key;
}

function stated(
  fleet: Fleet,
  graph: StartGraph,
  field: 'hostId' | 'guestId',
  id: string,
): StartNeed[] {
  return fleet.referring('dependency', field, id).map((row) => {
    const service = fleet.get('service', row.serviceId);
    if (service)
      return { to: addService(fleet, graph, service), way: 'uses', dependencyId: row.id };
    return {
      to: addGuest(fleet, graph, fleet.need('guest', row.onGuestId!)),
      way: 'needs',
      dependencyId: row.id,
    };
  });
}
