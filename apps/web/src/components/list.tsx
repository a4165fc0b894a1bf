/** A list of any length: only the rows in sight exist, windows are fetched where they are needed. Arrows move, Enter opens. */
import type { ListWindow, ReadQuery } from '@insel/contract';
import { useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { PencilMark, usePlanMarks } from '../client/in-plan.js';
import { read, readOptions } from '../client/read.js';
import { useStandpoint } from '../client/standpoint.js';
import { TakeList } from './take-list.js';
import { usePhone } from './use-phone.js';
import type { Seen } from '../client/change.js';
import type { Choice } from './choice.js';
import { ListHead, PhoneOrder } from './list-head.js';
import { Cells } from './list-row.js';
import { idOf, useListTable, type Column, type ListRow } from './list-table.js';

const WINDOW = 100;
/** What of the address bar narrows or orders a list. */
const KEPT = new Set([
  'q',
  'sort',
  'order',
  'state',
  'hostId',
  'networkId',
  'profileId',
  'groupId',
  'poolId',
  'siteId',
]);
const ROW = 32;
/** Two lines on a phone: the name, and what else is known. */
const PHONE_ROW = 54;

/** Lists of the contract that are shown in this way. */
export type RecordLists = 'hosts' | 'networks' | 'guests' | 'migrations';

/** What was answered, window by window. */
const pagesOf = (results: UseQueryResult[]) => results.map(({ data }) => data);

export function RecordList<T extends Seen>({
  area,
  columns,
  empty,
  nameOf,
  narrow,
  filter,
  chosen,
}: {
  area: RecordLists;
  columns: Column<T>[];
  empty: ReactNode;
  nameOf: (row: T) => string;
  narrow: boolean;
  filter?: ReactNode;
  chosen?: Choice;
}) {
  const [search] = useSearchParams();
  const { id: openId } = useParams();
  const go = useNavigate();
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const phone = usePhone();
  const height = phone ? PHONE_ROW : ROW;
  const query = Object.fromEntries([...search].filter(([name]) => KEPT.has(name)));
  // Read anew when the standpoint alters.
  useStandpoint();
  const windowAt = (from: number) =>
    readOptions(area, { ...query, from, take: WINDOW } as ReadQuery<RecordLists>, { keep: true });
  const head = useQuery(windowAt(0)) as UseQueryResult<ListWindow<T>>;
  const total = head.data?.total ?? 0;
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 12,
  });
  useEffect(() => virtual.measure(), [virtual, height]);
  const shown = virtual.getVirtualItems();
  const windows = [...new Set(shown.map((item) => Math.floor(item.index / WINDOW) * WINDOW))];
  // Of the first window what stood there before stays in sight until it is read anew.
  const rest = useQueries({
    queries: windows.filter((from) => from > 0).map(windowAt),
    combine: pagesOf,
  }) as (ListWindow<T> | undefined)[];
  const atTop = windows[0] === 0;
  const pages = useMemo(() => (atTop ? [head.data, ...rest] : rest), [atTop, head.data, rest]);
  // A range is chosen among the rows in sight: between others lie rows that nobody has seen.
  const rows = useMemo(() => pages.flatMap((page) => page?.rows ?? []), [pages]);
  const table = useListTable(columns, rows, { narrow, chosen });
  const rowAt = (index: number): ListRow<T> | undefined => {
    const from = Math.floor(index / WINDOW) * WINDOW;
    const row = pages[windows.indexOf(from)]?.rows[index - from];
    return row && table.getRowModel().rowsById[row.id];
  };
  const marks = usePlanMarks();
  const visible = table.getVisibleLeafColumns().map(({ columnDef }) => columnDef.meta!);
  const ticks = chosen ? '18px ' : '';
  const template = phone
    ? `${ticks}1fr auto`
    : `${ticks}${visible.map((column) => column.width).join(' ')}`;
  const open = (row: ListRow<T> | undefined) => {
    if (row) void go({ pathname: `/${area}/${row.id}`, search: search.toString() });
  };
  useEffect(() => {
    const index = head.data?.rows.findIndex((row) => row.id === openId) ?? -1;
    if (index >= 0) setAt(index);
  }, [openId, head.data]);
  const onKeyDown = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 320) / height) - 1);
    const move: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      Home: 0,
      End: total - 1,
      PageDown: at + page,
      PageUp: at - page,
    };
    const to = move[event.key];
    if (to !== undefined) {
      event.preventDefault();
      const next = Math.max(0, Math.min(total - 1, to));
      setAt(next);
      void virtual.scrollToIndex(next);
    } else if (event.key === 'Enter') open(rowAt(at));
    else if (event.key.toLowerCase() === 'x' && chosen) {
      const row = rowAt(at);
      const { shiftKey } = event;
      row?.getToggleSelectedHandler()({ target: { checked: !row.getIsSelected() }, shiftKey });
    }
  };
  return (
    <div className="flex h-full min-h-0 flex-col">
      {filter}
      {phone && <PhoneOrder table={table} />}
      <div
        role="grid"
        aria-label={area}
        aria-rowcount={total}
        className="flex min-h-0 flex-1 flex-col"
      >
        <ListHead
          table={table}
          template={template}
          height={ROW}
          ticks={chosen !== undefined}
          phone={phone}
        />
        <div
          ref={scroller}
          data-list
          tabIndex={0}
          role="rowgroup"
          aria-label={`${area}, arrows move, Enter opens`}
          className="min-h-0 flex-1 overflow-y-auto"
          onKeyDown={onKeyDown}
        >
          {total === 0 && !head.isPending && <div className="p-4 text-faint">{empty}</div>}
          {head.error && <div className="p-4 text-signal">{head.error.message}</div>}
          <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {shown.map((item) => {
              const row = rowAt(item.index);
              const current = row?.id === openId;
              return (
                <div
                  key={item.index}
                  role="row"
                  aria-rowindex={item.index + 1}
                  aria-selected={current}
                  data-at={item.index === at || undefined}
                  className={`absolute inset-x-0 grid cursor-pointer items-center gap-2 border-b border-rule px-2 ${current ? 'bg-water font-bold shadow-[inset_3px_0_0_var(--teal)]' : ''} ${item.index === at && !current ? 'bg-sand/50' : ''}`}
                  style={{
                    gridTemplateColumns: template,
                    height,
                    transform: `translateY(${item.start}px)`,
                  }}
                  onClick={() => open(row)}
                >
                  {row && chosen && (
                    <span role="gridcell">
                      <input
                        type="checkbox"
                        aria-label={`Choose ${nameOf(row.original)}`}
                        checked={row.getIsSelected()}
                        onClick={(event) => event.stopPropagation()}
                        onChange={row.getToggleSelectedHandler()}
                      />
                    </span>
                  )}
                  {row ? (
                    <Cells
                      row={row}
                      name={nameOf(row.original)}
                      phone={phone}
                      mark={<PencilMark how={marks.get(row.id)} />}
                    />
                  ) : (
                    <span role="gridcell" className="text-faint">
                      …
                    </span>
                  )}
                </div>
              );
            })}
          </div>
        </div>
      </div>
      <div className="no-print flex justify-between gap-3 border-t border-rule px-2 py-0.5 text-xs text-faint">
        <span>{total.toLocaleString('en-GB')} in the list</span>
        <TakeList<T>
          name={area}
          total={total}
          columns={columns.filter((column) => table.getColumn(idOf(column))?.getIsVisible())}
          page={(from, take) =>
            read(area, { ...query, from, take } as ReadQuery<RecordLists>) as unknown as Promise<
              ListWindow<T>
            >
          }
        />
      </div>
    </div>
  );
}
