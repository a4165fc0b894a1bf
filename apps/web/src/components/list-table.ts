/** Columns, order and selection of a list, on TanStack Table: the server sorts and narrows, the address bar says how. */
import {
  columnVisibilityFeature,
  functionalUpdate,
  metaHelper,
  rowSelectionFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
  type ReactTable,
  type Row,
} from '@tanstack/react-table';
import { useMemo, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import type { Seen } from '../client/change.js';
import { addressNow } from '../client/url-state.js';
import type { Choice } from './choice.js';
import { usePhone, useWide } from './use-phone.js';

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

const features = tableFeatures({
  columnVisibilityFeature,
  rowSortingFeature,
  rowSelectionFeature,
  columnMeta: metaHelper<Pick<Column<never>, 'title' | 'width' | 'right'>>(),
});
type Features = typeof features;
export type ListTable<T extends Seen> = ReactTable<Features, T>;
export type ListRow<T extends Seen> = Row<Features, T>;

/** A column without a title is a mark. */
export const idOf = ({ sort, title }: Pick<Column<never>, 'sort' | 'title'>): string =>
  sort ?? (title || 'mark');

const defined = <T extends Seen>(column: Column<T>): ColumnDef<Features, T, unknown> => ({
  id: idOf(column),
  accessorFn: column.value ?? column.cell,
  cell: ({ row }) => column.cell(row.original),
  enableSorting: column.sort !== undefined,
  meta: column,
});

/**
 * @param rows those in sight, in the order of the server
 * @param narrow whether a sheet is open beside the list
 */
export function useListTable<T extends Seen>(
  columns: readonly Column<T>[],
  rows: T[],
  { narrow, chosen }: { narrow: boolean; chosen: Choice | undefined },
): ListTable<T> {
  const [search, setSearch] = useSearchParams();
  const [phone, wide] = [usePhone(), useWide()];
  const sort = search.get('sort');
  const desc = search.get('order') === 'down';
  const sorting = useMemo(() => (sort ? [{ id: sort, desc }] : []), [sort, desc]);
  const columnVisibility = useMemo(
    () =>
      Object.fromEntries(
        columns.map((one) => [
          idOf(one),
          !((narrow || phone) && one.spare) && !(one.wide && !wide),
        ]),
      ),
    [columns, narrow, phone, wide],
  );
  const selected = useMemo(
    () => Object.fromEntries([...(chosen?.rows.keys() ?? [])].map((id) => [id, true as const])),
    [chosen?.rows],
  );
  return useTable({
    features,
    columns: useMemo(() => columns.map(defined), [columns]),
    data: rows,
    getRowId: ({ id }) => id,
    manualSorting: true,
    enableSortingRemoval: false,
    sortDescFirst: false,
    enableRowSelection: chosen !== undefined,
    state: { sorting, columnVisibility, rowSelection: selected },
    onSortingChange: (updater) => {
      const [next] = functionalUpdate(updater, sorting);
      const address = addressNow();
      address.delete('sort');
      address.delete('order');
      if (next) address.set('sort', next.id);
      if (next) address.set('order', next.desc ? 'down' : 'up');
      setSearch(address);
    },
    onRowSelectionChange: (updater) => {
      const next = functionalUpdate(updater, selected);
      const seen = new Map(rows.map((row) => [row.id, row]));
      chosen?.choose(Object.keys(next).flatMap((id) => chosen.rows.get(id) ?? seen.get(id) ?? []));
    },
  });
}
