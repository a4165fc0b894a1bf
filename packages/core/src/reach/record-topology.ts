/**
 * The record as a topology, kept for each state of it. After a change what is drawn is drawn anew, hosts and equipment with it, if it
 * alters at all; of the guests those are built anew that it concerns. An overlay is laid over the topology of the fleet below.
 */
import type { Altered, Fleet, Kind } from '../record/index.js';
import { guestsConcerned } from './guests-concerned.js';
import { ifaceInfo, machineInfo, translatorId } from './machine-parts.js';
import { RecordMachines } from './record-machines.js';
import { LaidOver, Topology } from './topology.js';
import { type Iface, type Machine, type Machines } from './machine.js';
import { wireRecord } from './wire-record.js';
import type { WireEdge, Wiring } from './wiring.js';

export interface RecordTopology {
  topology: Topology;
  wiring: Wiring;
}

/** What it is built from. */
export const READ: readonly Kind[] = [
  ...(['host', 'guest', 'adapter', 'address', 'virtualSwitch', 'uplink', 'port'] as const),
  ...(['network', 'subnet', 'device', 'devicePort', 'route', 'forwardedPort'] as const),
  ...(['switchPort', 'physicalSwitch', 'switchLine', 'platform'] as const),
];

/** The first costs a look at all rows of these kinds, later ones what a change concerns. */
export const worldOf = (fleet: Fleet): RecordTopology =>
  fleet.whole('reach', built, (before, altered, on, laidOver) => {
    for (const kind of READ) on.all(kind);
    return mended(on, before, altered, laidOver);
  });

function built(fleet: Fleet): RecordTopology {
  const machines = new RecordMachines(fleet, wireRecord(fleet));
  const all = [...machines.ofThePlace()];
  for (const { id } of fleet.all('guest')) all.push(...machines.ofGuest(id));
  const { wiring } = machines;
  return { topology: new Topology(all, undefined, (node) => wiring.segmentOf(node)), wiring };
}

/** Edges between two interfaces with as few blocked ones as possible; null where nothing at all joins them. */
export function edgesBetween(wiring: Wiring, from: Iface, to: Iface): WireEdge[] | null {
  const [a, b] = [ifaceInfo(from), ifaceInfo(to)];
  if (typeof a?.node !== 'number' || typeof b?.node !== 'number') return null;
  if (from === to) return [];
  const between = wiring.way(a.node, b.node);
  const cut = ({ node, blocked }: typeof a): WireEdge[] =>
    blocked ? [{ a: node!, b: node!, label: '', blocked, hangsOn: [] }] : [];
  return between && [...cut(a), ...between, ...cut(b)];
}

/** What comes of it, or is laid over it; null: so much is concerned that all is better built anew. */
function mended(
  fleet: Fleet,
  { topology, wiring: drawn }: RecordTopology,
  altered: readonly Altered[],
  laidOver: boolean,
): RecordTopology | null {
  const read = altered.filter(({ kind }) => READ.includes(kind));
  const concerned = guestsConcerned(fleet, read);
  if (!concerned) return null;
  const wiring = concerned.others ? wireRecord(fleet, drawn.numbers) : drawn;
  const made = new RecordMachines(fleet, wiring);
  const guests = new Map<string, Machine[]>();
  const build = (ids: Iterable<string>): void => {
    for (const id of ids) if (!guests.has(id)) guests.set(id, made.ofGuest(id));
  };
  build(concerned.guests);
  // The ports of a host lead to what translates for its guests, and whatever translates there has these ports.
  const translating = hostsThatTranslate(topology.machines, guests);
  for (const hostId of translating)
    if (fleet.referringCount('forwardedPort', 'hostId', hostId) > 0)
      build(fleet.referring('guest', 'hostId', hostId).map(({ id }) => id));
  const others = concerned.others || translating.size > 0;
  const exchange = new Exchange(topology.machines, others ? [...made.ofThePlace()] : null, guests);
  const segmentOf = (node: number): number => wiring.segmentOf(node);
  return {
    wiring,
    topology: laidOver
      ? topology.with(exchange.come, exchange.idsGone(), exchange.laidOver(), segmentOf)
      : topology.turnedInto(exchange.madeUseOf(), exchange, segmentOf),
  };
}

/** The machine of a guest, and behind isolated NAT what translates for it. */
function withTheirs(machines: Machines, guestId: string): Machine[] {
  const held = machines.get(guestId);
  if (!held) return [];
  return [held, ...held.ifaces.flatMap(({ id }) => machines.get(translatorId(id)) ?? [])];
}

/** Hosts on which something translates, or did, for one of these guests alone. */
function hostsThatTranslate(
  machines: Machines,
  guests: ReadonlyMap<string, readonly Machine[]>,
): ReadonlySet<string> {
  const hosts = new Set<string>();
  for (const [id, come] of guests)
    for (const machine of [...come, ...withTheirs(machines, id)]) {
      const info = machineInfo(machine)!;
      if (info.guestId) hosts.add(info.id);
    }
  return hosts;
}

/** The guest that a machine is, or is there for. */
const guestOf = (machine: Machine): string | undefined => {
  const { kind, id, guestId } = machineInfo(machine)!;
  return kind === 'guest' ? id : guestId;
};

/** All that are no guests, nor there for one: they stand first. */
function placeOf(machines: Machines): Machine[] {
  const found: Machine[] = [];
  for (const machine of machines.values()) {
    if (guestOf(machine) !== undefined) break;
    found.push(machine);
  }
  return found;
}

/** Machines in the place of others. */
class Exchange {
  readonly come: readonly Machine[];
  readonly gone: readonly Machine[];

  /**
   * @param place all that are no guests, nor there for one; null: they stay
   * @param guests those that are built anew, with what is there for them
   */
  constructor(
    private readonly before: Machines,
    private readonly place: readonly Machine[] | null,
    private readonly guests: ReadonlyMap<string, readonly Machine[]>,
  ) {
    this.come = [...(place ?? []), ...[...guests.values()].flat()];
    const held = [...guests.keys()].flatMap((id) => withTheirs(before, id));
    this.gone = [...(place ? placeOf(before) : []), ...held];
  }

  idsGone = (): ReadonlySet<string> => new Set(this.gone.map(({ id }) => id));

  laidOver = (): Machines =>
    this.isOneForOne() ? new LaidOver(this.come, this.before) : this.inTheirOrder();

  /** Of what nobody uses any more. */
  madeUseOf(): Machines {
    if (!(this.before instanceof Map) || !this.isOneForOne()) return this.inTheirOrder();
    for (const machine of this.come) this.before.set(machine.id, machine);
    return this.before as Map<string, Machine>;
  }

  private isOneForOne(): boolean {
    if (this.come.length !== this.gone.length) return false;
    return this.come.every(({ id }, i) => id === this.gone[i]!.id);
  }

  /** As they would stand if all were built anew: the place, then guests by their ids. */
  private inTheirOrder(): Machines {
    const { before, place, guests } = this;
    const machines = new Map<string, Machine>();
    const take = (machine: Machine) => void machines.set(machine.id, machine);
    place?.forEach(take);
    const come = [...guests.keys()].sort();
    let next = 0;
    for (const machine of before.values()) {
      const guest = guestOf(machine);
      if (guest === undefined) {
        if (!place) take(machine);
        continue;
      }
      for (; next < come.length && come[next]! <= guest; next += 1)
        guests.get(come[next]!)!.forEach(take);
      if (!guests.has(guest)) take(machine);
    }
    for (const id of come.slice(next)) guests.get(id)!.forEach(take);
    return machines;
  }
}
