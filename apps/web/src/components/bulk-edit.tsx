/** The same field for several records at once: chosen in the list, altered in one change. */
import { useState } from 'react';
import { useRead } from '../client/read.js';
import { useChange, type Seen } from '../client/change.js';
import { ProblemNote } from './problem.js';

export interface BulkField {
  field: string;
  title: string;
  /** List whose rows are to choose from. */
  list?: 'hostGroups' | 'sites' | 'racks' | 'platforms' | 'profiles' | 'guestGroups';
  words?: readonly string[];
  /** May be taken away. */
  clearable?: boolean;
  placeholder?: string;
  /** What the typed text means. */
  typed?: (text: string) => unknown;
}

export function BulkEdit({
  type,
  many,
  rows,
  fields,
  clear,
}: {
  type: 'host.edit-many' | 'guest.edit-many';
  many: string;
  rows: readonly Seen[];
  fields: readonly BulkField[];
  clear: () => void;
}) {
  const [name, setName] = useState(fields[0]!.field);
  const [value, setValue] = useState('');
  const field = fields.find((found) => found.field === name)!;
  const named = useRead(field.list ?? 'sites', field.list ? {} : null).data ?? [];
  const { make, busy, problem } = useChange();
  const [reason, setReason] = useState('');
  const options = field.list
    ? named.map((row) => ({ value: row.id, label: row.name }))
    : field.words?.map((word) => ({ value: word, label: word }));
  const typed = (): unknown =>
    value === '' && field.clearable ? null : field.typed ? field.typed(value) : value;
  const send = async () => {
    const input = { ids: rows.map(({ id }) => id), [name]: typed() };
    if (await make(type, input, { seen: rows, reason })) clear();
  };
  return (
    <div
      role="region"
      aria-label={`Edit the chosen ${many}`}
      className="flex flex-wrap items-center gap-2 border-b border-ink bg-water px-2 py-1"
    >
      <b>{rows.length} chosen:</b> set
      <select
        aria-label="Field"
        value={name}
        onChange={(event) => {
          setName(event.target.value);
          setValue('');
        }}
      >
        {fields.map((found) => (
          <option key={found.field} value={found.field}>
            {found.title}
          </option>
        ))}
      </select>
      to
      {options ? (
        <select aria-label="Value" value={value} onChange={(event) => setValue(event.target.value)}>
          <option value="">{field.clearable ? 'none' : 'choose'}</option>
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      ) : (
        <input
          aria-label="Value"
          value={value}
          placeholder={field.placeholder}
          onChange={(event) => setValue(event.target.value)}
        />
      )}
      <input
        aria-label="Reason, for the log"
        placeholder="reason, for the log"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button
        type="button"
        className="press"
        disabled={busy || (value === '' && !field.clearable)}
        onClick={() => void send()}
      >
        Set for all {rows.length}
      </button>
      <button type="button" className="act" onClick={clear}>
        Drop the choice
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Words separated by blanks or commas. */
export const asWords = (text: string): string[] => text.split(/[\s,]+/).filter(Boolean);
