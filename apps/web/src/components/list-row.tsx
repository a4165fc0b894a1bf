/** Columns of a list, and the cells of one row. */
import type { ReactNode } from 'react';

export interface Column<T> {
  title: string;
  /** Name of the order on the server; without it the column cannot be sorted by. */
  sort?: string;
  width: string;
  right?: boolean;
  /** Left out on narrow screens and beside an open sheet. */
  spare?: boolean;
  /** Left out on screens of less than 1180 pixels as well. */
  wide?: boolean;
  cell: (row: T) => ReactNode;
  /** What leaves with the list, where the cell is a drawing. */
  value?: (row: T) => string | number | null;
}

/** Numbers stand to the right; words after them keep away. */
export const sideOf = <T,>(columns: readonly Column<T>[], i: number): string =>
  columns[i]!.right ? 'text-right' : columns[i - 1]?.right && columns[i]!.title ? 'pl-3' : '';

export function Cells<T>({
  row,
  columns,
  name,
  phone,
  mark,
}: {
  row: T;
  columns: readonly Column<T>[];
  name: string;
  phone: boolean;
  mark: ReactNode;
}) {
  const [first, ...others] = columns;
  if (!first) return null;
  const head = (
    <>
      {first.cell(row)}
      {mark}
    </>
  );
  if (!phone)
    return (
      <>
        <span role="gridcell" className={`truncate ${sideOf(columns, 0)}`} title={name}>
          {head}
        </span>
        {others.map((column, i) => (
          <span key={column.title} role="gridcell" className={`truncate ${sideOf(columns, i + 1)}`}>
            {column.cell(row)}
          </span>
        ))}
      </>
    );
  // A column without a title is a mark: it stays at the edge, where the eye runs down.
  const marks = others.filter(({ title }) => title === '');
  return (
    <>
      <span role="gridcell" className="min-w-0">
        <span className="block truncate font-bold">{head}</span>
        <span className="flex gap-x-3 overflow-hidden text-[13px] whitespace-nowrap text-faint">
          {others
            .filter(({ title }) => title !== '')
            .map((column) => (
              <span key={column.title}>
                {column.right && `${column.title.toLowerCase()} `}
                {column.cell(row)}
              </span>
            ))}
        </span>
      </span>
      <span role="gridcell">
        {marks.map((column, i) => (
          <span key={i}>{column.cell(row)}</span>
        ))}
      </span>
    </>
  );
}
