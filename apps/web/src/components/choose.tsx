/** A record chosen by typing part of its name: for lists too long for a menu. Arrows move, Enter takes, Esc leaves. */
import type { ListWindow, Named, ReadQuery } from '@insel/contract';
import type { Row } from '@insel/core';
import type { UseQueryResult } from '@tanstack/react-query';
import { useEffect, useId, useRef, useState, type KeyboardEvent } from 'react';
import { useRead } from '../client/read.js';

const SHOWN = 12;
/** The read of one row of a list; its answer holds the row under this name. */
const ONE_OF = {
  hosts: 'host',
  guests: 'guest',
  networks: 'network',
  machines: 'machine',
  devices: 'device',
} as const;

export interface Choosing<T extends Named> {
  /** List that is searched. */
  list: keyof typeof ONE_OF;
  value: string;
  onChange: (id: string, row: T | null) => void;
  /** What stands behind a name. */
  detail?: (row: T) => string;
  /** What narrows the list. */
  query?: ReadQuery<'guests'> & { kind?: Row<'device'>['kind'] };
  /** First row of the list is taken by itself while nothing is chosen. */
  takeFirst?: boolean;
  label?: string;
  placeholder?: string;
  id?: string;
  'aria-invalid'?: boolean;
  'aria-describedby'?: string;
}

export function Choose<T extends Named>({
  list,
  value,
  onChange,
  detail,
  query,
  takeFirst = false,
  label,
  placeholder = 'type part of a name',
  ...rest
}: Choosing<T>) {
  const [text, setText] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const listId = useId();
  const field = useRef<HTMLInputElement>(null);
  const wanted = { ...query, q: text ?? '', take: SHOWN };
  const found = useRead(list, wanted, { keep: true }) as UseQueryResult<
    ListWindow<Named>
  > as UseQueryResult<ListWindow<T>>;
  const one = ONE_OF[list];
  const unseen = value !== '' && !found.data?.rows.some((row) => row.id === value);
  const chosen = useRead(one, unseen ? { id: value } : null).data as
    Record<string, Named | undefined> | undefined;
  const rows = found.data?.rows ?? [];
  const name = rows.find((row) => row.id === value)?.name ?? chosen?.[one]?.name ?? '';
  const first = rows[0];
  useEffect(() => {
    if (takeFirst && value === '' && text === null && first) onChange(first.id, first);
  }, [takeFirst, value, text, first, onChange]);
  const take = (row: T | undefined) => {
    if (row) onChange(row.id, row);
    setText(null);
    setAt(0);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') return setText(null);
    if (text === null && event.key === 'ArrowDown') return setText('');
    if (text === null) return;
    const to = { ArrowDown: at + 1, ArrowUp: at - 1 }[event.key];
    if (to !== undefined) setAt(Math.max(0, Math.min(rows.length - 1, to)));
    else if (event.key === 'Enter') take(rows[at]);
    else return;
    event.preventDefault();
  };
  const open = text !== null;
  return (
    <span className="relative block">
      <input
        {...rest}
        ref={field}
        role="combobox"
        aria-label={label}
        aria-expanded={open}
        aria-controls={listId}
        aria-activedescendant={open && rows[at] ? `${listId}-${at}` : undefined}
        autoComplete="off"
        className="w-full"
        placeholder={placeholder}
        value={text ?? name}
        onFocus={(event) => event.target.select()}
        onClick={() => setText((held) => held ?? '')}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onBlur={() =>
          setTimeout(() => document.activeElement !== field.current && setText(null), 150)
        }
        onKeyDown={onKeyDown}
      />
      <ul
        id={listId}
        role="listbox"
        aria-label={`Found ${list}`}
        hidden={!open}
        className="absolute z-40 mt-0.5 max-h-72 w-full min-w-[220px] overflow-y-auto border border-ink bg-raised"
      >
        {rows.map((row, i) => (
          <li
            key={row.id}
            id={`${listId}-${i}`}
            role="option"
            aria-selected={i === at}
            className={`flex cursor-pointer justify-between gap-3 px-2 py-1 ${i === at ? 'bg-water' : ''}`}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => take(row)}
          >
            <b className="truncate">{row.name}</b>
            <span className="truncate text-faint">{detail?.(row)}</span>
          </li>
        ))}
        {rows.length === 0 && <li className="px-2 py-1 text-faint">nothing of that name</li>}
        {(found.data?.total ?? 0) > rows.length && (
          <li className="px-2 py-1 text-xs text-faint">
            {rows.length} of {found.data!.total}: type more of the name
          </li>
        )}
      </ul>
    </span>
  );
}
