/** The cells of one row of a list: side by side, or in two lines on a phone. */
import { FlexRender } from '@tanstack/react-table';
import type { ReactNode } from 'react';
import type { Seen } from '../client/change.js';
import type { Column, ListRow } from './list-table.js';

/** Numbers stand to the right; words after them keep away. */
export const sideOf = (
  { right, title }: Pick<Column<never>, 'right' | 'title'>,
  before: Pick<Column<never>, 'right'> | undefined,
): string => (right ? 'text-right' : before?.right && title ? 'pl-3' : '');

export function Cells<T extends Seen>({
  row,
  name,
  phone,
  mark,
}: {
  row: ListRow<T>;
  name: string;
  phone: boolean;
  mark: ReactNode;
}) {
  const cells = row
    .getVisibleCells()
    .map((cell) => ({ ...cell.column.columnDef.meta!, drawn: <FlexRender cell={cell} /> }));
  const [first, ...others] = cells;
  if (!first) return null;
  const head = (
    <>
      {first.drawn}
      {mark}
    </>
  );
  if (!phone)
    return (
      <>
        <span role="gridcell" className={`truncate ${sideOf(first, undefined)}`} title={name}>
          {head}
        </span>
        {others.map((cell, i) => (
          <span key={i} role="gridcell" className={`truncate ${sideOf(cell, cells[i])}`}>
            {cell.drawn}
          </span>
        ))}
      </>
    );
  // A column without a title is a mark: it stays at the edge, where the eye runs down.
  return (
    <>
      <span role="gridcell" className="min-w-0">
        <span className="block truncate font-bold">{head}</span>
        <span className="flex gap-x-3 overflow-hidden text-[13px] whitespace-nowrap text-faint">
          {others
            .filter(({ title }) => title !== '')
            .map(({ title, right, drawn }) => (
              <span key={title}>
                {right && `${title.toLowerCase()} `}
                {drawn}
              </span>
            ))}
        </span>
      </span>
      <span role="gridcell">
        {others
          .filter(({ title }) => title === '')
          .map(({ drawn }, i) => (
            <span key={i}>{drawn}</span>
          ))}
      </span>
    </>
  );
}
