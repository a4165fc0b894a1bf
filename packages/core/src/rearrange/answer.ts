/**
 * What was found, in the words of the record: moves with their times, hosts before and after, what could not be placed and
 * what it lacks, and what is proved. The moves are made once more on the fleet itself, one after another, and room is asked
 * of the record after each: no search's word is taken for it. Costs moves + hosts.
 */
import type { Fleet, Patch } from '../record/index.js';
import { assumesOf } from './measured-use.js';
import type { RearrangeAsk, RearrangeProblem, Unmovable } from './rearrange-ask.js';
import type { Solution } from './solve.js';
import { moveOf, notHeld, patchesOf } from './made-move.js';
import type { Rearranged, RearrangedMove } from './rearranged.js';
import { hostView, toleranceOf, usedOn, wattsOf } from './host-shares.js';
import { stuckView } from './stuck-guest.js';
import { percent, sentences } from './answer-words.js';

/** The answer alone. */
export const rearranged = (...args: Parameters<typeof rearrangedWith>): Rearranged =>
  rearrangedWith(...args).answer;

/** With the patches that the moves come to, as if they had been made. */
export function rearrangedWith(
  fleet: Fleet,
  ask: RearrangeAsk,
  problem: RearrangeProblem,
  solution: Solution,
  unmovable: readonly Unmovable[],
): { answer: Rearranged; patches: Patch[] } {
  const leaving = new Set(problem.closed);
  const patches: Patch[] = [];
  const would = fleet.overlay([]);
  const moves: RearrangedMove[] = [];
  const unheld: Rearranged['stuck'] = [];
  for (const { unit, to, spread, fullest, withNext } of solution.moves) {
    const home = problem.start[unit]!;
    const guest = would.need('guest', problem.guestIds[unit]!);
    const move = moveOf(would, guest, problem.hostIds[to]!, ask.linkBitsPerSecond);
    const made = patchesOf(would, guest, move);
    const why = notHeld(would.overlay(made), fleet, move);
    if (why) {
      // The search takes the pools of a host for one: what none of them holds ends it.
      unheld.push({ guestId: guest.id, name: guest.name, why, mend: null });
      break;
    }
    would.apply(made, fleet.revision);
    patches.push(...made);
    moves.push({
      ...move,
      why:
        spread !== undefined && fullest !== undefined
          ? `${withNext ? 'with the next: ' : ''}${ask.by === 'used' ? 'fullest hour' : 'fullest host'} ${percent(fullest)} then, spread ${percent(spread)}`
          : to !== solution.at[unit]
            ? 'stops over'
            : to === home
              ? 'comes back'
              : leaving.has(home) || (ask.aim === 'fewest' && !solution.at.includes(home))
                ? 'leaves'
                : 'makes room',
    });
  }
  const after = fleet.overlay(patches);
  const at = problem.start.slice();
  for (const { unit, to } of solution.moves.slice(0, moves.length)) at[unit] = to;
  const usedOf = usedOn(problem, at);
  const hosts = problem.hostIds
    .map((id, host) => ({ ...hostView(fleet, after, id), used: usedOf(host) }))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const still = new Map(unmovable.map(({ guestId, why }) => [guestId, why]));
  const stuck = [
    ...unheld,
    ...solution.stuck.map((unit) => stuckView(fleet, problem, solution, unit, still)),
  ];
  const seconds = moves.map((move) => move.seconds);
  const whole = unheld.length === 0;
  const answer = {
    moves,
    stuck,
    hosts,
    bytes: moves.reduce((sum, { bytes }) => sum + bytes, 0),
    seconds: seconds.includes(null) ? null : seconds.reduce<number>((sum, one) => sum + one!, 0),
    tolerance: toleranceOf(fleet, after, problem.hostIds),
    wattsFreed: wattsOf(fleet, hosts),
  };
  const said = sentences(
    ...([ask, fleet, problem] as const),
    whole ? solution : { ...solution, proven: null },
    answer,
  );
  const assumes = problem.use ? assumesOf(problem.use) : '';
  return { answer: { ...answer, ...said, assumes }, patches };
}
