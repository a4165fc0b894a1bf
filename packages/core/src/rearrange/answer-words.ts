/** What was found, in a sentence, and what is proved of it. */
import { counted, fewNames, formatMemory } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import type { RearrangeAsk, RearrangeProblem } from './rearrange-ask.js';
import type { Solution } from './solve.js';
import type { Rearranged } from './rearranged.js';

const DIMENSIONS = ['memory', 'processors', 'disks of their own'];

export function sentences(
  { aim, by: evenBy, emptiedIds }: RearrangeAsk,
  fleet: Fleet,
  { cost }: RearrangeProblem,
  { proven, fewest, even, leastCost, moves: made }: Solution,
  { moves, stuck }: Pick<Rearranged, 'moves' | 'stuck'>,
): Pick<Rearranged, 'headline' | 'proof'> {
  if (aim === 'empty') {
    const names = fewNames(emptiedIds.map((id) => fleet.need('host', id).name));
    const travels = made.reduce((sum, { unit }) => sum + cost[unit]!, 0);
    return {
      headline:
        stuck.length === 0
          ? moves.length === 0
            ? `Nothing stands on ${names}.`
            : `${names} can be emptied by ${counted(moves.length, 'move')}.`
          : `${counted(stuck.length, 'guest')} cannot leave ${names}; ${counted(moves.length, 'move')} can be made.`,
      proof:
        proven === 'impossible'
          ? 'Proved: no placement of all guests on the other hosts exists, whatever moves.'
          : stuck.length > 0
            ? 'That nothing would empty it is not proved.'
            : proven === 'best'
              ? 'Proved: no plan moves less.'
              : leastCost === null
                ? ''
                : `At least ${formatMemory(leastCost, 'up')} must travel; this plan moves ${formatMemory(travels, 'up')}.`,
    };
  }
  if (stuck.length > 0)
    return {
      headline: `${counted(moves.length, 'move')} of those that were found can be made: ${stuck[0]!.name} goes no further, ${stuck[0]!.why}.`,
      proof: '',
    };
  if (aim === 'fewest' && fewest) {
    const freed = fewest.before - fewest.used;
    const by = bindingOf(fewest.bound);
    return {
      headline:
        freed > 0
          ? `${counted(fewest.used, 'host')} can hold what ${fewest.before} hold now, by ${counted(moves.length, 'move')}: ${freed} could be switched off.`
          : `No way with fewer than the ${counted(fewest.used, 'host')} of today was found.`,
      proof:
        proven === 'best'
          ? `Proved: no placement uses fewer than ${fewest.bound.hosts}${by}.`
          : `No placement uses fewer than ${fewest.bound.hosts}${by}; whether one between ${fewest.bound.hosts} and ${fewest.used} does, is open.`,
    };
  }
  const last = made.at(-1);
  const fullestHost = evenBy === 'used' ? 'the fullest hour of a host' : 'the fullest host';
  return {
    headline: last
      ? evened(moves.length, fullestHost, even!.before, last)
      : `No move makes it more even: ${fullestHost} is at ${percent(even?.before.fullest ?? 0)}.`,
    proof: `No placement has ${evenBy === 'used' ? 'a fullest hour' : 'a fullest host'} below ${percent(even?.bound ?? 0)}.`,
  };
}

function evened(
  moves: number,
  fullestHost: string,
  before: { fullest: number; spread: number },
  after: Solution['moves'][number],
): string {
  const bring = `${counted(moves, 'move')} ${moves === 1 ? 'brings' : 'bring'}`;
  const [was, is] = [percent(before.fullest), percent(after.fullest!)];
  const spread = `from ${percent(before.spread)} to ${percent(after.spread!)}`;
  return was === is
    ? `${bring} the spread ${spread}; ${fullestHost} stays at ${is}.`
    : `${bring} ${fullestHost} from ${was} to ${is}, and the spread ${spread}.`;
}

/** What keeps the number of hosts from being smaller. */
function bindingOf({ by, dims }: NonNullable<Solution['fewest']>['bound']): string {
  if (by === 'apart') return ' (guests that stay apart)';
  if (by === 'conflict') return ' (guests of which no two fit on one host)';
  if (by === 'patterns') return ' (counted over every way guests can share a host)';
  if (dims.length === 0) return '';
  const names = dims.map((dim) => DIMENSIONS[dim]).join(' and ');
  return ` (${names} ${dims.length === 1 ? 'binds' : 'bind'})`;
}

export const percent = (value: number): string => `${value.toFixed(1)} %`;
