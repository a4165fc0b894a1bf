/** A pasted list of names, addresses and MACs, hundreds of lines with all their faults: seen first, then taken as it is. */
import { useNavigate } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { Making } from '../../components/area.js';
import { useChangeForm } from '../../components/change-form.js';
import { useKeptForm } from '../../components/kept-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../client/read.js';
import { useSettled } from '../../components/use-settled.js';
import { NamedSelect } from '../../components/named-select.js';

export function ListPage() {
  const go = useNavigate();
  const mayPlan = useMayPlan();
  const kept = useKeptForm('address-list', () => ({ text: '', networkId: '', reason: '' }));
  const { values: draft, set, held } = kept;
  const settled = useSettled(draft.text, 300);
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const seen = useRead('listPreview', settled.trim() ? { text: settled } : null, { once: true });
  const rows = settled.trim() ? (seen.data?.rows ?? []) : [];
  const count = (does: string) => rows.filter((row) => row.does === does).length;
  const { send, busy, problem } = useChangeForm(kept, {
    type: 'list.take',
    read: ({ text, networkId }) => [{ text, networkId: networkId || null }],
    sent: () => void go('/networks/devices'),
  });
  return (
    <Making
      title="Take a list in"
      consequences={
        <>
          <p className="text-faint">
            A name, an address, a MAC on each line, in any order. Nothing is refused for being
            wrong: an unknown name becomes a device, an address is recorded as found, and every
            fault becomes one finding.
          </p>
          {rows.length > 0 && (
            <dl className="mt-2 grid grid-cols-[1fr_60px] gap-y-0.5">
              <dt>New equipment</dt>
              <dd className="mono text-right">{count('new device')}</dd>
              <dt>Addresses on known machines</dt>
              <dd className="mono text-right">{count('address on a known machine')}</dd>
              <dt>Known already</dt>
              <dd className="mono text-right">{count('known already')}</dd>
              <dt>Equipment to look at</dt>
              <dd className="mono text-right">{count('device to look at')}</dd>
              <dt className="font-bold">Faults kept as findings</dt>
              <dd className="mono text-right font-bold">{seen.data?.faults ?? 0}</dd>
            </dl>
          )}
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <Field label="Lines copied from wherever they are" of={held('text')}>
            <textarea
              autoFocus
              className="mono h-40 w-full text-[12px]"
              placeholder={'annex-ap 172.22.14.60 00-00-5E-00-53-A1\nlamp-camera, 172.22.14.61'}
            />
          </Field>
          <p className="my-1">
            <input
              type="file"
              aria-label="A text file"
              accept=".txt,.csv,text/*"
              onChange={(event) =>
                void event.target.files?.[0]?.text().then((text) => set({ text }))
              }
            />
          </p>
          <div className="grid max-w-[640px] grid-cols-2 gap-3">
            <Field label="Network, where the address does not tell" of={held('networkId')}>
              <NamedSelect rows={networks} none="none" />
            </Field>
            <Field label="Reason, for the log" of={held('reason')}>
              <input />
            </Field>
          </div>
          {mayPlan && (
            <button
              type="button"
              className="press my-2"
              disabled={busy || rows.length === 0}
              onClick={() => void send()}
            >
              Take {rows.length || 'the'} lines in
            </button>
          )}
          {seen.error && <p className="text-signal">{seen.error.message}</p>}
          <ProblemNote problem={problem} />
          {rows.length > 0 && (
            <table className="mt-2 w-full text-left text-[13px]">
              <thead>
                <tr className="border-b border-ink">
                  <th className="w-[40px]">Line</th>
                  <th>Name</th>
                  <th>Address</th>
                  <th>MAC</th>
                  <th>What comes of it</th>
                </tr>
              </thead>
              <tbody>
                {rows.slice(0, 500).map((row) => (
                  <tr key={row.line} className="border-b border-rule align-top">
                    <td className="mono text-faint">{row.line}</td>
                    <td>{row.name || <span className="text-faint">–</span>}</td>
                    <td className="mono">{row.ip ?? <span className="text-faint">–</span>}</td>
                    <td className="mono">{row.mac ?? <span className="text-faint">–</span>}</td>
                    <td>
                      {row.does}
                      {row.known && ` (${row.known.kind} ${row.known.name})`}
                      {row.unread.map((fault) => (
                        <span key={fault} className="block text-amber">
                          ◆ {fault}
                        </span>
                      ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {rows.length > 500 && (
            <p className="text-faint">The first 500 of {rows.length} are shown; all are taken.</p>
          )}
        </form>
      }
    />
  );
}
