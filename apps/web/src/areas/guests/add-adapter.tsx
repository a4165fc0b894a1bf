/** A further adapter of a guest. */
import type { AdapterView } from '@insel/contract';
import type { Input } from '@insel/core';
import { useState } from 'react';
import { Choose } from '../../components/choose.js';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';

/** One more adapter, on a network, with the next free address, a found one, or none. */
export function AddAdapter({ guestId, adapters }: { guestId: string; adapters: AdapterView[] }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({ networkId: '', ip: '', trunkId: '' });
  if (!mayPlan) return null;
  const send = async () => {
    const ip = draft.ip.trim();
    const input: Input<'adapter.add'> = {
      guestId,
      networkId: draft.networkId || null,
      ...(draft.trunkId ? { trunkId: draft.trunkId } : {}),
      address: ip ? { as: 'given', ip } : { as: draft.networkId ? 'next' : 'none' },
    };
    if (await make('adapter.add', input)) setOpen(false);
  };
  const trunks = adapters.filter(({ trunkId }) => trunkId === null);
  const [a, b] = adapters;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-3">
      {open ? (
        <>
          <span className="w-[200px]">
            <Choose
              list="networks"
              label="Network of the new adapter"
              value={draft.networkId}
              onChange={(networkId) => setDraft({ ...draft, networkId })}
              placeholder="network"
            />
          </span>
          {trunks.length > 0 && (
            <select
              aria-label="How its frames travel"
              value={draft.trunkId}
              onChange={(event) => setDraft({ ...draft, trunkId: event.target.value })}
            >
              <option value="">an adapter of its own</option>
              {trunks.map(({ id, position }) => (
                <option key={id} value={id}>
                  tagged on adapter {position + 1}
                </option>
              ))}
            </select>
          )}
          <input
            aria-label="Address of the new adapter"
            placeholder="next free address"
            className="mono w-[160px]"
            value={draft.ip}
            onChange={(event) => setDraft({ ...draft, ip: event.target.value })}
          />
          <button type="button" className="act" onClick={() => void send()}>
            Add it
          </button>
          <button type="button" className="act" onClick={() => setOpen(false)}>
            Drop
          </button>
        </>
      ) : (
        <button type="button" className="act" onClick={() => setOpen(true)}>
          Add an adapter
        </button>
      )}
      {adapters.length === 2 && a && b && (
        <button
          type="button"
          className="act"
          onClick={() => void make('adapter.swap', { aId: a.id, bId: b.id }, { seen: [a, b] })}
        >
          Change the two over
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
