/** What a client had read of the rows that its change alters. */
import type { Fleet, Kind } from '../record/index.js';
import type { Change } from './decide.js';
import { descriptionOf } from './descriptions.js';

/** A row and its revision, as it was read. */
export interface Expectation {
  readonly id: string;
  readonly revision: number;
}

/** Rows that the description says are altered, by the references of the input. */
export function alteredRows(change: Pick<Change, 'type' | 'input'>): { kind: Kind; id: string }[] {
  const { alters, input } = descriptionOf(change.type)!;
  const given = change.input as Readonly<Record<string, unknown>>;
  return alters.flatMap((name) =>
    [given[name]]
      .flat()
      .filter((id) => typeof id === 'string')
      .map((id) => ({ kind: input[name]!.to as Kind, id })),
  );
}

/** What somebody expects who reads the fleet now. */
export const expectationsOf = (
  fleet: Fleet,
  change: Pick<Change, 'type' | 'input'>,
): Expectation[] =>
  alteredRows(change).flatMap(({ kind, id }) => {
    const row = fleet.get(kind, id);
    return row ? [{ id, revision: row.revision }] : [];
  });

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
  const altered = alteredRows(change).map(({ kind, id }) => ({ id, row: fleet.get(kind, id) }));
  const silent = altered.filter(({ id, row }) => row && !said.has(id));
  if (silent.length > 0)
    return {
      because: 'not said',
      rows: silent.map(({ id, row }) => ({ id, revision: row!.revision })),
    };
  const stale = altered.find(({ id, row }) => said.has(id) && said.get(id) !== row?.revision);
  return stale && { because: 'altered', current: stale.row ?? null };
}
