/**
 * What is joined to what on layer 2, from the record: adapters to virtual switches, virtual switches by ports and cables to
 * physical ones, VLAN by VLAN. Where cabling is not recorded, a network is taken to be one wire that reaches everywhere it
 * is carried. Edges that are recorded but do not pass frames stay, with the reason: they say why two ends do not meet.
 */
import { parseVlans } from '../quantity/index.js';
import type { Change } from '../change/index.js';
import type { Row } from '../record/index.js';

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
  readonly edges: WireEdge[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly around: number[][] = [];
  private segments: number[] | undefined;

  /** The number of a node, made if it is new. */
  node(key: string): number {
    const held = this.numbers.get(key);
    if (held !== undefined) return held;
    const number = this.around.length;
    this.around.push([]);
    this.numbers.set(key, number);
    this.segments = undefined;
    return number;
  }

  find = (key: string): number | undefined => this.numbers.get(key);

  join(
    a: number,
    b: number,
    label = '',
    blocked: Blocked | null = null,
    hangsOn: string[] = [],
  ): void {
    const edge = this.edges.push({ a, b, label, blocked, hangsOn }) - 1;
    this.around[a]!.push(edge);
    this.around[b]!.push(edge);
    this.segments = undefined;
  }

  edgesAt = (node: number): WireEdge[] => this.around[node]!.map((number) => this.edges[number]!);

  /** Segment of a node: nodes that frames pass between have the same one. */
  segmentOf(node: number): number {
    this.segments ??= this.components((edge) => !edge.blocked);
    return this.segments[node]!;
  }

  /** Components of the graph by the edges that count. */
  components(counts: (edge: WireEdge) => boolean): number[] {
    const of = Array.from<number>({ length: this.around.length }).fill(-1);
    let next = 0;
    for (let start = 0; start < of.length; start += 1) {
      if (of[start] !== -1) continue;
      const queue = [start];
      of[start] = next;
      for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
        for (const number of this.around[at]!) {
          const edge = this.edges[number]!;
          const other = edge.a === at ? edge.b : edge.a;
          if (of[other] === -1 && counts(edge)) {
            of[other] = next;
            queue.push(other);
          }
        }
      }
      next += 1;
    }
    return of;
  }

  /** Edges from one node to another with as few blocked ones as possible; null where nothing at all joins them. */
  way(from: number, to: number): WireEdge[] | null {
    const best = Array.from<number>({ length: this.around.length }).fill(Infinity);
    const by: (number | undefined)[] = [];
    const queue: number[] = [from];
    best[from] = 0;
    // 0-1 breadth-first search: free edges to the front, blocked ones to the back.
    for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
      for (const number of this.around[at]!) {
        const edge = this.edges[number]!;
        const other = edge.a === at ? edge.b : edge.a;
        const cost = best[at]! + (edge.blocked ? 1 : 0);
        if (cost >= best[other]!) continue;
        best[other] = cost;
        by[other] = number;
        if (edge.blocked) queue.push(other);
        else queue.unshift(other);
      }
    }
    if (best[to] === Infinity) return null;
    const way: WireEdge[] = [];
    for (let at = to; at !== from;) {
      const edge = this.edges[by[at]!]!;
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
