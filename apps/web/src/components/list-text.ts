/** Rows of a list as text: what stands in its cells, as a table that leaves and comes back as it was. */
import Papa from 'papaparse';
import { isValidElement, type ReactNode } from 'react';

export interface TakenColumn<T> {
  title: string;
  cell: (row: T) => ReactNode;
  /** What leaves instead of what is shown; where a cell shows a drawing, what it means. */
  value?: (row: T) => string | number | null;
}

export interface TakenCells {
  titles: string[];
  rows: (string | number | null)[][];
}

export const cellsOf = <T>(rows: readonly T[], columns: readonly TakenColumn<T>[]): TakenCells => ({
  titles: columns.map(({ title }) => title || 'Finding'),
  rows: rows.map((row) =>
    columns.map(({ cell, value }) => (value ? value(row) : textOf(cell(row)))),
  ),
});

/** What a cell says, whatever it is drawn with. */
export function textOf(node: ReactNode): string {
  if (typeof node === 'string' || typeof node === 'number') return String(node);
  if (Array.isArray(node)) return node.map((one) => textOf(one as ReactNode)).join('');
  if (isValidElement<{ children?: ReactNode }>(node)) return textOf(node.props.children);
  return '';
}

/** Begins like a formula of a spreadsheet: run when the file is opened. A plain number, a negative one included, is none. */
const FORMULA = /^[=+\-@\t\r]/;
const isFormula = (text: string): boolean => FORMULA.test(text) && !/^[+-]?\d+(\.\d+)?$/.test(text);

/** Cells that would be run begin with an apostrophe, which `fused` takes away again. */
function defuse({ titles, rows }: TakenCells): { table: string[][]; defused: number } {
  let defused = 0;
  const cell = (value: string | number | null): string => {
    const text = value === null ? '' : String(value);
    if (typeof value === 'number' || !isFormula(text)) return text;
    defused += 1;
    return `'${text}`;
  };
  return { table: [titles, ...rows.map((row) => row.map(cell))], defused };
}

/** A cell as it was before it left. */
export const fused = (text: string): string =>
  text.startsWith("'") && isFormula(text.slice(1)) ? text.slice(1) : text;

/** RFC 4180. */
export function asCsv(cells: TakenCells): { text: string; defused: number } {
  const { table, defused } = defuse(cells);
  return { text: `${Papa.unparse(table, { newline: '\r\n' })}\r\n`, defused };
}

/** As a spreadsheet takes it from the clipboard. */
export function asTsv(cells: TakenCells): { text: string; defused: number } {
  const { table, defused } = defuse(cells);
  return { text: Papa.unparse(table, { delimiter: '\t', newline: '\n' }), defused };
}

export const asJson = ({ titles, rows }: TakenCells): string =>
  `${JSON.stringify(
    rows.map((row) => Object.fromEntries(titles.map((title, i) => [title, row[i]]))),
    null,
    2,
  )}\n`;
