/** What somebody expects who has read the record: the rows that a change alters, as they were then. */
import type { Description } from './describe.js';
import type { Fleet } from './fleet.js';
import type { Kind } from './kinds/index.js';

/** A row and its revision, as it was read. */
export interface Expectation {
  readonly id: string;
  readonly revision: number;
}

/** Rows that the description says are altered, by the references of the input. */
export function alteredRows(
  { alters, input }: Pick<Description, 'alters' | 'input'>,
  given: object,
): { kind: Kind; id: string }[] {
  return alters.flatMap((name) =>
    [(given as Readonly<Record<string, unknown>>)[name]]
      .flat()
      .filter((id) => typeof id === 'string')
      .map((id) => ({ kind: input[name]!.to as Kind, id })),
  );
}

/** What somebody expects of such a change who reads the fleet now. */
export const expectationsOf = (
  fleet: Fleet,
  description: Pick<Description, 'alters' | 'input'>,
  given: object,
): Expectation[] =>
  alteredRows(description, given).flatMap(({ kind, id }) => {
    const row = fleet.get(kind, id);
    return row ? [{ id, revision: row.revision }] : [];
  });
