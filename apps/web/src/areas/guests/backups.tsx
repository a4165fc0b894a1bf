/** Backups and replicas of a guest: where they lie, how often, when they last worked, when one was last restored. */
import type { BackupView, GuestListRow, GuestSheet } from '@insel/contract';
import { formatDuration, parseDuration } from '@insel/core';
import { useState } from 'react';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { Choose } from '../../components/choose.js';
import { Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useRead } from '../../client/read.js';
import { minuteOf } from '../../components/minute.js';
import { NamedSelect } from '../../components/named-select.js';

const minutes = (text: string): { ok: true; value: number } | { ok: false; sentence: string } => {
  const read = parseDuration(text);
  return read.ok ? { ok: true, value: Math.ceil(read.value / 60) } : read;
};
const day = (time: string | null): string => (time ? minuteOf(time) : 'never');
const asTime = (
  text: string,
): { ok: true; value: string | null } | { ok: false; sentence: string } => {
  if (text.trim() === '' || text.trim() === 'never') return { ok: true, value: null };
  const at = Date.parse(`${text.trim().replace(' ', 'T')}${/[Z+]/.test(text) ? '' : 'Z'}`);
  return Number.isNaN(at)
    ? { ok: false, sentence: 'Write a time as 2026-11-20 02:00 (UTC).' }
    : { ok: true, value: new Date(at).toISOString() };
};

export function BackupsPart({ sheet }: { sheet: GuestSheet }) {
  const mayPlan = useMayPlan();
  return (
    <Part title="Backups">
      {sheet.backups.map((copy) => (
        <BackupLine key={copy.id} copy={copy} />
      ))}
      {sheet.backups.length === 0 && (
        <p className="text-faint">No backup recorded: when its storage fails, it is lost.</p>
      )}
      {mayPlan && <AddBackup guestId={sheet.guest.id} />}
    </Part>
  );
}

function BackupLine({ copy }: { copy: BackupView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const at = editing('backup.edit', copy);
  const where = copy.pool
    ? `pool ${copy.pool.name}`
    : copy.place || (copy.storeGuest ? `kept by ${copy.storeGuest.name}` : 'place not said');
  const time = (name: string, field: 'lastSuccessAt' | 'lastRestoreTestAt') => (
    <Editable<string | null>
      at={at(field)}
      name={name}
      value={copy[field]}
      show={day}
      parse={asTime}
      mono
    />
  );
  return (
    <div className="border-b border-rule py-0.5">
      <p className="flex flex-wrap gap-x-3">
        <b>{copy.way}</b>{' '}
        <span>
          {where}
          {copy.pool && copy.storeGuest && `, kept by ${copy.storeGuest.name}`}
        </span>
        <span>
          every{' '}
          <Editable
            at={at('everyMinutes')}
            name="Every"
            value={copy.everyMinutes}
            show={(value) => formatDuration(value * 60)}
            parse={minutes}
            mono
          />
        </span>
        <span>
          back in{' '}
          <Editable<number | null>
            at={at('restoreMinutes')}
            name="Time to restore"
            value={copy.restoreMinutes}
            show={(value) => (value === null ? 'never tried' : formatDuration(value * 60))}
            write={(value) => (value === null ? '' : formatDuration(value * 60))}
            parse={(text) => (text.trim() === '' ? { ok: true, value: null } : minutes(text))}
            mono
          />
        </span>
        {mayPlan && (
          <button
            type="button"
            className="act ml-auto text-[13px]"
            onClick={() => void make('backup.remove', { id: copy.id }, { seen: copy })}
          >
            Remove
          </button>
        )}
      </p>
      <p className="flex flex-wrap gap-x-3 text-[13px] text-faint">
        <span>last success {time('Last success', 'lastSuccessAt')}</span>
        {copy.way === 'backup' && (
          <span>last restore test {time('Last restore test', 'lastRestoreTestAt')}</span>
        )}
        {mayPlan && (
          <button
            type="button"
            className="act"
            onClick={() =>
              void make(
                'backup.edit',
                { id: copy.id, lastSuccessAt: new Date().toISOString() },
                { seen: copy },
              )
            }
          >
            It ran just now
          </button>
        )}
      </p>
      <ProblemNote problem={problem} />
    </div>
  );
}

function AddBackup({ guestId }: { guestId: string }) {
  const [open, setOpen] = useState(false);
  const pools = useRead('pools', open ? {} : null).data ?? [];
  const { make, problem } = useChange();
  const [way, setWay] = useState<'backup' | 'replica'>('backup');
  const [poolId, setPoolId] = useState('');
  const [place, setPlace] = useState('');
  const [storeGuestId, setStore] = useState('');
  const [every, setEvery] = useState('24 h');
  const [takes, setTakes] = useState('1 h');
  const [often, long] = [minutes(every), minutes(takes)];
  if (!open)
    return (
      <button type="button" className="act" onClick={() => setOpen(true)}>
        Record a backup or replica
      </button>
    );
  const send = async () => {
    if (!often.ok || !long.ok) return;
    const input = {
      guestId,
      way,
      poolId: poolId || null,
      place,
      storeGuestId: storeGuestId || null,
      everyMinutes: often.value,
      takesMinutes: long.value,
    };
    if (await make('backup.record', input)) setOpen(false);
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <select
        aria-label="Backup or replica"
        value={way}
        onChange={(event) => setWay(event.target.value as 'backup')}
      >
        <option value="backup">backup, to restore</option>
        <option value="replica">replica, to start</option>
      </select>
      <NamedSelect
        aria-label="Pool it lies on"
        value={poolId}
        onChange={(event) => setPoolId(event.target.value)}
        rows={pools}
        none="no pool of the record"
      />
      {!poolId && (
        <input
          aria-label="Where it lies"
          placeholder="where it lies"
          value={place}
          onChange={(event) => setPlace(event.target.value)}
        />
      )}
      <span className="w-[170px]">
        <Choose<GuestListRow>
          list="guests"
          label="Guest that keeps it"
          placeholder="guest that keeps it, if one"
          value={storeGuestId}
          onChange={(id) => setStore(id)}
        />
      </span>
      <label className="flex items-center gap-1">
        every{' '}
        <input
          className="mono w-[80px]"
          value={every}
          aria-invalid={!often.ok}
          onChange={(event) => setEvery(event.target.value)}
        />
      </label>
      <label className="flex items-center gap-1">
        takes{' '}
        <input
          className="mono w-[80px]"
          value={takes}
          aria-invalid={!long.ok}
          onChange={(event) => setTakes(event.target.value)}
        />
      </label>
      {!often.ok && <span className="text-xs font-bold text-signal">{often.sentence}</span>}
      <button type="button" className="act" onClick={() => void send()}>
        Keep
      </button>
      <button type="button" className="act" onClick={() => setOpen(false)}>
        Drop
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}
