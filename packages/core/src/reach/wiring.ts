/**
 * What is joined to what on layer 2, from the record: adapters to virtual switches, virtual switches by ports and cables to
 * physical ones, VLAN by VLAN. Where cabling is not recorded, a network is taken to be one wire that reaches everywhere it
 * is carried. Edges that are recorded but do not pass frames stay, with the reason: they say why two ends do not meet.
 */
import { parseVlans } from '../quantity/index.js';
import type { Change } from '../change/index.js';
import type { Row } from '../record/index.js';
import { NodeNumbers } from './node-numbers.js';

export interface Blocked {
  code:
    | 'adapter-unplugged'
    | 'network-not-carried'
    | 'port-down'
    | 'wireless-bridge'
    | 'switch-port-down'
    | 'vlan-missing'
    | 'untagged-nowhere'
    | 'line-down'
    | 'tags-differ';
  sentence: string;
  /** Changes that would let frames pass here. */
  mends: { label: string; change: Change }[];
  /** The record it stands at. */
  at: {
    kind: 'guest' | 'host' | 'physicalSwitch' | 'device' | 'switchLine';
    id: string;
    name: string;
  };
}

export interface WireEdge {
  a: number;
  b: number;
  /** Cable or port it goes by: "p1 → harbour-core port 7". */
  label: string;
  blocked: Blocked | null;
  /** Things whose failure cuts it: ports, lines, switches. */
  hangsOn: string[];
}

export class Wiring {
  private readonly around = new Map<number, WireEdge[]>();
  private segments: Map<number, number> | undefined;

  constructor(readonly numbers = new NodeNumbers()) {}

  /** The number of a node, which is drawn if it was not. */
  node(key: string): number {
    const number = this.numbers.of(key);
    if (!this.around.has(number)) this.around.set(number, []);
    return number;
  }

  find(key: string): number | undefined {
    const number = this.numbers.find(key);
    return number !== undefined && this.around.has(number) ? number : undefined;
  }

  join(
    a: number,
    b: number,
    label = '',
    blocked: Blocked | null = null,
    hangsOn: string[] = [],
  ): void {
    const edge = { a, b, label, blocked, hangsOn };
    this.around.get(a)!.push(edge);
    this.around.get(b)!.push(edge);
    this.segments = undefined;
  }

  edgesAt = (node: number): readonly WireEdge[] => this.around.get(node) ?? [];

  /** Segment of a node, by the number of one that is in it: frames pass between those that have the same one. */
  segmentOf(node: number): number {
    this.segments ??= this.components();
    return this.segments.get(node) ?? node;
  }

  private components(): Map<number, number> {
    const of = new Map<number, number>();
    for (const start of this.around.keys()) {
      if (of.has(start)) continue;
      of.set(start, start);
      const queue = [start];
      for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
        for (const edge of this.edgesAt(at)) {
          const other = edge.a === at ? edge.b : edge.a;
          if (edge.blocked || of.has(other)) continue;
          of.set(other, start);
          queue.push(other);
        }
      }
    }
    return of;
  }

  /** Edges from one node to another with as few blocked ones as possible; null where nothing at all joins them. */
  way(from: number, to: number): WireEdge[] | null {
    const best = new Map([[from, 0]]);
    const by = new Map<number, WireEdge>();
    // Breadth first with edges of length 0 and 1: who is behind a blocked one comes in the next round.
    for (let [blocks, round] = [0, [from]]; round.length > 0 && !best.has(to); blocks += 1) {
      const next: number[] = [];
      for (const start of round) {
        const near = best.get(start) === blocks ? [start] : [];
        for (let at = near.pop(); at !== undefined; at = near.pop()) {
          for (const edge of this.edgesAt(at)) {
            const other = edge.a === at ? edge.b : edge.a;
            const cost = blocks + (edge.blocked ? 1 : 0);
            if (cost >= (best.get(other) ?? Infinity)) continue;
            best.set(other, cost);
            by.set(other, edge);
            (edge.blocked ? next : near).push(other);
          }
        }
      }
      round = next;
    }
    if (!best.has(to)) return null;
    const way: WireEdge[] = [];
    for (let at = to; at !== from;) {
      const edge = by.get(at)!;
      way.unshift(edge);
      at = edge.a === at ? edge.b : edge.a;
    }
    return way;
  }
}

/** VLAN sets of switch ports are read once per row. */
const vlansRead = new WeakMap<object, ReadonlySet<number>>();
export function taggedVlans(port: Row<'switchPort'>): ReadonlySet<number> {
  let found = vlansRead.get(port);
  if (!found) {
    const read = parseVlans(port.taggedVlans);
    vlansRead.set(port, (found = new Set(read.ok ? read.value : [])));
  }
  return found;
}
