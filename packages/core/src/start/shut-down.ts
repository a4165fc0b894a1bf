/**
 * The order in which machines go down when their power ends: each as soon as whatever needs it is down, the reverse of
 * starting. A service waits for those who use it only where nobody beyond keeps providing it. Costs machines + needs.
 */
import type { Fleet } from '../record/index.js';
import { fleetStart } from './fleet-start.js';
import { startKey, type NodeKind, type StartGraph, type StartNode } from './needs.js';

export interface Stop {
  kind: NodeKind;
  id: string;
  name: string;
  /** Where a guest runs. */
  hostId: string | null;
  /** Seconds after stopping began: when it is told to, and when it is off. */
  begins: number;
  down: number;
  /** What it waited for longest; null: for nothing. */
  after: string | null;
  /** It is in a circle of needs: it is told to stop although something that needs it may still run. */
  forced: boolean;
}

export interface ShutDown {
  stops: Stop[];
  seconds: number;
  /** Those on the longest way, the first one first. */
  longest: string[];
}

/** @param hostIds hosts that lose their power; whatever runs on them goes down with them */
export function shutDown(fleet: Fleet, hostIds: Iterable<string>): ShutDown {
  const { graph } = fleetStart(fleet);
  const inside = machinesOn(fleet, graph, hostIds);
  const waitsFor = whoMustBeDown(graph, inside);
  const stops = new Map<string, Stop>();
  const open = new Map([...inside.keys()].map((key) => [key, new Set(waitsFor.get(key))]));
  const blocks = new Map<string, string[]>();
  for (const [key, before] of waitsFor)
    for (const one of before) {
      const held = blocks.get(one);
      if (held) held.push(key);
      else blocks.set(one, [key]);
    }
  const ready = [...open.keys()].filter((key) => open.get(key)!.size === 0);
  const stop = (key: string, forced: boolean): void => {
    const node = inside.get(key)!;
    const before = [...(waitsFor.get(key) ?? [])].flatMap((one) => stops.get(one) ?? []);
    const last = before.reduce<Stop | undefined>(
      (late, one) => (late && late.down >= one.down ? late : one),
      undefined,
    );
    const begins = last?.down ?? 0;
    const guest = node.kind === 'guest' ? fleet.need('guest', node.id) : null;
    const seconds = guest?.stopSeconds ?? fleet.need('host', node.id).stopSeconds;
    const { kind, id, name } = node;
    stops.set(key, {
      ...{ kind, id, name, hostId: guest?.hostId ?? null, begins, down: begins + seconds },
      ...{ after: last?.name ?? null, forced },
    });
    open.delete(key);
    for (const next of blocks.get(key) ?? []) {
      const left = open.get(next);
      if (left?.delete(key) && left.size === 0) ready.push(next);
    }
  };
  while (open.size > 0) {
    const next = ready.shift();
    if (next !== undefined) {
      if (open.has(next)) stop(next, false);
      continue;
    }
    // Only circles are left, and what waits behind them: guests before hosts, whoever fewest wait for.
    const [first] = [...open].sort(
      ([a, left], [b, other]) =>
        Number(inside.get(a)!.kind === 'host') - Number(inside.get(b)!.kind === 'host') ||
        left.size - other.size ||
        inside.get(a)!.name.localeCompare(inside.get(b)!.name),
    );
    stop(first![0], true);
  }
  const ordered = [...stops.values()].sort(
    (a, b) => a.begins - b.begins || a.down - b.down || a.name.localeCompare(b.name),
  );
  const end = ordered.reduce<Stop | undefined>(
    (late, one) => (late && late.down >= one.down ? late : one),
    undefined,
  );
  return { stops: ordered, seconds: end?.down ?? 0, longest: wayTo(end, ordered) };
}

function wayTo(end: Stop | undefined, stops: readonly Stop[]): string[] {
  const byName = new Map(stops.map((one) => [one.name, one]));
  const way: string[] = [];
  for (let at = end; at && !way.includes(at.name); at = at.after ? byName.get(at.after) : undefined)
    way.unshift(at.name);
  return way;
}

/** Hosts, hosts that are guests on them, and the guests in service on all of these. */
function machinesOn(
  fleet: Fleet,
  graph: StartGraph,
  hostIds: Iterable<string>,
): Map<string, StartNode> {
  const inside = new Map<string, StartNode>();
  const add = (key: string) => {
    const node = graph.get(key);
    if (node && !node.absent) inside.set(key, node);
    return node !== undefined && !node.absent;
  };
  const hosts = new Set(hostIds);
  for (const hostId of hosts) {
    if (!add(startKey('host', hostId))) continue;
    for (const guest of fleet.referring('guest', 'hostId', hostId)) {
      if (guest.state !== 'in service' || !add(startKey('guest', guest.id))) continue;
      for (const nested of fleet.referring('host', 'outerGuestId', guest.id)) hosts.add(nested.id);
    }
  }
  return inside;
}

/** By machine: those that must be down before it is told to stop. */
function whoMustBeDown(
  graph: StartGraph,
  inside: ReadonlyMap<string, StartNode>,
): Map<string, Set<string>> {
  const before = new Map<string, Set<string>>();
  const waits = (key: string, forKey: string) => {
    if (key === forKey || !inside.has(key)) return;
    const held = before.get(key) ?? new Set<string>();
    held.add(forKey);
    before.set(key, held);
  };
  for (const [key, { needs }] of inside)
    for (const { to } of needs) {
      const needed = graph.get(to);
      if (needed?.kind !== 'service') waits(to, key);
      else if (needed.needs.every((provider) => !livesOn(graph, inside, provider.to)))
        for (const provider of needed.needs) waits(provider.to, key);
    }
  return before;
}

const livesOn = (graph: StartGraph, inside: ReadonlyMap<string, StartNode>, key: string): boolean =>
  !inside.has(key) && graph.has(key) && !graph.get(key)!.absent;
