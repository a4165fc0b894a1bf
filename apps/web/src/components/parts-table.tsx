/** A list of parts as a table that is typed into: one row a part, one column a value; rows are added and dropped. */
import type { ReactNode } from 'react';

export interface PartColumn {
  field: string;
  title: string;
  width: string;
  choices?: readonly string[];
  flag?: boolean;
  mono?: boolean;
  placeholder?: string;
}

export type PartRow = Record<string, string | boolean>;

/** Where the sheet is narrow columns give up some of their width, choices more than numbers. */
const trackOf = ({ width, flag, mono }: PartColumn): string =>
  flag ? width : `minmax(calc(${width} * ${mono ? 0.8 : 0.5}), ${width})`;

export function PartsTable({
  title,
  name,
  columns,
  rows,
  set,
  fresh,
  errors,
  children,
}: {
  title: string;
  name: string;
  columns: PartColumn[];
  rows: PartRow[];
  set: (rows: PartRow[]) => void;
  fresh: () => PartRow;
  errors: Record<string, string>;
  children?: ReactNode;
}) {
  const alter = (i: number, field: string, value: string | boolean) =>
    set(rows.map((row, n) => (n === i ? { ...row, [field]: value } : row)));
  const template = `${columns.map(trackOf).join(' ')} 44px`;
  return (
    <section aria-label={title} className="mt-4">
      <h2 className="font-bold">{title}</h2>
      {rows.length > 0 && (
        <div className="grid gap-x-2 text-xs text-faint" style={{ gridTemplateColumns: template }}>
          {columns.map((column) => (
            <span key={column.field}>{column.title}</span>
          ))}
        </div>
      )}
      {rows.map((row, i) => (
        <div key={i}>
          <div
            className="grid items-center gap-x-2 py-0.5"
            style={{ gridTemplateColumns: template }}
          >
            {columns.map((column) => (
              <Cell
                key={column.field}
                column={column}
                label={`${column.title} of ${name} ${i + 1}`}
                value={row[column.field] ?? ''}
                invalid={Boolean(errors[`${i}.${column.field}`])}
                onChange={(value) => alter(i, column.field, value)}
              />
            ))}
            <button
              type="button"
              className="act"
              aria-label={`Drop ${name} ${i + 1}`}
              onClick={() => set(rows.filter((_, n) => n !== i))}
            >
              Drop
            </button>
          </div>
          {columns.map(
            (column) =>
              errors[`${i}.${column.field}`] && (
                <p key={column.field} className="text-xs font-bold text-signal">
                  {column.title}: {errors[`${i}.${column.field}`]}
                </p>
              ),
          )}
        </div>
      ))}
      <p className="flex gap-4">
        <button type="button" className="act" onClick={() => set([...rows, fresh()])}>
          Add {name === 'array' ? 'an' : 'a'} {name}
        </button>
        {rows.length > 0 && (
          <button
            type="button"
            className="act"
            onClick={() => set([...rows, next(rows.at(-1)!, columns[0]!.field)])}
          >
            Same again
          </button>
        )}
        {children}
      </p>
    </section>
  );
}

/** The same part once more, its first value counted on. */
function next(row: PartRow, key: string): PartRow {
  const value = String(row[key]);
  const counted = /\d+$/.test(value)
    ? value.replace(/\d+$/, (digits) => String(Number(digits) + 1).padStart(digits.length, '0'))
    : `${value} 2`;
  return {
    ...row,
    [key]: counted,
    ...('serial' in row ? { serial: '' } : {}),
    ...('mac' in row ? { mac: '' } : {}),
  };
}

function Cell({
  column,
  label,
  value,
  invalid,
  onChange,
}: {
  column: PartColumn;
  label: string;
  value: string | boolean;
  invalid: boolean;
  onChange: (value: string | boolean) => void;
}) {
  const common = { 'aria-label': label, 'aria-invalid': invalid || undefined };
  if (column.flag)
    return (
      <input
        type="checkbox"
        {...common}
        checked={value === true}
        onChange={(event) => onChange(event.target.checked)}
      />
    );
  if (column.choices)
    return (
      <select
        {...common}
        title={String(value)}
        value={String(value)}
        onChange={(event) => onChange(event.target.value)}
      >
        {column.choices.map((choice) => (
          <option key={choice} value={choice}>
            {choice || '–'}
          </option>
        ))}
      </select>
    );
  return (
    <input
      {...common}
      className={`w-full ${column.mono ? 'mono' : ''}`}
      placeholder={column.placeholder}
      value={String(value)}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** The end of a table that is typed into. */
export const KeepParts = ({
  label,
  busy,
  keep,
  drop,
}: {
  label: string;
  busy: boolean;
  keep: () => Promise<unknown>;
  drop: () => void;
}) => (
  <p className="mt-1 flex gap-4">
    <button type="button" className="press" disabled={busy} onClick={() => void keep()}>
      {label}
    </button>
    <button type="button" className="act" onClick={drop}>
      Drop what I typed
    </button>
  </p>
);
