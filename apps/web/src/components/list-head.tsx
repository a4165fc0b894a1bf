/** The headings of a list, and on a phone the order to choose instead of them. */
import type { Seen } from '../client/change.js';
import { sideOf } from './list-row.js';
import type { ListTable } from './list-table.js';

const SORTED = { asc: 'ascending', desc: 'descending' } as const;
const ARROW = { asc: ' ↑', desc: ' ↓' } as const;

export function ListHead<T extends Seen>({
  table,
  template,
  height,
  ticks,
  phone,
}: {
  table: ListTable<T>;
  template: string;
  height: number;
  ticks: boolean;
  phone: boolean;
}) {
  const columns = table.getVisibleLeafColumns();
  return (
    <div
      role="row"
      className={`grid items-center gap-2 border-b border-ink px-2 text-xs font-bold ${phone ? 'sr-only' : ''}`}
      style={{ gridTemplateColumns: template, height }}
    >
      {ticks && (
        <span role="columnheader">
          <span className="sr-only">Chosen</span>
        </span>
      )}
      {columns.map((column, i) => {
        const meta = column.columnDef.meta!;
        const sorted = column.getIsSorted();
        return (
          <span
            key={column.id}
            role="columnheader"
            aria-sort={sorted ? SORTED[sorted] : undefined}
            className={`whitespace-nowrap ${sideOf(meta, columns[i - 1]?.columnDef.meta)}`}
          >
            {column.getCanSort() ? (
              <button
                type="button"
                className="cursor-pointer font-bold"
                onClick={column.getToggleSortingHandler()}
              >
                {meta.title}
                {sorted && ARROW[sorted]}
              </button>
            ) : (
              meta.title
            )}
          </span>
        );
      })}
    </div>
  );
}

export function PhoneOrder<T extends Seen>({ table }: { table: ListTable<T> }) {
  const columns = table.getAllLeafColumns().filter((column) => column.getCanSort());
  const sorted = columns.find((column) => column.getIsSorted());
  return (
    <div className="no-print flex items-center gap-2 border-b border-ink px-2 py-1 text-[13px]">
      <select
        aria-label="In the order of"
        value={sorted?.id ?? ''}
        onChange={(event) =>
          table.setSorting(event.target.value ? [{ id: event.target.value, desc: false }] : [])
        }
      >
        <option value="">in the usual order</option>
        {columns.map(({ id, columnDef }) => (
          <option key={id} value={id}>
            by {columnDef.meta!.title.toLowerCase()}
          </option>
        ))}
      </select>
      {sorted && (
        <button type="button" className="act" onClick={() => sorted.toggleSorting()}>
          {sorted.getIsSorted() === 'desc' ? 'last to first' : 'first to last'}
        </button>
      )}
    </div>
  );
}
