/** Whether a change meets the rows it alters as whoever asks for it had read them; and what he would expect who reads them now. */
import {
  alteredRows,
  expectationsOf,
  isRefusal,
  type Context,
  type Decision,
  type Expectation,
  type Fleet,
  type Refusal,
} from '../record/index.js';
import { decide, type Change } from './decide.js';
import { descriptionOf } from './descriptions.js';

/** Why the change cannot be decided as it was meant: nobody said what was read, or it has altered since. */
export type Unmet =
  | { readonly because: 'not said'; readonly rows: readonly Expectation[] }
  | { readonly because: 'altered'; readonly current: object | null };

export function unmet(
  fleet: Fleet,
  change: Change,
  expects: readonly Expectation[],
): Unmet | undefined {
  const said = new Map(expects.map(({ id, revision }) => [id, revision]));
  const altered = alteredRows(descriptionOf(change.type)!, change.input).map(({ kind, id }) => ({
    id,
    row: fleet.get(kind, id),
  }));
  const silent = altered.filter(({ id, row }) => row && !said.has(id));
  if (silent.length > 0)
    return {
      because: 'not said',
      rows: silent.map(({ id, row }) => ({ id, revision: row!.revision })),
    };
  const stale = altered.find(({ id, row }) => said.has(id) && said.get(id) !== row?.revision);
  return stale && { because: 'altered', current: stale.row ?? null };
}

/** Decides a change that is to be offered, with what he expects who makes it as it is offered. */
export function tryChange(
  fleet: Fleet,
  change: Change,
  context: Context,
): (Decision & { expects: readonly Expectation[] }) | Refusal {
  const decision = decide(fleet, change, context);
  if (isRefusal(decision)) return decision;
  return { ...decision, expects: expectationsOf(fleet, descriptionOf(change.type)!, change.input) };
}
