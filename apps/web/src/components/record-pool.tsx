/** A pool is recorded: on the host whose sheet is open, or on those that are chosen. */
import { formatBoth, parseBytes } from '@insel/core';
import { useState } from 'react';
import { useChange } from '../frame/change.js';
import { useRead } from '../frame/read.js';
import { useMayPlan } from '../frame/session.js';
import { ProblemNote } from './problem.js';

/** @param hostId where it is; left out: asked for */
export function RecordPool({ hostId, done }: { hostId?: string; done?: (id: string) => void }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({ name: '', size: '', hostIds: [] as string[] });
  const hosts = useRead('hosts', hostId === undefined && open ? { take: 200 } : null).data?.rows;
  const hostIds = hostId === undefined ? draft.hostIds : [hostId];
  if (!mayPlan) return null;
  if (!open)
    return (
      <button type="button" className="act" onClick={() => setOpen(true)}>
        {hostId === undefined ? 'Record a pool' : 'Add a pool'}
      </button>
    );
  const bytes = parseBytes(draft.size);
  const send = async () => {
    if (!bytes.ok) return;
    const written = await make('pool.record', {
      name: draft.name,
      usableBytes: bytes.value,
      hostIds,
    });
    if (!written) return;
    setOpen(false);
    setDraft({ name: '', size: '', hostIds: [] });
    const made = written.created.find(({ kind }) => kind === 'pool');
    if (made) done?.(made.id);
  };
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <input
        autoFocus
        aria-label="Name of the pool"
        placeholder="Name"
        value={draft.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      <input
        aria-label="Usable size"
        placeholder="4 TB"
        className="mono w-[110px]"
        value={draft.size}
        onChange={(event) => setDraft({ ...draft, size: event.target.value })}
      />
      <span className="text-xs text-faint">
        {draft.size && (bytes.ok ? formatBoth(bytes.value) : bytes.sentence)}
      </span>
      {hostId === undefined && (
        <fieldset className="flex basis-full flex-wrap gap-x-4">
          <legend className="text-xs font-bold text-faint">Hosts that reach it</legend>
          {(hosts ?? []).map((host) => (
            <label key={host.id} className="flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                checked={draft.hostIds.includes(host.id)}
                onChange={(event) =>
                  setDraft({
                    ...draft,
                    hostIds: event.target.checked
                      ? [...draft.hostIds, host.id]
                      : draft.hostIds.filter((id) => id !== host.id),
                  })
                }
              />
              {host.name}
            </label>
          ))}
        </fieldset>
      )}
      <button type="submit" className="act" disabled={busy}>
        Keep
      </button>
      <button type="button" className="act" onClick={() => setOpen(false)}>
        Drop
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
