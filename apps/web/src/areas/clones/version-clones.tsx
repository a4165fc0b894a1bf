/** The clones that hang from a version: chosen by row, remade from the current one, or made independent of their base. */
import type { HangingClone, TemplateView, VersionView } from '@insel/contract';
import { counted, formatBinary } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { Consequences } from '../../components/consequences.js';
import { usePreview } from '../../components/use-preview.js';
import { BatchTime } from './batch-time.js';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';

/** More are shown when somebody asks for them. */
const SHOWN = 12;

export function VersionClones({
  version,
  template,
}: {
  version: VersionView;
  template: TemplateView;
}) {
  const mayPlan = useMayPlan();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [all, setAll] = useState(false);
  const { clones } = version;
  if (clones.length === 0) return null;
  const shown = all ? clones : clones.slice(0, SHOWN);
  const choose = (ids: readonly string[], on: boolean) =>
    setChosen((held) => new Set([...held].filter((id) => !ids.includes(id)).concat(on ? ids : [])));
  const picked = clones.filter(({ id }) => chosen.has(id));
  return (
    <div className="mt-2">
      <table className="w-full text-left text-[13px]">
        <thead className="text-xs text-faint">
          <tr>
            {mayPlan && (
              <th className="w-7">
                <input
                  type="checkbox"
                  aria-label={`All clones of v${version.number}`}
                  checked={picked.length === clones.length}
                  onChange={(event) =>
                    choose(
                      clones.map(({ id }) => id),
                      event.target.checked,
                    )
                  }
                />
              </th>
            )}
            <th>{counted(clones.length, 'clone')}</th>
            <th>State</th>
            <th>Host</th>
            <th>Kind</th>
            <th className="text-right">Own blocks</th>
            <th className="text-right">Open</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((clone) => (
            <tr key={clone.id} className="h-8 border-t border-rule">
              {mayPlan && (
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Choose ${clone.name}`}
                    checked={chosen.has(clone.id)}
                    onChange={(event) => choose([clone.id], event.target.checked)}
                  />
                </td>
              )}
              <td className="py-0.5">
                <Link className="underline decoration-rule" to={`/guests/${clone.id}`}>
                  {clone.name}
                </Link>
              </td>
              <td className={clone.state === 'planned' ? 'text-pencil' : ''}>{clone.state}</td>
              <td>{clone.host}</td>
              <td>{clone.copy}</td>
              <td className="mono text-right">
                {clone.copy !== 'dependent'
                  ? 'all'
                  : clone.grownBytes === null
                    ? 'unknown'
                    : formatBinary(clone.grownBytes, 'up')}
              </td>
              <td className="text-right">
                <Open clone={clone} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {clones.length > shown.length && (
        <button type="button" className="act" onClick={() => setAll(true)}>
          Show all {clones.length}
        </button>
      )}
      {picked.length > 0 && (
        <ForChosen picked={picked} template={template} close={() => setChosen(new Set())} />
      )}
    </div>
  );
}

const Open = ({ clone: { open, state } }: { clone: HangingClone }) =>
  open === 0 ? (
    <span className="text-faint">its own</span>
  ) : (
    <span className={state === 'in service' ? 'font-bold text-amber' : ''}>
      {state === 'in service' ? '◆ ' : ''}
      {open} open
    </span>
  );

function ForChosen({
  picked,
  template,
  close,
}: {
  picked: readonly HangingClone[];
  template: TemplateView;
  close: () => void;
}) {
  const { make, anyway, busy, problem } = useChange();
  const [reason, setReason] = useState('');
  const [confirming, setConfirming] = useState<'promote' | 'remake' | null>(null);
  const guestIds = picked.map(({ id }) => id);
  const dependent = picked.filter(({ copy }) => copy === 'dependent');
  const behind = picked.filter((clone) => clone.behind > 0);
  const current = template.versions.find(({ id }) => id === template.currentId);
  const preview = usePreview(
    'clone.promote',
    confirming === 'promote' ? { guestIds: dependent.map(({ id }) => id) } : null,
  );
  const done = async (written: Promise<unknown>) => {
    if (await written) close();
  };
  return (
    <section aria-label="What to do with the chosen clones" className="border-t border-ink pt-2">
      <p className="flex flex-wrap items-baseline gap-4 text-[13px]">
        <b>{counted(picked.length, 'clone')} chosen</b>
        {current && behind.length > 0 && (
          <button type="button" className="act" onClick={() => setConfirming('remake')}>
            Remake {behind.length} from v{current.number} …
          </button>
        )}
        {dependent.length > 0 && (
          <button type="button" className="act" onClick={() => setConfirming('promote')}>
            Promote {dependent.length} to independent …
          </button>
        )}
        <Link className="act" to={`/clones/batch?ids=${guestIds.join(',')}`}>
          Work through them
        </Link>
      </p>
      {confirming === 'remake' && current && (
        <form
          className="mt-1 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            const guestIds = behind.map(({ id }) => id);
            const versionId = current.id;
            void done(make('clone.remake', { guestIds, versionId }, { reason, seen: behind }));
          }}
        >
          <p className="w-full text-[13px]">
            What they keep on these disks is lost; name, MAC, addresses and place stay, identity is
            open again.
          </p>
          <label className="flex grow flex-col text-xs font-bold text-faint">
            Reason, for the log
            <input required value={reason} onChange={(event) => setReason(event.target.value)} />
          </label>
          <button type="submit" className="press" disabled={busy}>
            Remake{' '}
            {behind
              .map(({ name }) => name)
              .slice(0, 3)
              .join(', ')}
            {behind.length > 3 ? ' …' : ''}
          </button>
        </form>
      )}
      {confirming === 'promote' && (
        <div className="mt-1 max-w-[520px]">
          <BatchTime time={preview?.time ?? null} />
          <Consequences preview={preview} planning />
          <button
            type="button"
            className="press mt-2"
            disabled={busy}
            onClick={() => {
              const guestIds = dependent.map(({ id }) => id);
              void done(make('clone.promote', { guestIds }, { seen: dependent }));
            }}
          >
            Promote {counted(dependent.length, 'clone')}
          </button>
        </div>
      )}
      <ProblemNote problem={problem} anyway={anyway} />
    </section>
  );
}
