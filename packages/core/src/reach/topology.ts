/**
 * What reachability is computed on: machines with interfaces, joined by layer-2 segments. Built from the record, or by hand in
 * tests that compare it with real kernels. Conventions are those of a Linux machine with default routing; what nobody said of a
 * machine is assumed, and can be assumed otherwise. Addresses are family and unsigned integer.
 */
import { type Address } from '../address/index.js';
import {
  type Machines,
  type Machine,
  type Neighbour,
  type Habits,
  USUAL_HABITS,
  type Iface,
  type ReversePath,
} from './machine.js';
import { type AddressKey, owns, keyOf, carriedBy, isConfigured } from './own-addresses.js';

/** Each in the place of the one that has its id below, those that nobody has there first; costs what is laid over. */
export class LaidOver implements Machines {
  private readonly own: ReadonlyMap<string, Machine>;

  constructor(
    machines: readonly Machine[],
    private readonly under: Machines,
  ) {
    this.own = new Map(machines.map((machine) => [machine.id, machine]));
  }

  get = (id: string): Machine | undefined => this.own.get(id) ?? this.under.get(id);

  *values(): Generator<Machine> {
    for (const machine of this.own.values()) if (!this.under.get(machine.id)) yield machine;
    for (const machine of this.under.values()) yield this.own.get(machine.id) ?? machine;
  }
}

/** Machines by id, and who answers for an address on a segment. */
export class Topology {
  readonly machines: Machines;
  /** Machines that are on, by the addresses they have, in the order of their ids: mostly one each, which is kept bare. */
  private readonly owners = new Map<AddressKey, Machine | Machine[]>();
  private outsiders: readonly Neighbour[] = [];
  /** What these machines are laid over, and which of its machines are not there. */
  private ground: { topology: Topology; gone: ReadonlySet<string> } | null = null;

  /**
   * @param assumed what a machine does of which nobody said
   * @param segmentOfNode which nodes frames pass between
   */
  constructor(
    machines: readonly Machine[],
    private readonly assumed: Habits = USUAL_HABITS,
    private readonly segmentOfNode: (node: number) => number = (node) => node,
  ) {
    this.machines = new Map(machines.map((machine) => [machine.id, machine]));
    for (const machine of machines) if (machine.on) this.file(machine);
  }

  /** The same machines, with something else assumed of those of which nobody said. */
  assuming(other: Partial<Habits>): Topology {
    return this.like({ assumed: { ...this.assumed, ...other } });
  }

  private like(other: object): Topology {
    return Object.assign(Object.create(Topology.prototype) as Topology, this, other);
  }

  /**
   * What comes of this one, which nobody may use any more, once some machines have gone and others have come. Costs what comes
   * and goes.
   * @param machines all of them, in their order
   */
  turnedInto(
    machines: Machines,
    { gone, come }: { gone: readonly Machine[]; come: readonly Machine[] },
    segmentOfNode: (node: number) => number,
  ): Topology {
    for (const machine of gone) this.unfile(machine);
    for (const machine of come) if (machine.on) this.file(machine);
    return this.like({ machines, segmentOfNode });
  }

  /** The same machines but those that are not there, and some more, laid over them. */
  with(
    come: readonly Machine[],
    gone: ReadonlySet<string> = new Set(),
    machines: Machines = new LaidOver(come, this.machines),
    segmentOfNode = this.segmentOfNode,
  ): Topology {
    const over = new Topology(come, this.assumed, segmentOfNode);
    return over.like({ machines, ground: { topology: this, gone } });
  }

  /** Interfaces that are joined to the same segment have the same one. */
  segmentOf({ node }: Iface): number | null {
    return node === null ? null : this.segmentOfNode(node);
  }

  reversePathOf(machine: Machine): ReversePath {
    return machine.reversePath ?? this.assumed.reversePath;
  }
  isStrong(machine: Machine): boolean {
    return machine.strongHost ?? this.assumed.strongHost;
  }

  private file(machine: Machine): void {
    for (const iface of machine.ifaces) {
      if (!iface.up) continue;
      if (machine.outside) this.outsiders = [...this.outsiders, { machine, iface }];
      for (const address of iface.addresses) {
        if (!owns(machine, address)) continue;
        const key = keyOf(address);
        const held = this.owners.get(key);
        if (held === undefined) this.owners.set(key, machine);
        else if (held instanceof Array) {
          if (!held.includes(machine)) this.owners.set(key, byMachineId([...held, machine]));
        } else if (held !== machine) this.owners.set(key, byMachineId([held, machine]));
      }
    }
  }

  private unfile(machine: Machine): void {
    this.outsiders = this.outsiders.filter((one) => one.machine !== machine);
    for (const iface of machine.ifaces)
      for (const address of iface.addresses) {
        const key = keyOf(address);
        const held = this.owners.get(key);
        if (held === machine) this.owners.delete(key);
        if (!(held instanceof Array) || !held.includes(machine)) continue;
        const [first, ...others] = held.filter((one) => one !== machine);
        this.owners.set(key, others.length > 0 ? [first!, ...others] : first!);
      }
  }

  /** Machines that are on and have the address. */
  ownersOf(address: Address): readonly Machine[] {
    const held = this.owners.get(keyOf(address)) ?? [];
    const own = held instanceof Array ? held : [held];
    if (!this.ground) return own;
    const { topology, gone } = this.ground;
    const under = topology.ownersOf(address).filter(({ id }) => !gone.has(id));
    return own.length === 0 ? under : under.length === 0 ? own : byMachineId([...own, ...under]);
  }

  /**
   * Who has an address on a segment. IPv4: a machine answers for any of its addresses on any interface (weak host model);
   * IPv6: only on the one that has it.
   */
  private holders(segment: number, address: Address): Neighbour[] {
    return this.ownersOf(address).flatMap((machine) =>
      machine.ifaces
        .filter(
          (iface) =>
            iface.up &&
            this.segmentOf(iface) === segment &&
            (address.family === 4 || carriedBy(iface, address)),
        )
        .map((iface) => ({ machine, iface })),
    );
  }

  private allOutsiders(): readonly Neighbour[] {
    if (!this.ground) return this.outsiders;
    const { topology, gone } = this.ground;
    const under = topology.allOutsiders().filter(({ machine }) => !gone.has(machine.id));
    return [...this.outsiders, ...under];
  }

  private outsiderOn(segment: number): Neighbour | undefined {
    return this.allOutsiders().find(({ iface }) => this.segmentOf(iface) === segment);
  }

  /**
   * Who would answer when a machine, with a packet from that source, asks for an address on a segment; the outside answers
   * for what nobody has.
   *
   * @param toAll nobody is asked: the frame goes to everybody
   */
  answering(
    segment: number,
    address: Address,
    asker: Machine,
    from: Address | null,
    toAll = false,
  ): Neighbour[] {
    // An IPv4 packet that seems to come from oneself is dropped, and so is the question who has an address.
    const found = this.holders(segment, address).filter(
      ({ machine, iface }) =>
        machine !== asker &&
        !(from?.family === 4 && isConfigured(machine, from)) &&
        (toAll || !this.isStrong(machine) || carriedBy(iface, address)),
    );
    const outsider = this.outsiderOn(segment);
    if (found.length === 0 && outsider && outsider.machine !== asker) return [outsider];
    return found.filter(
      (neighbour, i) => found.findIndex((other) => other.machine === neighbour.machine) === i,
    );
  }
}

const byMachineId = (machines: Machine[]): Machine[] =>
  machines.sort((a, b) => (a.id < b.id ? -1 : 1));
