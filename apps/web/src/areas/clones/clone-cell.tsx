/** Cells of the table of clones that are typed in. */
import { type ClipboardEvent, useState } from 'react';
import { read } from '../../client/read.js';

/** The cell that a field of the change is altered by: the first whose pattern it has. */
const CELL_OF: readonly [RegExp, Column][] = [
  [/mac$/, 'mac'],
  [/address|ip$/, 'ip'],
  [/pool/i, 'poolId'],
  [/vcpu/, 'vcpu'],
  [/memory/i, 'memory'],
  [/host|network|processor/i, 'hostId'],
];

/** What somebody wrote into a row instead of what follows from the form. */
export interface CloneCells {
  name?: string;
  hostId?: string;
  poolId?: string;
  ip?: string;
  mac?: string;
  vcpu?: string;
  memory?: string;
}

export type Cells = Record<string, CloneCells>;
export type Column = keyof CloneCells;

export const COLUMNS: readonly Column[] = [
  'name',
  'hostId',
  'poolId',
  'ip',
  'mac',
  'vcpu',
  'memory',
];

/** Cells that are chosen from a list: arrows walk through it. */
export const CHOSEN: readonly Column[] = ['hostId', 'poolId'];

export const columnOf = (field: string): Column =>
  CELL_OF.find(([pattern]) => pattern.test(field))?.[1] ?? 'name';

/** A row with one cell written; an empty one follows from the form again. */
export function written(row: CloneCells | undefined, column: Column, value: string): CloneCells {
  const { [column]: _, ...rest } = row ?? {};
  return value === '' ? rest : { ...rest, [column]: value };
}

export async function hostCalled(name: string): Promise<string | null> {
  const { rows } = await read('hosts', { q: name, take: 50 });
  return rows.find((host) => host.name.toLowerCase() === name.toLowerCase())?.id ?? null;
}

/** A value that follows from the form until somebody writes another; emptied, it follows again once it is left. */
export function Cell({
  label,
  own,
  follows,
  mono,
  invalid,
  onValue,
  onPaste,
}: {
  label: string;
  own: string | undefined;
  follows: string;
  mono?: boolean;
  invalid?: boolean;
  onValue: (value: string) => void;
  onPaste: (event: ClipboardEvent) => void;
}) {
  const [typing, setTyping] = useState<string | null>(null);
  return (
    <input
      aria-label={label}
      aria-invalid={invalid}
      className={`w-full ${mono ? 'mono' : ''} ${own === undefined ? 'text-pencil' : 'font-bold'}`}
      value={typing ?? own ?? follows}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyping(event.target.value)}
      onPaste={onPaste}
      onBlur={() => {
        if (typing !== null && typing !== (own ?? follows)) onValue(typing.trim());
        setTyping(null);
      }}
    />
  );
}
