/**
 * The order in which machines come up after a power cut: each as soon as what it needs is up, a service with the first of
 * its providers. A host or pool that starts only so many guests at once
 * starts the next in line when one of them is up. The earliest times of such a graph of all and any are found in order of time (Knuth, A generalization of
 * Dijkstra's algorithm, Information Processing Letters 6, 1977; from memory).
 */
import TinyQueue from 'tinyqueue';
import type { StartGraph, StartNode } from './needs.js';

export interface Start {
  node: StartNode;
  /** Seconds after the power came back: when it can be started, and when it is of use. */
  begins: number;
  up: number;
  /** 1 for what needs nothing; else one more than the last of what it needs. */
  wave: number;
  /** Key of what it waited for longest; null in the first wave. */
  after: string | null;
}

export interface StartOrder {
  starts: Map<string, Start>;
  /** What never comes up: absent itself, in a circle, or waiting behind either. */
  blocked: Set<string>;
  /** When the last of them is up, in seconds. */
  seconds: number;
}

interface InLine {
  node: StartNode;
  before: Start | null;
}

/**
 * Hosts and pools that start only so many guests at once: who is being started, and who waits for a turn, first come first
 * served. A guest takes its turn everywhere or nowhere; it stands in the line of the first place that is busy.
 */
class Turns {
  private readonly busy = new Map<string, number>();
  private readonly lines = new Map<string, InLine[]>();

  /** Whether it may be started now; otherwise it stands in line. */
  take(waiting: InLine): boolean {
    const turns = waiting.node.turns ?? [];
    const full = turns.find(({ atId, most }) => (this.busy.get(atId) ?? 0) >= most);
    if (full) {
      const line = this.lines.get(full.atId);
      if (line) line.push(waiting);
      else this.lines.set(full.atId, [waiting]);
      return false;
    }
    for (const { atId } of turns) this.busy.set(atId, (this.busy.get(atId) ?? 0) + 1);
    return true;
  }

  /** One is up: those who take their turn at its places. */
  free({ turns = [] }: StartNode): InLine[] {
    for (const { atId } of turns) this.busy.set(atId, this.busy.get(atId)! - 1);
    const next: InLine[] = [];
    for (const { atId, most } of turns) {
      const line = this.lines.get(atId);
      while (line && line.length > 0 && (this.busy.get(atId) ?? 0) < most) {
        const first = line.shift()!;
        if (this.take(first)) next.push(first);
      }
    }
    return next;
  }
}

/** @param given keys of nodes taken as up from the beginning; @param dropped needs left out, as "from>to" */
export function startOrder(
  graph: StartGraph,
  given: ReadonlySet<string> = new Set(),
  dropped: ReadonlySet<string> = new Set(),
): StartOrder {
  const starts = new Map<string, Start>();
  const waiting = new Map<string, string[]>();
  const open = new Map<string, number>();
  const queue = new TinyQueue<Start>([], (a, b) => a.up - b.up);
  const turns = new Turns();
  const ready = (node: StartNode, before: Start | null) => {
    if (!given.has(node.key) && !turns.take({ node, before })) return;
    begin(node, Math.max(before?.up ?? 0, node.notBefore ?? 0), before);
  };
  const begin = (node: StartNode, begins: number, before: Start | null) => {
    // A service comes with its provider: it is no wave of its own.
    queue.push({
      node,
      begins,
      up: begins + node.seconds,
      wave: before
        ? before.wave + (node.kind === 'service' ? 0 : 1)
        : node.kind === 'service'
          ? 0
          : 1,
      after: before?.node.key ?? null,
    });
  };
  for (const node of graph.values()) {
    const needs = node.needs.filter((need) => !dropped.has(`${node.key}>${need.to}`));
    if (given.has(node.key)) ready({ ...node, seconds: 0 }, null);
    else if (!node.absent) {
      open.set(node.key, needs.length);
      for (const { to } of needs) {
        const behind = waiting.get(to);
        if (behind) behind.push(node.key);
        else waiting.set(to, [node.key]);
      }
      if (needs.length === 0 && !node.any) ready(node, null);
    }
  }
  const last = new Map<string, Start>();
  let seconds = 0;
  for (let start = queue.pop(); start; start = queue.pop()) {
    if (starts.has(start.node.key)) continue;
    starts.set(start.node.key, start);
    seconds = Math.max(seconds, start.up);
    // Who waited for a turn begins now; the wave is that of its needs.
    for (const next of given.has(start.node.key) ? [] : turns.free(start.node))
      begin(
        next.node,
        Math.max(start.up, next.node.notBefore ?? 0),
        next.before && { ...next.before, node: start.node },
      );
    for (const key of waiting.get(start.node.key) ?? []) {
      const node = graph.get(key)!;
      const left = open.get(key)! - 1;
      open.set(key, left);
      const deepest = last.get(key);
      const before = { ...start, wave: Math.max(start.wave, deepest?.wave ?? 0) };
      last.set(key, before);
      if (left === 0 || node.any) ready(node, before);
    }
  }
  return { starts, blocked: new Set([...graph.keys()].filter((key) => !starts.has(key))), seconds };
}
