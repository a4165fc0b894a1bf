/** Circles of needs, in which nobody can start first: each with its shortest way round, in words, and the single changes that break it. */
import type { StartGraph, StartNeed, StartNode } from './needs.js';
import { startOrder, type StartOrder } from './order.js';

export interface Mend {
  sentence: string;
  /** With it alone, the last of the circle is up, in seconds after the power came back. */
  seconds: number;
  /** The dependency whose removal breaks the circle. */
  dependencyId?: string;
  /** The guest to move. */
  guestId?: string;
}

export interface Circle {
  members: StartNode[];
  /** One sentence a step, all the way round. */
  steps: string[];
  /**
   * Changes of which each alone breaks the circle, by what they sever, the gentlest first: nothing, a place, a service, a
   * machine, storage; of those alike, the one after which all are up first. Empty where none does.
   */
  mends: Mend[];
}

/** Mends of a circle are tried only up to so many needs inside it. */
const MOST_TRIED = 400;

export function circlesOf(graph: StartGraph, order: StartOrder): Circle[] {
  const inside = (node: StartNode) => node.needs.filter((need) => order.blocked.has(need.to));
  return components(graph, order.blocked, inside).map((keys) => {
    const members = [...keys]
      .map((key) => graph.get(key)!)
      .sort((a, b) => a.name.localeCompare(b.name));
    const way = shortestWay(graph, keys, inside);
    return {
      members,
      steps: way.map(({ from, need }) => stepOf(graph, from, need)),
      mends: mendsOf(graph, keys, order),
    };
  });
}

/** Sets of blocked nodes that wait for each other (strongly connected components: Tarjan, SIAM Journal on Computing 1, 1972), without recursion. */
function components(
  graph: StartGraph,
  blocked: ReadonlySet<string>,
  inside: (node: StartNode) => StartNeed[],
): Set<string>[] {
  const index = new Map<string, number>();
  const low = new Map<string, number>();
  const stack: string[] = [];
  const on = new Set<string>();
  const found: Set<string>[] = [];
  for (const root of blocked) {
    if (index.has(root)) continue;
    const calls: { key: string; next: number }[] = [{ key: root, next: 0 }];
    while (calls.length > 0) {
      const call = calls.at(-1)!;
      const { key } = call;
      if (call.next === 0) {
        index.set(key, index.size);
        low.set(key, index.get(key)!);
        stack.push(key);
        on.add(key);
      }
      const needs = inside(graph.get(key)!);
      const need = needs[call.next];
      call.next += 1;
      if (need) {
        if (!index.has(need.to)) calls.push({ key: need.to, next: 0 });
        else if (on.has(need.to)) low.set(key, Math.min(low.get(key)!, index.get(need.to)!));
        continue;
      }
      calls.pop();
      const above = calls.at(-1);
      if (above) low.set(above.key, Math.min(low.get(above.key)!, low.get(key)!));
      if (low.get(key) !== index.get(key)) continue;
      const members = new Set<string>();
      for (let member = ''; member !== key;) {
        member = stack.pop()!;
        on.delete(member);
        members.add(member);
      }
      if (members.size > 1 || needs.some((one) => one.to === key)) found.push(members);
    }
  }
  return found;
}

type Step = { from: StartNode; need: StartNeed };

/** The shortest way round within a component, by breadth-first search from each member. */
function shortestWay(
  graph: StartGraph,
  keys: ReadonlySet<string>,
  inside: (node: StartNode) => StartNeed[],
): Step[] {
  let best: Step[] = [];
  for (const start of [...keys].sort().slice(0, 200)) {
    const came = new Map<string, Step>();
    const queue = [start];
    search: for (let key = queue.shift(); key !== undefined; key = queue.shift()) {
      const from = graph.get(key)!;
      for (const need of inside(from)) {
        if (!keys.has(need.to) || came.has(need.to)) continue;
        came.set(need.to, { from, need });
        if (need.to === start) break search;
        queue.push(need.to);
      }
    }
    const way: Step[] = [];
    for (
      let step = came.get(start);
      step;
      step = step.from.key === start ? undefined : came.get(step.from.key)
    )
      way.unshift(step);
    if (best.length === 0 || way.length < best.length) best = way;
  }
  // Told from a host on, where there is one: that is what people stand in front of.
  const host = best.findIndex((step) => step.from.kind === 'host');
  return host > 0 ? [...best.slice(host), ...best.slice(0, host)] : best;
}

function stepOf(graph: StartGraph, from: StartNode, need: StartNeed): string {
  const to = graph.get(need.to)!.name;
  if (need.way === 'keeps volumes at')
    return `${from.name} keeps volumes on ${need.pool}, which ${to} serves`;
  if (need.way === 'is provided by')
    return from.needs.length === 1
      ? `${from.name} comes from ${to} alone`
      : `${from.name} comes from ${to}, and from nobody who starts before`;
  return `${from.name} ${need.way} ${to}`;
}

/** Each change alone, tried: it counts if every member then starts. */
function mendsOf(graph: StartGraph, keys: ReadonlySet<string>, order: StartOrder): Mend[] {
  const members = [...keys]
    .map((key) => graph.get(key)!)
    .sort((a, b) => a.name.localeCompare(b.name));
  const part = waitedFor(graph, keys, order);
  /** When the last member is up; null where one never is. */
  const upAfter = (
    given: ReadonlySet<string>,
    dropped: ReadonlySet<string>,
    graphThen = part,
  ): number | null => {
    const { starts } = startOrder(graphThen, given, dropped);
    const ups = members.map((member) => starts.get(member.key)?.up);
    return ups.every((up) => up !== undefined) ? Math.max(...ups) : null;
  };
  const mends: Mend[] = [];
  for (const service of members.filter((member) => member.kind === 'service')) {
    const seconds = upAfter(new Set([service.key]), new Set());
    if (seconds !== null)
      mends.push({
        seconds,
        sentence: `Let ${service.name} come also from a machine that waits for none of ${namesOf(members, service)}.`,
      });
  }
  const steps = members
    .flatMap((from) =>
      from.needs.filter((need) => keys.has(need.to)).map((need) => ({ from, need })),
    )
    .slice(0, MOST_TRIED);
  const [elsewhere] = [...order.starts.values()]
    .filter(({ node }) => node.kind === 'host')
    .sort((a, b) => a.node.name.localeCompare(b.node.name));
  /** A guest that is moved starts when its new host is up. */
  const moved = ({ key }: StartNode): StartGraph => {
    const node = part.get(key)!;
    const notBefore = Math.max(node.notBefore ?? 0, elsewhere?.up ?? 0);
    return new Map(part).set(key, { ...node, notBefore });
  };
  const gentlest = ['runs on', 'uses', 'needs', 'keeps volumes at'];
  for (const way of gentlest) {
    const alike: Mend[] = [];
    for (const { from, need } of steps.filter((step) => step.need.way === way)) {
      const seconds = upAfter(
        new Set(),
        new Set([`${from.key}>${need.to}`]),
        way === 'runs on' ? moved(from) : part,
      );
      if (seconds === null) continue;
      const to = graph.get(need.to)!.name;
      if (way === 'runs on')
        alike.push({
          seconds,
          sentence: `Move ${from.name} from ${to} to a host that starts without it${elsewhere ? `, such as ${elsewhere.node.name}` : ''}.`,
          guestId: from.id,
        });
      else if (way === 'keeps volumes at')
        alike.push({
          seconds,
          sentence: `Keep the volumes of ${from.name} on a pool that ${to} does not serve.`,
        });
      else
        alike.push({
          seconds,
          sentence: `Drop that ${from.name} ${way} ${to}, if it can start without.`,
          dependencyId: need.dependencyId,
        });
    }
    mends.push(...alike.sort((a, b) => a.seconds - b.seconds));
  }
  return mends;
}

/** The component and all it waits for: whether a mend frees it is tried on these alone, not on the whole fleet. */
function waitedFor(graph: StartGraph, keys: ReadonlySet<string>, order: StartOrder): StartGraph {
  const part: StartGraph = new Map();
  const queue = [...keys];
  for (let key = queue.pop(); key !== undefined; key = queue.pop()) {
    if (part.has(key)) continue;
    const node = graph.get(key)!;
    const needs = node.needs.filter((need) => order.blocked.has(need.to));
    const notBefore = node.needs.reduce(
      (latest, need) => Math.max(latest, order.starts.get(need.to)?.up ?? 0),
      0,
    );
    part.set(key, { ...node, needs, notBefore });
    queue.push(...needs.map((need) => need.to));
  }
  return part;
}

function namesOf(members: readonly StartNode[], but: StartNode): string {
  const names = members.filter((member) => member !== but).map((member) => member.name);
  return names.length <= 4
    ? names.join(', ')
    : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
}
