/** A pool is recorded: on the host whose sheet is open, or on those that are chosen. */
import { formatBoth, parseBytes } from '@insel/core';
import { useRead } from '../client/read.js';
import { useMayPlan } from '../client/session.js';
import { Wrong } from './field.js';
import { useLineForm } from './line-form.js';
import { ProblemNote } from './problem.js';

/** @param hostId where it is; left out: asked for */
export function RecordPool({ hostId, done }: { hostId?: string; done?: (id: string) => void }) {
  const mayPlan = useMayPlan();
  const form = useLineForm(() => ({ name: '', size: '', hostIds: [] as string[] }), {
    type: 'pool.record',
    read: ({ name, size, hostIds }) => {
      const bytes = parseBytes(size);
      return [
        {
          name,
          usableBytes: bytes.ok ? bytes.value : 0,
          hostIds: hostId === undefined ? hostIds : [hostId],
        },
        bytes.ok ? {} : { usableBytes: bytes.sentence },
      ];
    },
    typedIn: { usableBytes: 'size' },
    sent: ({ created }) => {
      const made = created.find(({ kind }) => kind === 'pool');
      if (made) done?.(made.id);
    },
  });
  const { values: draft, set, control, send, busy, problem, errors, open } = form;
  const hosts = useRead('hosts', hostId === undefined && open ? { take: 200 } : null).data?.rows;
  if (!mayPlan) return null;
  if (!open)
    return (
      <button type="button" className="act" onClick={form.begin}>
        {hostId === undefined ? 'Record a pool' : 'Add a pool'}
      </button>
    );
  const bytes = parseBytes(draft.size);
  return (
    <form className="mt-1 flex flex-wrap items-center gap-2" onSubmit={(event) => void send(event)}>
      <input autoFocus aria-label="Name of the pool" placeholder="Name" {...control('name')} />
      <input
        aria-label="Usable size"
        placeholder="4 TB"
        className="mono w-[110px]"
        {...control('size')}
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
                  set({
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
      <button type="button" className="act" onClick={form.drop}>
        Drop
      </button>
      <Wrong errors={errors} problem={problem} />
      <ProblemNote problem={problem} />
    </form>
  );
}
