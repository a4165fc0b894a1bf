/**
 * A pasted table: its cells as they were pasted and mended, what each column is, and every row as it was read. Rows are read in
 * blocks, and a mended cell has only its own block read again.
 */
import {
  notationOf,
  plainNumber,
  type ColumnNotation,
  type NumberNotation,
  type TableRow,
} from '@insel/core';
import Papa from 'papaparse';
import { useMemo, useRef } from 'react';
import { fused } from '../list-text.js';

export interface TableKind<C extends string> {
  /** "hosts": name of the list in the request, of its path and of its area. */
  many: 'hosts' | 'guests';
  one: 'host' | 'guest';
  example: string;
  needed: string;
  columns: readonly C[];
  /** Those whose cells begin with a number. */
  numbers: readonly C[];
  guess: (headings: readonly string[]) => (C | null)[];
  read: (rows: string[][], columns: (C | null)[]) => TableRow<C>[];
  /** Rows are compared with each other: all are read at once. */
  together?: boolean;
  /** What reading rests on beside the table: read again where it alters. */
  rests: readonly unknown[];
}

export interface TableDraft<C extends string> {
  text: string;
  columns: (C | null)[] | null;
  /** What was said of a column whose numbers can be read both ways. */
  notations: Partial<Record<C, NumberNotation>>;
  /** Cells that were mended: "row:column" in the table as it was pasted. */
  mended: Record<string, string>;
}

/** More rows are no table any more. */
export const MOST_ROWS = 50_000;
const BLOCK = 250;

export interface ReadTable<C extends string> {
  header: string[];
  body: string[][];
  columns: (C | null)[];
  rows: TableRow<C>[];
  /** Numbers of rows with a cell that could not be read. */
  faulty: number[];
  faults: number;
  notations: ReadonlyMap<C, ColumnNotation>;
  /** Columns of which it has to be said how they write numbers. */
  unsaid: { column: C; example: string }[];
  /** Rows beyond those that can be taken in. */
  over: number;
}

export const cellKey = (row: number, column: number): string => `${row}:${column}`;

export function useReadTable<C extends string>(
  kind: TableKind<C>,
  draft: TableDraft<C>,
): ReadTable<C> {
  const pasted = useMemo(() => {
    const rows = Papa.parse<string[]>(draft.text.trim(), { skipEmptyLines: 'greedy' }).data;
    const [header = [], ...body] = rows;
    return {
      header: header.map(fused),
      body: body.slice(0, MOST_ROWS).map((row) => row.map(fused)),
      over: Math.max(0, body.length - MOST_ROWS),
    };
  }, [draft.text]);
  const { header } = pasted;
  const body = useMemo(() => mendedBody(pasted.body, draft.mended), [pasted, draft.mended]);
  const columns = draft.columns?.length === header.length ? draft.columns : kind.guess(header);
  const columnsKey = columns.join('|');
  const notations = useMemo(
    () =>
      new Map(
        columns.flatMap((column, i) =>
          column && kind.numbers.includes(column)
            ? [[column, notationOf(body.map((row) => row[i] ?? ''))] as const]
            : [],
        ),
      ),
    [body, columnsKey],
  );
  const said = columns.map((column): NumberNotation | undefined => {
    const found = column ? notations.get(column) : undefined;
    return found && ('settled' in found ? found.settled : draft.notations[column!]);
  });
  const blocks = useRef(
    new Map<number, { of: string[][]; rests: unknown[]; rows: TableRow<C>[] }>(),
  );
  const rests = [columnsKey, said.join('|'), ...kind.rests];
  const rows: TableRow<C>[] = [];
  const size = kind.together ? Math.max(1, body.length) : BLOCK;
  for (let from = 0; from < body.length; from += size) {
    const of = body.slice(from, from + size);
    const held = blocks.current.get(from);
    const same =
      held?.of.length === of.length &&
      held.of.every((row, i) => row === of[i]) &&
      held.rests.every((one, i) => one === rests[i]);
    if (!same) {
      const plain = of.map((row) =>
        row.map((cell, i) => (said[i] ? plainNumber(cell, said[i]) : cell)),
      );
      blocks.current.set(from, { of, rests, rows: kind.read(plain, columns) });
    }
    rows.push(...blocks.current.get(from)!.rows);
  }
  const unsaid = [...notations].flatMap(([column, found]) =>
    'ambiguous' in found && !draft.notations[column] ? [{ column, example: found.ambiguous }] : [],
  );
  const faulty = rows.flatMap((row, n) => (row.errors.length > 0 ? [n] : []));
  const faults = rows.reduce((sum, row) => sum + row.errors.length, unsaid.length);
  return { header, body, columns, rows, faulty, faults, notations, unsaid, over: pasted.over };
}

/** Rows that were not mended stay the same arrays, so that they are not read again. */
function mendedBody(body: string[][], mended: Record<string, string>): string[][] {
  const by = new Map<number, [number, string][]>();
  for (const [key, value] of Object.entries(mended)) {
    const [row, column] = key.split(':').map(Number) as [number, number];
    by.set(row, [...(by.get(row) ?? []), [column, value]]);
  }
  if (by.size === 0) return body;
  return body.map((row, n) => {
    const cells = by.get(n);
    if (!cells) return row;
    const copy = [...row];
    for (const [column, value] of cells) copy[column] = value;
    return copy;
  });
}

/** The table without some of its rows, as text again. */
export const textWithout = (
  { header, body }: Pick<ReadTable<string>, 'header' | 'body'>,
  gone: ReadonlySet<number>,
): string =>
  Papa.unparse([header, ...body.filter((_, n) => !gone.has(n))], {
    delimiter: '\t',
    newline: '\n',
  });

/** Text of a file: UTF-8, or what spreadsheets on old systems write where it is none. */
export async function textOf(file: File | undefined): Promise<string | null> {
  if (!file) return null;
  const bytes = await file.arrayBuffer();
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
