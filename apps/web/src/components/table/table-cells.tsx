/** The cells of a pasted table: only the rows in sight exist. A cell is mended where it stands; its fault stands beneath it. */
import type { ColumnNotation, NumberNotation, TableRow } from '@insel/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { cellKey, type ReadTable, type TableKind } from './read-table.js';

const ROW = 30;
const WIDTH = 132;

export function TableCells<C extends string>({
  kind,
  table,
  only,
  at,
  said,
  onColumn,
  onSaid,
  onMend,
}: {
  kind: TableKind<C>;
  table: ReadTable<C>;
  /** Numbers of the rows that are shown; null: all. */
  only: readonly number[] | null;
  /** Row that is brought into sight. */
  at: number | null;
  said: Partial<Record<C, NumberNotation>>;
  onColumn: (i: number, column: C | null) => void;
  onSaid: (column: C, notation: NumberNotation) => void;
  onMend: (key: string, value: string) => void;
}) {
  const { header, body, columns, rows, notations } = table;
  const scroller = useRef<HTMLDivElement>(null);
  const count = only?.length ?? body.length;
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  useEffect(() => {
    if (at === null) return;
    const index = only ? only.indexOf(at) : at;
    if (index >= 0) virtual.scrollToIndex(index, { align: 'center' });
  }, [at, only, virtual]);
  const grid = {
    gridTemplateColumns: `52px repeat(${header.length}, ${WIDTH}px) minmax(120px, 1fr)`,
  };
  const wide = { minWidth: 52 + header.length * WIDTH + 120 };
  return (
    <div
      ref={scroller}
      role="table"
      aria-label={`Rows of the table of ${kind.many}`}
      aria-rowcount={count + 1}
      tabIndex={0}
      className="max-h-[460px] overflow-auto border border-rule text-[13px]"
    >
      <div
        role="row"
        className="sticky top-0 z-10 grid border-b border-ink bg-ground pb-1"
        style={{ ...grid, ...wide }}
      >
        <span role="columnheader" className="text-xs text-faint">
          row
        </span>
        {header.map((heading, i) => (
          <span key={i} role="columnheader" className="pr-2 font-bold">
            <span className="block truncate text-xs text-faint">{heading}</span>
            <select
              aria-label={`What column ${heading} is`}
              className="w-[118px]"
              value={columns[i] ?? ''}
              onChange={(event) => onColumn(i, (event.target.value || null) as C | null)}
            >
              <option value="">left out</option>
              {kind.columns.map((column) => (
                <option
                  key={column}
                  value={column}
                  disabled={columns.includes(column) && columns[i] !== column}
                >
                  {column}
                </option>
              ))}
            </select>
            <Notation
              column={columns[i] ?? null}
              found={columns[i] ? notations.get(columns[i]) : undefined}
              said={columns[i] ? said[columns[i]] : undefined}
              onSaid={(notation) => onSaid(columns[i]!, notation)}
            />
          </span>
        ))}
        <span role="columnheader" />
      </div>
      <div className="relative" style={{ height: virtual.getTotalSize(), ...wide }}>
        {virtual.getVirtualItems().map(({ index, start, key }) => {
          const n = only ? only[index]! : index;
          return (
            <div
              key={key}
              role="row"
              aria-rowindex={index + 2}
              data-index={index}
              ref={virtual.measureElement}
              className={`absolute inset-x-0 top-0 grid border-t border-rule ${n === at ? 'bg-water' : ''}`}
              style={{ ...grid, transform: `translateY(${start}px)` }}
            >
              <span role="cell" className="mono py-1 text-faint">
                {n + 1}
              </span>
              {header.map((_, i) => (
                <Cell
                  key={i}
                  name={`${columns[i] ?? header[i]} of row ${n + 1}`}
                  text={body[n]?.[i] ?? ''}
                  error={rows[n]?.errors.find(({ column }) => column === columns[i])?.sentence}
                  out={columns[i] === null}
                  onMend={(value) => onMend(cellKey(n, i), value)}
                />
              ))}
              <span role="cell">
                <Missing row={rows[n]} columns={columns} />
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Faults of columns that the table does not have. */
function Missing<C extends string>({
  row,
  columns,
}: {
  row: TableRow<C> | undefined;
  columns: readonly (C | null)[];
}) {
  return row?.errors
    .filter(({ column }) => !columns.includes(column))
    .map(({ column, sentence }) => (
      <span key={column} className="block text-xs font-bold text-signal">
        {sentence}
      </span>
    ));
}

function Cell({
  name,
  text,
  error,
  out,
  onMend,
}: {
  name: string;
  text: string;
  error: string | undefined;
  out: boolean;
  onMend: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = (keep: boolean) => {
    if (keep && typed !== null && typed !== text) onMend(typed);
    setTyped(null);
  };
  return (
    <span role="cell" className="min-w-0 pr-2">
      {typed === null ? (
        <button
          type="button"
          aria-label={`Mend ${name}`}
          className={`mono block min-h-[26px] w-full cursor-text truncate text-left ${out ? 'text-faint line-through' : ''} ${error ? 'border-b-2 border-signal' : ''}`}
          onClick={() => setTyped(text)}
        >
          {text}
        </button>
      ) : (
        <input
          autoFocus
          aria-label={name}
          className="mono w-full"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={() => done(true)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') done(true);
            if (event.key === 'Escape') done(false);
          }}
        />
      )}
      {error && <span className="block text-xs font-bold text-signal">{error}</span>}
    </span>
  );
}

/** How a column writes its numbers: said by the column itself, or asked once. */
function Notation({
  column,
  found,
  said,
  onSaid,
}: {
  column: string | null;
  found: ColumnNotation | undefined;
  said: NumberNotation | undefined;
  onSaid: (notation: NumberNotation) => void;
}) {
  if (!found) return null;
  if ('settled' in found)
    return found.settled === 'comma' ? (
      <span className="block text-xs font-normal text-faint">as 1.234,5</span>
    ) : null;
  return (
    <select
      aria-label={`How column ${column} writes numbers`}
      className={`mt-1 w-[118px] ${said ? '' : 'border-signal'}`}
      value={said ?? ''}
      onChange={(event) => onSaid(event.target.value as NumberNotation)}
    >
      <option value="" disabled>
        {found.ambiguous} is …
      </option>
      <option value="point">as in 1,234.5</option>
      <option value="comma">as in 1.234,5</option>
    </select>
  );
}
