/** Many rows from a spreadsheet: paste, say which column is what, see every cell as it was read, record all or none. */
import {
  notationOf,
  plainNumber,
  type Input,
  type ColumnNotation,
  type NumberNotation,
  type TableRow,
} from '@insel/core';
import Papa from 'papaparse';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useDraft } from '../frame/draft.js';
import { useChange } from '../frame/change.js';
import { Making } from './area.js';
import { Consequences, Sending, usePreview } from './consequences.js';
import { Field } from './field.js';
import { fused } from './list-text.js';
import { ProblemNote } from './problem.js';

/** More rows at once would be a plan of its own. */
const MOST = 500;

export interface TableKind<C extends string> {
  /** "hosts": name of the list in the request, of its path and of its area. */
  many: 'hosts' | 'guests';
  one: 'host' | 'guest';
  example: string;
  needed: string;
  columns: readonly C[];
  /** Those whose cells begin with a number. */
  numbers: readonly C[];
  guess: (headings: readonly string[]) => (C | null)[];
  read: (rows: string[][], columns: (C | null)[]) => TableRow<C>[];
}

export function TablePaste<C extends string>({ kind }: { kind: TableKind<C> }) {
  const go = useNavigate();
  const [draft, set, forget] = useDraft(`${kind.one}-table`, () => ({
    text: '',
    columns: null as (C | null)[] | null,
    /** What was said of a column whose numbers can be read both ways. */
    notations: {} as Partial<Record<C, NumberNotation>>,
    reason: '',
    override: '',
  }));
  const { make, busy, problem } = useChange();
  const [tried, setTried] = useState(false);
  const cells = Papa.parse<string[]>(draft.text.trim(), { skipEmptyLines: 'greedy' })
    .data.slice(0, MOST + 1)
    .map((row) => row.map(fused));
  const [header = [], ...body] = cells;
  const columns = draft.columns?.length === header.length ? draft.columns : kind.guess(header);
  const notations = new Map(
    columns.flatMap((column, i) =>
      column && kind.numbers.includes(column)
        ? [[column, notationOf(body.map((row) => row[i] ?? ''))] as const]
        : [],
    ),
  );
  const said = (column: C): NumberNotation | undefined => {
    const found = notations.get(column);
    return found && ('settled' in found ? found.settled : draft.notations[column]);
  };
  const plain = body.map((row) =>
    row.map((cell, i) => {
      const notation = columns[i] ? said(columns[i]) : undefined;
      return notation ? plainNumber(cell, notation) : cell;
    }),
  );
  const unsaid = [...notations].flatMap(([column, found]) =>
    'asked' in found && !draft.notations[column] ? [{ column, example: found.asked }] : [],
  );
  const rows = kind.read(plain, columns).map((row, n) => ({
    ...row,
    errors: [
      ...unsaid.flatMap(({ column, example }) =>
        n === 0
          ? [{ column, sentence: `${example}: say at its head how this column writes numbers.` }]
          : [],
      ),
      ...row.errors,
    ],
  }));
  const faults = rows.reduce((sum, row) => sum + row.errors.length, 0);
  const type = `${kind.one}.record-many` as const;
  const input = { [kind.many]: rows.map((row) => row.body) } as unknown as Input<typeof type>;
  const preview = usePreview(type, rows.length > 0 && faults === 0 ? input : null);
  const send = async () => {
    setTried(true);
    if (faults > 0 || rows.length === 0 || !(await make(type, input, draft))) return;
    forget();
    void go(`/${kind.many}`);
  };
  const refusedRow = problem?.field
    ? Number(new RegExp(`^${kind.many}\\.(\\d+)`).exec(problem.field)?.[1] ?? NaN)
    : NaN;
  return (
    <Making
      title={`Record ${kind.many} from a table`}
      consequences={<Consequences preview={preview} planning={false} />}
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <Field
            label="Rows copied from a spreadsheet, or CSV, with a line of headings"
            hint={
              draft.text
                ? `${body.length} rows, ${faults ? `${faults} cells to mend` : 'every cell was read'}`
                : `${kind.needed} are needed; the rest is optional`
            }
          >
            <textarea
              autoFocus
              className="mono h-36 w-full text-[12px]"
              placeholder={kind.example}
              value={draft.text}
              onChange={(event) => set({ text: event.target.value, columns: null, notations: {} })}
            />
          </Field>
          <p className="my-1">
            <input
              type="file"
              aria-label="A CSV file"
              accept=".csv,.tsv,.txt,text/csv"
              onChange={(event) =>
                void textOf(event.target.files?.[0]).then(
                  (text) => text !== null && set({ text, columns: null, notations: {} }),
                )
              }
            />
          </p>
          {header.length > 0 && (
            <div className="overflow-x-auto">
              <table className="text-left text-[13px]">
                <thead>
                  <tr>
                    <th />
                    {header.map((heading, i) => (
                      <th key={i} className="pr-2 align-bottom">
                        <span className="block text-xs text-faint">{heading}</span>
                        <select
                          aria-label={`What column ${heading} is`}
                          className="w-[110px]"
                          value={columns[i] ?? ''}
                          onChange={(event) =>
                            set({
                              columns: columns.map((column, n) =>
                                n === i ? ((event.target.value || null) as C | null) : column,
                              ),
                            })
                          }
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
                          said={columns[i] ? draft.notations[columns[i]] : undefined}
                          onSaid={(notation) =>
                            set({ notations: { ...draft.notations, [columns[i]!]: notation } })
                          }
                        />
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {body.slice(0, 100).map((row, n) => (
                    <tr
                      key={n}
                      className={`border-t border-rule align-top ${n === refusedRow ? 'bg-water' : ''}`}
                    >
                      <td className="pr-2 text-faint">{n + 1}</td>
                      {header.map((_, i) => {
                        const error = rows[n]?.errors.find((found) => found.column === columns[i]);
                        return (
                          <td
                            key={i}
                            className={`mono pr-3 ${columns[i] ? '' : 'text-faint line-through'}`}
                          >
                            {row[i]}
                            {error && (
                              <span className="block font-sans text-xs font-bold text-signal">
                                {error.sentence}
                              </span>
                            )}
                          </td>
                        );
                      })}
                      <td>
                        {rows[n]?.errors
                          .filter((found) => !columns.includes(found.column))
                          .map((found) => (
                            <span
                              key={found.column}
                              className="block text-xs font-bold text-signal"
                            >
                              {found.sentence}
                            </span>
                          ))}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {body.length > 100 && <p className="text-faint">and {body.length - 100} more rows</p>}
            </div>
          )}
          {tried && faults > 0 && (
            <p role="alert" className="font-bold text-signal">
              ■ {faults} cells could not be read: nothing was recorded. Mend them above.
            </p>
          )}
          {Number.isInteger(refusedRow) && (
            <p className="font-bold text-signal">Row {refusedRow + 1}:</p>
          )}
          <ProblemNote problem={problem} />
          <Sending
            label={`Record ${rows.length} ${rows.length === 1 ? kind.one : kind.many}`}
            busy={busy}
            blocked={Boolean(
              problem?.overridable || preview?.objections.some((found) => found.overridable),
            )}
            reason={draft.reason}
            override={draft.override}
            onReason={(reason) => set({ reason })}
            onOverride={(override) => set({ override })}
            onSend={() => void send()}
          />
        </form>
      }
    />
  );
}

/** Text of a file: UTF-8, or what spreadsheets on old systems write where it is none. */
async function textOf(file: File | undefined): Promise<string | null> {
  if (!file) return null;
  const bytes = await file.arrayBuffer();
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
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
      className={`mt-1 w-[110px] ${said ? '' : 'border-signal'}`}
      value={said ?? ''}
      onChange={(event) => onSaid(event.target.value as NumberNotation)}
    >
      <option value="" disabled>
        {found.asked} is …
      </option>
      <option value="point">as in 1,234.5</option>
      <option value="comma">as in 1.234,5</option>
    </select>
  );
}
