/** A further volume of a guest. */
import type { GuestSheet, PoolView } from '@insel/contract';
import { DISK_BUSES, parseBytes, type Input } from '@insel/core';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { NamedSelect } from '../../components/named-select.js';

export const BUSES = DISK_BUSES.map((bus) => ({
  value: bus,
  label: bus === 'unknown' ? 'bus not known' : bus,
}));

export function AddVolume({ sheet, pools }: { sheet: GuestSheet; pools: PoolView[] | undefined }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({
    label: '',
    size: '',
    poolId: '',
    thin: true,
    variables: false,
  });
  const size = parseBytes(draft.size);
  const poolId = draft.poolId || pools?.[0]?.id;
  if (!mayPlan) return null;
  if (!open)
    return (
      <button type="button" className="act mt-1" onClick={() => setOpen(true)}>
        Add a volume
      </button>
    );
  const send = async () => {
    if (!size.ok || !poolId) return;
    const input: Input<'volume.add'> = {
      guestId: sheet.guest.id,
      label: draft.label.trim() || `disk ${sheet.volumes.length + 1}`,
      bytes: size.value,
      poolId,
      thin: draft.thin,
      ...(draft.variables
        ? { use: 'UEFI variables' }
        : { bus: sheet.volumes.find((volume) => volume.use === 'disk')?.bus }),
    };
    if (await make('volume.add', input)) setOpen(false);
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <input
        autoFocus
        aria-label="Name of the new volume"
        placeholder="name"
        className="w-[100px]"
        value={draft.label}
        onChange={(event) => setDraft({ ...draft, label: event.target.value })}
      />
      <input
        aria-label="Size of the new volume"
        placeholder="50 GiB"
        className="mono w-[100px]"
        aria-invalid={draft.size !== '' && !size.ok}
        value={draft.size}
        onChange={(event) => setDraft({ ...draft, size: event.target.value })}
      />
      <NamedSelect
        aria-label="Pool of the new volume"
        value={poolId}
        onChange={(event) => setDraft({ ...draft, poolId: event.target.value })}
        rows={pools}
      />
      <label className="flex items-center gap-1">
        <input
          type="checkbox"
          checked={draft.thin}
          onChange={(event) => setDraft({ ...draft, thin: event.target.checked })}
        />{' '}
        thin
      </label>
      <label className="flex items-center gap-1">
        <input
          type="checkbox"
          checked={draft.variables}
          onChange={(event) =>
            setDraft({
              ...draft,
              variables: event.target.checked,
              size: event.target.checked && !draft.size ? '4 MiB' : draft.size,
              label: event.target.checked && !draft.label ? 'UEFI variables' : draft.label,
            })
          }
        />{' '}
        for UEFI variables
      </label>
      <button type="button" className="act" disabled={busy || !poolId} onClick={() => void send()}>
        Keep
      </button>
      <button type="button" className="act" onClick={() => setOpen(false)}>
        Drop
      </button>
      {pools?.length === 0 && (
        <span className="text-xs font-bold text-signal">Its host reaches no pool.</span>
      )}
      {draft.size && !size.ok && (
        <span className="text-xs font-bold text-signal">{size.sentence}</span>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
