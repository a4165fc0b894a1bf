/** What was understood of a pasted table, and what was not. */
import { counted } from '@insel/core';
import { Link } from 'react-router';
import { Field } from '../field.js';
import { Progress } from '../progress.js';
import {
  type TableKind,
  type TableDraft,
  type ReadTable,
  MOST_ROWS,
  textOf,
} from './read-table.js';

/** A longer text is not shown in its field: the rows stand below. */

const LONG_TEXT = 200000;

export function Pasted<C extends string>({
  kind,
  draft: { text },
  table: { body, faults, over },
  begin,
}: {
  kind: TableKind<C>;
  draft: TableDraft<C>;
  table: ReadTable<C>;
  begin: (text: string) => void;
}) {
  const read = `${counted(body.length, 'row')}, ${faults ? `${counted(faults, 'cell')} to mend` : 'every cell was read'}`;
  return (
    <>
      {text.length > LONG_TEXT ? (
        <p className="mb-1">
          {read}.{' '}
          <button type="button" className="act" onClick={() => begin('')}>
            Begin with another table
          </button>
        </p>
      ) : (
        <Field
          label="Rows copied from a spreadsheet, or CSV, with a line of headings"
          hint={text ? read : `${kind.needed} are needed; the rest is optional`}
        >
          <textarea
            autoFocus
            className="mono h-28 w-full text-[12px]"
            placeholder={kind.example}
            value={text}
            onChange={(event) => begin(event.target.value)}
          />
        </Field>
      )}
      {over > 0 && (
        <p className="font-bold text-amber">
          ◆ At most {MOST_ROWS.toLocaleString('en-GB')} rows are taken in at once;{' '}
          {over.toLocaleString('en-GB')} more were left out.
        </p>
      )}
      <p className="my-1">
        <input
          type="file"
          aria-label="A CSV file"
          accept=".csv,.tsv,.txt,text/csv"
          onChange={(event) =>
            void textOf(event.target.files?.[0]).then((read) => read !== null && begin(read))
          }
        />
      </p>
    </>
  );
}

/** How many cells are to be mended, and where the next one is. */
export function Faults<C extends string>({
  table: { faulty, unsaid },
  looking,
  setLooking,
}: {
  table: ReadTable<C>;
  looking: { faultsOnly: boolean; at: number | null };
  setLooking: (looking: { faultsOnly: boolean; at: number | null }) => void;
}) {
  if (faulty.length + unsaid.length === 0) return null;
  const next = faulty.find((n) => n > (looking.at ?? -1)) ?? faulty[0] ?? null;
  return (
    <p className="my-1 flex flex-wrap items-baseline gap-x-4">
      {unsaid.map(({ column, example }) => (
        <span key={column} className="font-bold text-signal">
          {example}: say at its head how column {column} writes numbers.
        </span>
      ))}
      {faulty.length > 0 && (
        <>
          <span className="font-bold text-signal">
            {counted(faulty.length, 'row')} with a cell to mend.
          </span>
          <button
            type="button"
            className="act"
            onClick={() => setLooking({ ...looking, at: next })}
          >
            Next one, row {(next ?? 0) + 1}
          </button>
          <label className="flex items-baseline gap-1">
            <input
              type="checkbox"
              checked={looking.faultsOnly}
              onChange={(event) => setLooking({ ...looking, faultsOnly: event.target.checked })}
            />
            only these
          </label>
        </>
      )}
    </p>
  );
}

export function FarSoFar({
  importId,
  done,
  of,
  rows,
  busy,
  stop,
}: {
  importId: string;
  done: number;
  of: number;
  rows: number;
  busy: boolean;
  stop: () => void;
}) {
  return (
    <p role="status" className="my-2 flex flex-wrap items-baseline gap-4">
      <Progress label="Parts recorded" value={done} max={of} />
      {done} of {counted(of, 'part')}, {counted(rows, 'row')} recorded{busy ? '' : ': stopped'}.
      {busy ? (
        <button type="button" className="act" onClick={stop}>
          Stop after this part
        </button>
      ) : (
        <Link className="act" to={`/log?importId=${importId}`}>
          What was recorded
        </Link>
      )}
    </p>
  );
}
