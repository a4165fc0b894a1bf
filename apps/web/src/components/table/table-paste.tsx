/**
 * Many rows from a spreadsheet: paste, say which column is what, see every cell as it was read and mend it where it stands,
 * record all of them or only the good rows. Long tables go in parts.
 */
import { counted, type Input, type NumberNotation } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Making } from '../area.js';
import { Consequences } from '../consequences.js';
import { usePreview } from '../use-preview.js';
import { useKeptForm } from '../kept-form.js';
import { Sending } from '../sending.js';
import { textWithout, useReadTable, type TableDraft, type TableKind } from './read-table.js';
import { ROWS_A_PART, useRecordParts } from './record-parts.js';
import { TableCells } from './table-cells.js';
import { Pasted, Faults, FarSoFar } from './pasted.js';

export function TablePaste<C extends string>({ kind }: { kind: TableKind<C> }) {
  const go = useNavigate();
  const kept = useKeptForm(`${kind.one}-table`, () => ({
    ...FRESH,
    notations: {} as Partial<Record<C, NumberNotation>>,
    columns: null as (C | null)[] | null,
    reason: '',
    override: '',
  }));
  const { values: draft, set, forget } = kept;
  const table = useReadTable(kind, draft);
  const { record, progress, stop, busy, problem } = useRecordParts(kind.one, kind.many);
  const [tried, setTried] = useState(false);
  const [sent, setSent] = useState<Sent>({ chosen: [], recorded: 0 });
  const [looking, setLooking] = useState({ faultsOnly: false, at: null as number | null });
  const good = table.rows.flatMap((row, n) => (row.errors.length === 0 ? [n] : []));
  const whole = table.faults === 0 && table.rows.length > 0;
  const type = `${kind.one}.record-many` as const;
  const input = { [kind.many]: table.rows.map((row) => row.body) } as unknown as Input<typeof type>;
  const preview = usePreview(type, whole && table.rows.length <= ROWS_A_PART ? input : null);
  const begin = (text: string) => set({ ...FRESH, text, columns: null, notations: {} });
  const send = async (chosen: readonly number[]) => {
    setTried(true);
    if (chosen.length === 0 || table.unsaid.length > 0) return;
    const bodies = chosen.map((n) => table.rows[n]!.body);
    const recorded = await record(bodies, { reason: draft.reason, override: draft.override });
    setSent({ chosen, recorded });
    if (recorded === 0) return;
    const gone = new Set(chosen.slice(0, recorded));
    if (gone.size === table.body.length) {
      forget();
      void go(`/${kind.many}`);
    } else
      set({
        ...FRESH,
        text: textWithout(table, gone),
        columns: table.columns,
        notations: draft.notations,
      });
  };
  const refused = refusedRow(kind.many, problem?.field, sent);
  return (
    <Making
      title={`Record ${kind.many} from a table`}
      consequences={
        table.rows.length > ROWS_A_PART ? (
          <p>
            {counted(table.rows.length, 'row')} are recorded in parts of {ROWS_A_PART}, one after
            another. It can be stopped; what is recorded stays, and is taken back as one in the log.
          </p>
        ) : (
          <Consequences preview={preview} planning={false} />
        )
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <Pasted kind={kind} draft={draft} table={table} begin={begin} />
          {table.header.length > 0 && (
            <>
              <Faults table={table} looking={looking} setLooking={setLooking} />
              <TableCells
                kind={kind}
                table={table}
                only={looking.faultsOnly ? table.faulty : null}
                at={refused ?? looking.at}
                said={draft.notations}
                onColumn={(i, column) =>
                  set({ columns: table.columns.map((held, n) => (n === i ? column : held)) })
                }
                onSaid={(column, notation) =>
                  set({ notations: { ...draft.notations, [column]: notation } })
                }
                onMend={(key, value) => set({ mended: { ...draft.mended, [key]: value } })}
              />
            </>
          )}
          {tried && table.faults > 0 && (
            <p role="alert" className="font-bold text-signal">
              ■ {counted(table.faults, 'cell')} could not be read: nothing was recorded of{' '}
              {table.faulty.length === 1 ? 'that row' : 'those rows'}. Mend them above.
            </p>
          )}
          {progress && <FarSoFar {...progress} busy={busy} stop={stop} />}
          {refused !== null && <p className="font-bold text-signal">Row {refused + 1}:</p>}
          <Sending
            label={`Record ${table.rows.length} ${table.rows.length === 1 ? kind.one : kind.many}`}
            form={{
              ...kept,
              ...{ busy, problem, preview },
              send: () => send(whole ? [...table.rows.keys()] : []),
            }}
          />
          {table.faulty.length > 0 && good.length > 0 && table.unsaid.length === 0 && (
            <button
              type="button"
              className="act mt-2"
              disabled={busy}
              onClick={() => void send(good)}
            >
              Record only the {counted(good.length, 'good row')}, keep the others here
            </button>
          )}
        </form>
      }
    />
  );
}

/** Rows that were sent, and how many of them were recorded before one was refused: these are no longer in the table. */
interface Sent {
  chosen: readonly number[];
  recorded: number;
}

/** Number of the row that the last part was refused for, in the table as it stands now. */
function refusedRow(many: string, field: string | undefined, { chosen, recorded }: Sent) {
  const inPart = new RegExp(`^${many}\\.(\\d+)`).exec(field ?? '')?.[1];
  const was = inPart === undefined ? undefined : chosen[recorded + Number(inPart)];
  return was === undefined ? null : was - chosen.slice(0, recorded).filter((n) => n < was).length;
}

const FRESH: Pick<TableDraft<string>, 'text' | 'mended'> = { text: '', mended: {} };
