/** Many hosts from a spreadsheet: paste, say which column is what, see every cell as it was read, record all or none. */
import type { HostGroupView, Named, NetworkListRow, RackView } from '@insel/contract';
import { guessColumns, HOST_COLUMNS, readHostTable, type HostColumn } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import Papa from 'papaparse';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { read } from '../../frame/api.js';
import { useDraft } from '../../frame/draft.js';
import { useWrite } from '../../frame/write.js';
import { Making } from '../../ink/area.js';
import { Consequences, Sending, usePreview } from '../../ink/consequences.js';
import { Field } from '../../ink/field.js';
import { ProblemNote } from '../../ink/problem.js';

const EXAMPLE = 'name\tsite\tcores\tmemory\taddress\nskerry-1\tHarbour house\t16\t128 GiB\t172.22.10.31';
/** More rows at once would be a plan of its own. */
const MOST = 500;

export function TablePage() {
  const go = useNavigate();
  const [draft, set, forget] = useDraft('host-table', () => ({ text: '', columns: null as (HostColumn | null)[] | null, reason: '', override: '' }));
  const names = <T extends Named>(path: string) => ({ queryKey: [path], queryFn: () => read<T[]>(path) });
  const sites = useQuery(names<Named>('sites')).data ?? [];
  const platforms = useQuery(names<Named>('platforms')).data ?? [];
  const racks = useQuery(names<RackView>('racks')).data ?? [];
  const groups = useQuery(names<HostGroupView>('host-groups')).data ?? [];
  const networks = useQuery({ queryKey: ['list', 'networks', 'all'], queryFn: () => read<{ rows: NetworkListRow[] }>('networks?take=200') }).data?.rows ?? [];
  const { write, busy, problem } = useWrite();
  const [tried, setTried] = useState(false);
  const cells = Papa.parse<string[]>(draft.text.trim(), { skipEmptyLines: 'greedy' }).data.slice(0, MOST + 1);
  const [header = [], ...body] = cells;
  const columns = draft.columns?.length === header.length ? draft.columns : guessColumns(header);
  const rows = readHostTable(body, columns, { sites, platforms, racks, groups, networks });
  const faults = rows.reduce((sum, row) => sum + row.errors.length, 0);
  const hosts = rows.map((row) => row.body);
  const request = { hosts, ...(draft.reason ? { reason: draft.reason } : {}), ...(draft.override ? { override: draft.override } : {}) };
  const preview = usePreview('hosts/many/preview', rows.length > 0 && faults === 0 ? request : null);
  const send = async () => {
    setTried(true);
    if (faults > 0 || rows.length === 0 || !(await write('hosts/many', { body: request }))) return;
    forget();
    void go('/hosts');
  };
  const rowOf = (field: string | undefined) => (field ? Number(/^hosts\.(\d+)/.exec(field)?.[1] ?? NaN) : NaN);
  const refusedRow = rowOf(problem?.field);
  return (
    <Making
      title="Record hosts from a table"
      consequences={<Consequences preview={preview} planning={false} />}
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <Field label="Rows copied from a spreadsheet, or CSV, with a line of headings" hint={draft.text ? `${body.length} rows, ${faults ? `${faults} cells to mend` : 'every cell was read'}` : 'names, cores and memory are needed; the rest is optional'}>
            <textarea autoFocus className="mono h-36 w-full text-[12px]" placeholder={EXAMPLE} value={draft.text} onChange={(event) => set({ text: event.target.value, columns: null })} />
          </Field>
          <p className="my-1"><input type="file" aria-label="A CSV file" accept=".csv,.tsv,.txt,text/csv" onChange={(event) => void event.target.files?.[0]?.text().then((text) => set({ text, columns: null }))} /></p>
          {header.length > 0 && (
            <div className="overflow-x-auto">
              <table className="text-left text-[13px]">
                <thead>
                  <tr>
                    <th />
                    {header.map((heading, i) => (
                      <th key={i} className="pr-2 align-bottom">
                        <span className="block text-xs text-faint">{heading}</span>
                        <select aria-label={`What column ${heading} is`} className="w-[110px]" value={columns[i] ?? ''} onChange={(event) => set({ columns: columns.map((column, n) => (n === i ? ((event.target.value || null) as HostColumn | null) : column)) })}>
                          <option value="">left out</option>
                          {HOST_COLUMNS.map((column) => <option key={column} value={column} disabled={columns.includes(column) && columns[i] !== column}>{column}</option>)}
                        </select>
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {body.slice(0, 100).map((row, n) => (
                    <tr key={n} className={`border-t border-rule align-top ${n === refusedRow ? 'bg-water' : ''}`}>
                      <td className="pr-2 text-faint">{n + 1}</td>
                      {header.map((_, i) => {
                        const error = rows[n]?.errors.find((found) => found.column === columns[i]);
                        return (
                          <td key={i} className={`mono pr-3 ${columns[i] ? '' : 'text-faint line-through'}`}>
                            {row[i]}
                            {error && <span className="block font-sans text-xs font-bold text-signal">{error.sentence}</span>}
                          </td>
                        );
                      })}
                      <td>{rows[n]?.errors.filter((found) => !columns.includes(found.column)).map((found) => <span key={found.column} className="block text-xs font-bold text-signal">{found.sentence}</span>)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {body.length > 100 && <p className="text-faint">and {body.length - 100} more rows</p>}
            </div>
          )}
          {tried && faults > 0 && <p role="alert" className="font-bold text-signal">■ {faults} cells could not be read: nothing was recorded. Mend them above.</p>}
          {Number.isInteger(refusedRow) && <p className="font-bold text-signal">Row {refusedRow + 1}:</p>}
          <ProblemNote problem={problem} />
          <Sending label={`Record ${rows.length} ${rows.length === 1 ? 'host' : 'hosts'}`} busy={busy} blocked={Boolean(problem?.overridable || preview?.objections.some((found) => found.overridable))} reason={draft.reason} override={draft.override} onReason={(reason) => set({ reason })} onOverride={(override) => set({ override })} onSend={() => void send()} />
        </form>
      }
    />
  );
}
