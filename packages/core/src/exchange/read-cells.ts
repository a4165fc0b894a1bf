/** How cells of a pasted table are read: shared by the tables of hosts and of guests. */
import { parseMemory } from '../quantity/index.js';

export type ReadCell = (
  text: string,
) => { ok: true; value: unknown } | { ok: false; sentence: string };
export type NamedRow = { id: string; name: string };

/** One row as the request that records it; cells that could not be read are listed. */
export interface TableRow<C extends string = string> {
  body: Record<string, unknown>;
  errors: { column: C; sentence: string }[];
}

/** What each heading probably is; each column is taken once, the rest is left out. */
export function guessAmong<C extends string>(
  headings: readonly string[],
  columns: readonly C[],
  also: Partial<Record<C, RegExp>>,
): (C | null)[] {
  const taken = new Set<C>();
  return headings.map((heading) => {
    const word = heading.trim().toLowerCase();
    const found = columns.find(
      (column) => !taken.has(column) && (word === column || also[column]?.test(word)),
    );
    if (found) taken.add(found);
    return found ?? null;
  });
}

/** Reads the cells of one row, gathering what could not be read. */
export class Cells<C extends string> {
  readonly errors: TableRow<C>['errors'] = [];

  constructor(
    private readonly cells: readonly string[],
    private readonly columns: readonly (C | null)[],
  ) {}

  text(column: C): string {
    return (this.cells[this.columns.indexOf(column)] ?? '').trim();
  }

  take(column: C, read: ReadCell): unknown {
    const text = this.text(column);
    if (!this.columns.includes(column) || text === '') return undefined;
    const result = read(text);
    if (result.ok) return result.value;
    this.errors.push({ column, sentence: result.sentence });
    return undefined;
  }

  need(column: C, read: ReadCell, missing: string): unknown {
    if (this.text(column) === '') this.errors.push({ column, sentence: missing });
    return this.take(column, read);
  }
}

export const withoutUndefined = (values: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined));
export const words: ReadCell = (text) => ({ ok: true, value: text });
export const wordList: ReadCell = (text) => ({
  ok: true,
  value: text.split(/[,;]\s*/).filter(Boolean),
});

export const whole =
  (min: number, max: number): ReadCell =>
  (text) => {
    const value = Number(text);
    return /^\d+$/.test(text) && value >= min && value <= max
      ? { ok: true, value }
      : { ok: false, sentence: `"${text}" is not a whole number from ${min} to ${max}.` };
  };

/** A bare number of a memory column means GiB, as people write it. */
export const memory: ReadCell = (text) =>
  parseMemory(/^\d+(\.\d+)?$/.test(text) ? `${text} GiB` : text.replace(/\b([MGT])B$/i, '$1iB'));

export const day: ReadCell = (text) =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text))
    ? { ok: true, value: text }
    : { ok: false, sentence: `"${text}" is not a date: write 2027-05-31.` };

export const oneOf =
  (choices: readonly string[]): ReadCell =>
  (text) => {
    const found = choices.find((choice) => choice.toLowerCase() === text.toLowerCase());
    return found
      ? { ok: true, value: found }
      : { ok: false, sentence: `"${text}" is not one of: ${choices.join(', ')}.` };
  };

const named = new WeakMap<readonly NamedRow[], ReadonlyMap<string, NamedRow>>();

/** A row by its name, whatever its letters' case; a list is gone through once. */
export function byName<T extends NamedRow>(rows: readonly T[], name: string): T | undefined {
  let known = named.get(rows);
  if (!known)
    named.set(
      rows,
      (known = new Map([...rows].reverse().map((row) => [row.name.toLowerCase(), row]))),
    );
  return known.get(name.toLowerCase()) as T | undefined;
}

export const among =
  (rows: readonly NamedRow[], kind: string): ReadCell =>
  (text) => {
    const found = byName(rows, text);
    return found
      ? { ok: true, value: found.id }
      : { ok: false, sentence: `There is no ${kind} "${text}" in the record.` };
  };
