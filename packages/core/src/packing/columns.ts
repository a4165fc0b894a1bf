/**
 * How few hosts can hold all units, by columns: a program over patterns (what goes on one host together), to which the
 * patterns that would help most are added until none would (Gilmore and Gomory, Operations Research 9(6), 1961). The bound is
 * counted in whole numbers out of rounded prices, so that no rounding proves too much (Farley, Operations Research 38(5),
 * 1990, for hosts of one kind; Lagrange's for several). Rules that are not of single hosts are left out: the bound still holds.
 * Costs rounds · (a linear program + a knapsack for each kind of host).
 */
import type { LinearAnswer, SolveLinear } from './linear-model.js';
import type { PackingQuestion, Placing } from './question.js';
import { faultsOf } from './verify.js';
import { itemsOf, kindsOfHost, placingBy } from './host-kinds.js';
import { ColumnSearch } from './column-search.js';

export interface Columns {
  /** No placing uses fewer; 0 where nothing was proved. Adds patterns in at most so many rounds, all that help if it is left out. */
  bound: (enough: number, rounds?: number) => number;
  /** A legal placing on fewer hosts than `enough` made of patterns: on the fewest that they allow. */
  placing: (least: number, enough: number) => Placing | null;
}

/**
 * @param start a placing to begin with
 * @param goOn asked before each program; where it says no, what is proved by then is the answer
 */
export function columnsOf(
  question: PackingQuestion,
  start: Placing,
  solve: SolveLinear,
  goOn: () => boolean = () => true,
): Columns {
  const items = itemsOf(question);
  const kinds = kindsOfHost(question, items);
  const search = new ColumnSearch(items, kinds, (program, seconds) =>
    goOn() ? solve(program, seconds) : STOPPED,
  );
  search.beginWith(start);
  let proved = 0;
  return {
    bound: (enough, rounds) =>
      (proved = Math.max(proved, search.generate(search.whole(), enough, rounds).bound)),
    placing: (least, enough) => {
      for (const times of search.dives(least, enough)) {
        const at = placingBy(question, items, kinds, times);
        if (!at.includes(-1) && faultsOf(question, at).length === 0) return at;
      }
      return null;
    },
  };
}

const STOPPED: LinearAnswer = { status: 'unknown', value: null, bound: -Infinity };
