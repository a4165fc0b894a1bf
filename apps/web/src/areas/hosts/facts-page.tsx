/** Facts of a machine without typing: a script to run there, its output pasted or sent as a file, what was understood next to what is recorded. */
import type { FactsView, HostListRow, Problem } from '@insel/contract';
import { FACTS_SCRIPT } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../../client/api.js';
import { useUrlState } from '../../client/url-state.js';
import { useChange } from '../../client/change.js';
import { Choose } from '../../components/choose.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { hrefOf, read } from '../../client/read.js';

export function FactsPage() {
  const go = useNavigate();
  const [search, set] = useUrlState();
  const hostId = search.get('host') ?? '';
  const [text, setText] = useState('');
  const [view, setView] = useState<FactsView | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [unread, setUnread] = useState<Problem | null>(null);
  const { make, busy, problem } = useChange();
  const understand = async (pasted: string, forHost = hostId) => {
    setText(pasted);
    setView(null);
    setUnread(null);
    if (!pasted.trim()) return;
    try {
      const found = await read('factsCompared', { text: pasted, hostId: forHost || null });
      setView(found);
      setChosen(new Set(found.rows.filter((row) => row.differs).map((row) => row.field)));
    } catch (error) {
      setUnread(problemOf(error));
    }
  };
  const take = async () => {
    if (await make('host.take-facts', { hostId, text, chosen: [...chosen] }, { seen: view!.host! }))
      void go(`/hosts/${hostId}`);
  };
  const toggle = (field: string) => {
    const next = new Set(chosen);
    if (!next.delete(field)) next.add(field);
    setChosen(next);
  };
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1>Take facts of a machine in</h1>
      <div className="mt-2 grid gap-8 lg:grid-cols-[minmax(320px,430px)_1fr]">
        <section aria-label="The script">
          <p>
            Run this on the machine, from an installed or a live system. It reads only, sends
            nothing, and prints one JSON document. As root it also reads serial numbers and memory
            modules. What lscpu, lsblk --json -b, ip -j, /proc/meminfo or dmidecode print is read as
            well, one after another in one paste.
          </p>
          <p className="my-2 flex gap-4">
            <a className="act" href={hrefOf('factsScript')} download>
              Save facts.sh
            </a>
            <button
              type="button"
              className="act"
              onClick={() => void navigator.clipboard.writeText(FACTS_SCRIPT)}
            >
              Copy the script
            </button>
          </p>
          <pre className="mono text-[13px]">sh facts.sh &gt; facts.json</pre>
          <details className="my-2">
            <summary className="cursor-pointer text-faint">Read it before you run it</summary>
            <pre className="mono max-h-64 overflow-auto border border-rule p-2 text-[11px]">
              {FACTS_SCRIPT}
            </pre>
          </details>
          <p className="text-faint">
            A Redfish system resource, with its processors, memory, drives and Ethernet interfaces
            expanded, is understood as well.
          </p>
          <div className="mt-3 flex flex-col gap-2">
            <Field label="For the host" hint="empty: look only">
              <Choose<HostListRow>
                list="hosts"
                value={hostId}
                onChange={(id) => {
                  set({ host: id });
                  void understand(text, id);
                }}
                detail={(row) => `${row.site}, ${row.state}`}
              />
            </Field>
            <Field label="What it printed">
              <textarea
                className="mono h-40 text-[12px]"
                placeholder="paste here"
                value={text}
                onChange={(event) => void understand(event.target.value)}
              />
            </Field>
            <Field label="Or as a file">
              <input
                type="file"
                accept=".json,application/json,text/plain"
                onChange={(event) =>
                  void event.target.files?.[0]?.text().then((found) => understand(found))
                }
              />
            </Field>
          </div>
        </section>
        <section aria-label="What was understood">
          <ProblemNote problem={unread} />
          {!view && !unread && (
            <p className="text-faint">
              What was understood appears here, field by field, next to what is recorded.
            </p>
          )}
          {view && (
            <>
              {view.facts.isGuest && (
                <p className="mb-2 font-bold text-amber">◆ {view.facts.isGuest}</p>
              )}
              {view.facts.isLaptop && (
                <p className="mb-2 font-bold text-amber">◆ {view.facts.isLaptop}</p>
              )}
              <p className="text-faint">
                {view.facts.hostName ?? 'A machine without a name'}, from the {view.from}.
                Addresses:{' '}
                <span className="mono">
                  {view.facts.addresses
                    .map(({ ip, prefixLength }) => `${ip}/${prefixLength}`)
                    .join(', ') || 'none'}
                </span>
              </p>
              <table className="mt-2 w-full text-left text-[13px]">
                <thead className="text-xs text-faint">
                  <tr>
                    <th className="w-[40px]">Take</th>
                    <th className="w-[150px]">Fact</th>
                    <th>Recorded</th>
                    <th>Understood</th>
                  </tr>
                </thead>
                <tbody>
                  {view.rows.map((row) => (
                    <tr key={row.field} className="border-t border-rule align-top">
                      <td className="py-1">
                        <input
                          type="checkbox"
                          aria-label={`Take ${row.title}`}
                          disabled={!row.differs || !hostId}
                          checked={chosen.has(row.field)}
                          onChange={() => toggle(row.field)}
                        />
                      </td>
                      <td>{row.title}</td>
                      <td className="mono break-all text-faint">{row.recorded || '–'}</td>
                      <td className={`mono break-all ${row.differs ? 'font-bold' : 'text-faint'}`}>
                        {row.differs ? row.understood : 'as recorded'}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {view.facts.unread.length > 0 && (
                <p className="mt-2 text-faint">
                  Not said: {view.facts.unread.join(', ')}. What is not said stays as it is.
                </p>
              )}
              <ProblemNote problem={problem} />
              <p className="mt-3 flex items-center gap-4">
                {hostId ? (
                  <button
                    type="button"
                    className="press"
                    disabled={busy || chosen.size === 0}
                    onClick={() => void take()}
                  >
                    Take {chosen.size} {chosen.size === 1 ? 'fact' : 'facts'}
                  </button>
                ) : (
                  <button
                    type="button"
                    className="press"
                    onClick={() => void go('/hosts/new', { state: { machine: view.facts } })}
                  >
                    Record a new host from this
                  </button>
                )}
              </p>
            </>
          )}
        </section>
      </div>
    </div>
  );
}
