/** A list of any length: only the rows in sight exist, windows are fetched where they are needed. Arrows move, Enter opens. */
import type { ListWindow, ReadQuery } from '@insel/contract';
import { useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { PencilMark, usePlanMarks } from '../frame/in-plan.js';
import { read, readOptions } from '../frame/read.js';
import { useStandpoint } from '../frame/standpoint.js';
import { addressNow } from '../frame/url-state.js';
import { TakeList } from './take-list.js';
import { usePhone, useWide } from './use-phone.js';
import type { Seen } from '../frame/change.js';
import { sideOf, Cells, type Column } from './list-row.js';

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
  chosen?: { rows: ReadonlyMap<string, Seen>; toggle: (row: Seen) => void };
}) {
  const [search, setSearch] = useSearchParams();
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
  const windows = [
    ...new Set(shown.map((item) => Math.floor(item.index / WINDOW) * WINDOW)),
  ].filter((from) => from > 0);
  const rest = useQueries({
    queries: windows.map(windowAt),
  }) as UseQueryResult<ListWindow<T>>[];
  const rowAt = (index: number): T | undefined => {
    const from = Math.floor(index / WINDOW) * WINDOW;
    const page = from === 0 ? head.data : rest[windows.indexOf(from)]?.data;
    return page?.rows[index - from];
  };
  const marks = usePlanMarks();
  const wide = useWide();
  const visible = columns.filter(
    (column) => !((narrow || phone) && column.spare) && !(column.wide && !wide),
  );
  const ticks = chosen ? '18px ' : '';
  const template = phone
    ? `${ticks}1fr auto`
    : `${ticks}${visible.map((column) => column.width).join(' ')}`;
  const open = (row: T | undefined) => {
    if (row) void go({ pathname: `/${area}/${row.id}`, search: search.toString() });
  };
  const sorted = search.get('sort') ?? '';
  const sortBy = (column: Column<T>) => {
    const next = addressNow();
    const again = search.get('sort') === column.sort && search.get('order') !== 'down';
    next.set('sort', column.sort!);
    next.set('order', again ? 'down' : 'up');
    setSearch(next);
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
    else if (event.key === 'x' && chosen) {
      const row = rowAt(at);
      if (row) chosen.toggle(row);
    }
  };
  return (
    <div className="flex h-full min-h-0 flex-col">
      {filter}
      {phone && (
        <div className="no-print flex items-center gap-2 border-b border-ink px-2 py-1 text-[13px]">
          <select
            aria-label="In the order of"
            value={sorted}
            onChange={(event) => {
              const next = addressNow();
              if (event.target.value) next.set('sort', event.target.value);
              else next.delete('sort');
              next.delete('order');
              setSearch(next);
            }}
          >
            <option value="">in the usual order</option>
            {columns.map(
              ({ sort, title }) =>
                sort && (
                  <option key={sort} value={sort}>
                    by {title.toLowerCase()}
                  </option>
                ),
            )}
          </select>
          {sorted && (
            <button
              type="button"
              className="act"
              onClick={() => sortBy({ sort: sorted } as Column<T>)}
            >
              {search.get('order') === 'down' ? 'last to first' : 'first to last'}
            </button>
          )}
        </div>
      )}
      <div
        role="grid"
        aria-label={area}
        aria-rowcount={total}
        className="flex min-h-0 flex-1 flex-col"
      >
        <div
          role="row"
          className={`grid items-center gap-2 border-b border-ink px-2 text-xs font-bold ${phone ? 'sr-only' : ''}`}
          style={{ gridTemplateColumns: template, height: ROW }}
        >
          {chosen && (
            <span role="columnheader">
              <span className="sr-only">Chosen</span>
            </span>
          )}
          {visible.map((column, i) => (
            <span
              key={column.title}
              role="columnheader"
              aria-sort={
                search.get('sort') === column.sort && column.sort
                  ? search.get('order') === 'down'
                    ? 'descending'
                    : 'ascending'
                  : undefined
              }
              className={`whitespace-nowrap ${sideOf(visible, i)}`}
            >
              {column.sort ? (
                <button
                  type="button"
                  className="cursor-pointer font-bold"
                  onClick={() => sortBy(column)}
                >
                  {column.title}
                  {search.get('sort') === column.sort
                    ? search.get('order') === 'down'
                      ? ' ↓'
                      : ' ↑'
                    : ''}
                </button>
              ) : (
                column.title
              )}
            </span>
          ))}
        </div>
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
                        aria-label={`Choose ${nameOf(row)}`}
                        checked={chosen.rows.has(row.id)}
                        onClick={(event) => event.stopPropagation()}
                        onChange={() => chosen.toggle(row)}
                      />
                    </span>
                  )}
                  {row ? (
                    <Cells
                      row={row}
                      columns={visible}
                      name={nameOf(row)}
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
          columns={visible}
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
