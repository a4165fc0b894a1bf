/** Placings on ever fewer hosts: the one that costs least is emptied, again and again, as long as the others take what is on it. */
import { emptyHosts } from './empty-hosts.js';
import type { Consolidating } from './fewest-hosts.js';
import type { Move } from './moving.js';
import { type Placing, usedBy } from './question.js';

/** After so many hosts in a row that no chain empties, what makes placings anew finds more. */
const STUCK_IN_A_ROW = 8;

export function* emptiedOneByOne({
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
  for (let stuck = 0; stuck < STUCK_IN_A_ROW;) {
    const costs = new Float64Array(question.hosts);
    for (const [unit, host] of at.entries()) if (host >= 0) costs[host]! += costOf(unit);
    const next = [...usedBy(at)]
      .filter((host) => !kept.has(host))
      .sort((a, b) => costs[a]! - costs[b]! || a - b)[0];
    if (next === undefined) return;
    const emptied = emptyHosts({ question, start: at, closed: new Set([...closed, next]), costOf });
    if (emptied.stuck.length > 0 || !accept(emptied.at)) {
      kept.add(next);
      stuck += Number(emptied.stuck.length > 0);
      continue;
    }
    stuck = 0;
    closed.add(next);
    at = emptied.at;
    moves = [...moves, ...emptied.moves];
    yield { at, moves };
  }
}
