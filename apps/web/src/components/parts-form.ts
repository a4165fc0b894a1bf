/** Parts of a row typed as a table, opened by a button: read, checked and sent together. */
import type { ChangeType } from '@insel/core';
import type { MakeOptions } from '../client/change.js';
import type { Errors } from './field.js';
import { useLineForm } from './line-form.js';
import type { PartRow } from './parts-table.js';

interface PartsMaking<T extends ChangeType> {
  type: T;
  /** Whose parts they are. */
  id: string;
  /** Field of what is sent that holds them. */
  list: string;
  /** The parts, and what cannot be read of a row: by number and column, "3.size". */
  read: (rows: readonly PartRow[]) => { parts: object[]; faults: Errors };
  /** Columns by the field of a part, where they are named otherwise. */
  columns?: Record<string, string>;
  options?: MakeOptions;
}

export function usePartsForm<T extends ChangeType>({
  type,
  id,
  list,
  read,
  columns = {},
  options,
}: PartsMaking<T>) {
  const form = useLineForm(() => ({ rows: [] as PartRow[] }), {
    type,
    read: ({ rows }) => {
      const { parts, faults } = read(rows);
      const named = Object.entries(faults).map(([at, why]) => [`${list}.${at}`, why]);
      return [{ id, [list]: parts }, Object.fromEntries(named) as Errors];
    },
    options,
  });
  const { rows } = form.values;
  const set = (next: PartRow[]) => form.set({ rows: next });
  const begin = (held: PartRow[]) => {
    form.begin();
    set(held);
  };
  // What cannot be read is said while it is typed, what does not hold once it was to be sent.
  const errors: Errors = { ...form.errors };
  for (const [at, why] of Object.entries(read(rows).faults)) errors[`${list}.${at}`] = why;
  const byCell = Object.entries(errors).flatMap(([path, why]) => {
    const [, row, field] = new RegExp(`^${list}\\.(\\d+)\\.(\\w+)`).exec(path) ?? [];
    return row ? [[`${row}.${columns[field!] ?? field}`, why]] : [];
  });
  return { ...form, rows, set, begin, errors: Object.fromEntries(byCell) as Errors };
}
