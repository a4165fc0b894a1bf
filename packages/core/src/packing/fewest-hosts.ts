/**
 * The fewest hosts that hold all units, with moves that lead there: first hosts are emptied one after another, the least
 * loaded first, as long as chains of moves are found; then placings are made anew, by columns and on fewer hosts from the bound
 * upwards, each of them asked for an order of moves. Costs hosts · (chains or a placing).
 */
import { fewestHostsBound, type HostsBound } from './bounds.js';
import { closeMany } from './close-many.js';
import { fewestByColumns } from './columns.js';
import { emptyHosts } from './empty-hosts.js';
import type { Move } from './moving.js';
import type { SolveLinear } from './linear-model.js';
import { orderMoves } from './order-moves.js';
import { needAt, type PackingQuestion, type Placing } from './question.js';
import { settle, type Exactly } from './settle.js';
import { faultsOf } from './verify.js';

export interface FewestHosts {
  at: Placing;
  moves: Move[];
  used: number;
  bound: HostsBound;
  /** Nothing uses fewer. */
  proven: boolean;
}

export interface Consolidating {
  question: PackingQuestion;
  /** Room that is never too little, for the bound; left out: that of the question. */
  mostRoom?: Float64Array;
  start: Placing;
  costOf: (unit: number) => number;
  /** Whether a placing may stand, as where one more host must be able to fail. */
  accept?: (at: Placing) => boolean;
  exactly?: Exactly;
  /** With it more is proved, and placings are found that chains do not lead to. */
  solve?: SolveLinear;
  /** Hears of each better answer; false: stop, what was found is the answer. */
  tell?: (found: FewestHosts) => boolean;
}

/** Chains host by host cost too much for more units than these. */
const MANY = 400;
/** Steps of each placing that is made anew. */
const BUDGET = 30_000;

export function fewestHosts(asked: Consolidating): FewestHosts {
  const { question, start, tell = () => true } = asked;
  const most = { ...question, room: asked.mostRoom ?? question.room };
  let bound = fewestHostsBound(most);
  const answer = (at: Placing, moves: Move[]): FewestHosts => {
    const used = usedBy(at).size;
    return { at, moves, used, bound, proven: used <= bound.hosts };
  };
  let best = answer(start.slice(), []);
  let goOn = tell(best);
  if (question.units > MANY) {
    for (const found of closedAtOnce(asked, bound.hosts)) {
      best = answer(found.at, found.moves);
      if (!tell(best) || best.proven) break;
    }
    return best;
  }
  for (const emptied of emptiedOneByOne(asked)) {
    best = answer(emptied.at, emptied.moves);
    goOn &&= tell(best);
    if (!goOn || best.proven) return best;
  }
  if (goOn && asked.solve) {
    const columns = fewestByColumns(most, best.at, asked.solve, best.used, () => tell(best));
    if (columns.bound > bound.hosts) bound = { hosts: columns.bound, by: 'patterns', dims: [] };
    const anew = columns.at && movedTo(asked, columns.at);
    best = anew ? answer(anew.at, anew.moves) : answer(best.at, best.moves);
    goOn = tell(best);
    if (!goOn || best.proven) return best;
  }
  for (let count = Math.max(1, bound.hosts); goOn && count < best.used; count += 1) {
    const anew = placedOn(asked, count);
    if (!anew) continue;
    best = answer(anew.at, anew.moves);
    tell(best);
    break;
  }
  return best;
}

/** So many hosts closed at once that the number of those that are left is halved in on, from the bound upwards. */
function* closedAtOnce(
  { question, start, costOf, accept = () => true }: Consolidating,
  least: number,
): Generator<{ at: Placing; moves: Move[] }> {
  const used = usedBy(start);
  const order = bySize(question, start, costOf).filter((host) => used.has(host));
  const idle = Array.from({ length: question.hosts }, (_, host) => host).filter(
    (host) => !used.has(host),
  );
  let [low, high] = [Math.max(1, least), order.length - 1];
  while (low <= high) {
    const middle = low + Math.floor((high - low) / 4);
    const closed = new Set([...order.slice(middle), ...idle]);
    const found = closeMany({ question, start, closed });
    if (found && accept(found.at)) {
      yield found;
      high = usedBy(found.at).size - 1;
    } else low = middle + 1;
  }
}

const usedBy = (at: Placing): Set<number> => new Set(Array.from(at).filter((host) => host >= 0));

function* emptiedOneByOne({
  question,
  start,
  costOf,
  accept = () => true,
}: Consolidating): Generator<{ at: Placing; moves: Move[] }> {
  let at = start;
  let moves: Move[] = [];
  const kept = new Set<number>();
  const closed = new Set<number>();
  for (let host = 0; host < question.hosts; host += 1)
    if (!usedBy(start).has(host)) closed.add(host);
  for (;;) {
    const costs = new Float64Array(question.hosts);
    for (const [unit, host] of at.entries()) if (host >= 0) costs[host]! += costOf(unit);
    const next = [...usedBy(at)]
      .filter((host) => !kept.has(host))
      .sort((a, b) => costs[a]! - costs[b]! || a - b)[0];
    if (next === undefined) return;
    const emptied = emptyHosts({ question, start: at, closed: new Set([...closed, next]), costOf });
    if (emptied.stuck.length > 0 || !accept(emptied.at)) {
      kept.add(next);
      continue;
    }
    closed.add(next);
    at = emptied.at;
    moves = [...moves, ...emptied.moves];
    yield { at, moves };
  }
}

/** A placing on so many hosts, those with the most room and the most on them first, and an order that leads there. */
function placedOn(asked: Consolidating, count: number): { at: Placing; moves: Move[] } | null {
  const { question, start, exactly, costOf } = asked;
  const open = new Set(bySize(question, start, costOf).slice(0, count));
  const narrowed = narrowedTo(question, open);
  const { answer, at } = settle(narrowed, BUDGET, exactly);
  return answer === 'fits' ? movedTo(asked, at) : null;
}

/** An order of moves to a placing, or to one like it in which more stays where it is. */
function movedTo(
  { question, start, accept = () => true, costOf }: Consolidating,
  at: Placing,
): { at: Placing; moves: Move[] } | null {
  if (faultsOf(question, at).length > 0) return null;
  const target = likeBefore(question, start, at, costOf);
  if (!accept(target)) return null;
  const { moves } = orderMoves({ question, start, target, budget: BUDGET });
  return moves && { at: target, moves };
}

/** Hosts, those with the most room and of these the ones with the most on them first. */
function bySize(
  { hosts, dims, room }: PackingQuestion,
  start: Placing,
  costOf: (unit: number) => number,
): number[] {
  const largest = Array.from({ length: dims }, (_, d) =>
    Math.max(1, ...Array.from({ length: hosts }, (_, host) => room[host * dims + d]!)),
  );
  const sizes = Array.from({ length: hosts }, (_, host) =>
    largest.reduce((sum, most, d) => sum + Math.max(0, room[host * dims + d]!) / most, 0),
  );
  const costs = new Float64Array(hosts);
  for (const [unit, host] of start.entries()) if (host >= 0) costs[host]! += costOf(unit);
  return Array.from({ length: hosts }, (_, host) => host).sort(
    (a, b) => sizes[b]! - sizes[a]! || costs[b]! - costs[a]! || a - b,
  );
}

/** The question with fewer hosts to go to. */
export function narrowedTo(question: PackingQuestion, open: ReadonlySet<number>): PackingQuestion {
  const known = new Map<Int32Array, Int32Array>();
  return {
    ...question,
    candidates: question.candidates.map((set) => {
      const held = known.get(set) ?? set.filter((host) => open.has(host));
      known.set(set, held);
      return held;
    }),
  };
}

/**
 * Hosts that are alike in everything change their contents, so that as much as can be stays where it is: greedy, by what
 * need not move.
 */
function likeBefore(
  question: PackingQuestion,
  start: Placing,
  at: Placing,
  costOf: (unit: number) => number,
): Placing {
  const { hosts, dims, room, classOf, candidates, limits } = question;
  const sets = [...new Set(candidates)].map((set) => new Set(set));
  const lookOf = (host: number) =>
    [
      classOf[host],
      ...room.subarray(host * dims, (host + 1) * dims),
      ...sets.map((set) => set.has(host)),
      ...limits.map(({ zoneOf }) => zoneOf[host]),
    ].join();
  const looks = Array.from({ length: hosts }, (_, host) => lookOf(host));
  const stays = new Map<string, { from: number; to: number; cost: number }>();
  for (let unit = 0; unit < question.units; unit += 1) {
    const [from, to] = [at[unit]!, start[unit]!];
    if (from < 0 || to < 0 || looks[from] !== looks[to]) continue;
    const key = `${from} ${to}`;
    const held = stays.get(key) ?? { from, to, cost: 0 };
    held.cost += costOf(unit);
    stays.set(key, held);
  }
  const becomes = new Map<number, number>();
  const taken = new Set<number>();
  for (const { from, to } of [...stays.values()].sort((a, b) => b.cost - a.cost)) {
    if (becomes.has(from) || taken.has(to)) continue;
    becomes.set(from, to);
    taken.add(to);
  }
  for (const from of usedBy(at)) {
    if (becomes.has(from)) continue;
    const free = taken.has(from)
      ? looks.findIndex((look, host) => look === looks[from] && !taken.has(host))
      : from;
    becomes.set(from, free);
    taken.add(free);
  }
  return at.map((host) => (host < 0 ? host : becomes.get(host)!));
}

/** What a placing takes of each host in a dimension. */
export function takenOf(question: PackingQuestion, at: Placing, dim: number): Float64Array {
  const taken = new Float64Array(question.hosts);
  for (let unit = 0; unit < question.units; unit += 1)
    if (at[unit]! >= 0)
      taken[at[unit]!]! += question.need[needAt(question, unit, at[unit]!) + dim]!;
  return taken;
}
