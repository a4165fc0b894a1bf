/** Install media in a guest's drives, snapshots of its volumes. */
import type { DriveView, GuestSheet, MediumView, SnapshotView } from '@insel/contract';
import { formatBoth, formatDecimal, parseBytes } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { asText, Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { YesNo } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';

export function MediaPart({ sheet }: { sheet: GuestSheet }) {
  return (
    <Part title="Media">
      {sheet.drives.map((drive) => (
        <DriveLine key={drive.id} drive={drive} />
      ))}
      {sheet.drives.length === 0 && <p className="text-faint">Nothing in its drives.</p>}
      <Attach sheet={sheet} />
    </Part>
  );
}

function DriveLine({ drive }: { drive: DriveView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-0.5">
      <Link
        className="font-bold underline decoration-rule"
        to={`/guests/media?open=${drive.medium.id}`}
      >
        {drive.medium.name}
      </Link>
      <YesNo
        at={editing('drive.edit', drive)('atPowerOn')}
        name={`${drive.medium.name} at power-on`}
        value={drive.atPowerOn}
        yes="connected at power-on"
        no="not connected at power-on"
      />
      {mayPlan && (
        <button
          type="button"
          className="act ml-auto text-[13px]"
          onClick={() => void make('drive.remove', { id: drive.id }, { seen: drive })}
        >
          Eject {drive.medium.name}
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

function Attach({ sheet }: { sheet: GuestSheet }) {
  const mayPlan = useMayPlan();
  const media = useRead('media', mayPlan ? {} : null).data ?? [];
  const { make, problem } = useChange();
  const fitting = media.filter(
    (medium) =>
      medium.platformId === null && !sheet.drives.some((drive) => drive.medium.id === medium.id),
  );
  const mine = (medium: MediumView) => medium.family === sheet.guest.family;
  const sorted = [...fitting].sort(
    (a, b) =>
      Number(mine(b)) - Number(mine(a)) ||
      Number(Boolean(a.newer)) - Number(Boolean(b.newer)) ||
      a.name.localeCompare(b.name),
  );
  if (!mayPlan || sorted.length === 0) return null;
  return (
    <div className="mt-1">
      <select
        aria-label="Attach a medium"
        value=""
        onChange={(event) =>
          event.target.value &&
          void make('drive.record', { guestId: sheet.guest.id, mediumId: event.target.value })
        }
      >
        <option value="">attach a medium …</option>
        {sorted.map((medium) => (
          <option key={medium.id} value={medium.id}>
            {medium.name}
            {medium.newer ? ' (a newer release is there)' : ''}
            {mine(medium)
              ? ''
              : `, ${medium.family === 'none' ? 'system not said' : medium.family}`}
          </option>
        ))}
      </select>
      <ProblemNote problem={problem} />
    </div>
  );
}

export function SnapshotsPart({ sheet }: { sheet: GuestSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({ name: '', why: '' });
  const poolId = sheet.volumes[0]?.poolId;
  const send = async () => {
    if (
      await make('snapshot.record', {
        guestId: sheet.guest.id,
        ...draft,
        poolId: poolId!,
        takenAt: new Date().toISOString(),
      })
    )
      setOpen(false);
  };
  if (!poolId && sheet.snapshots.length === 0) return null;
  return (
    <Part title="Snapshots">
      {sheet.snapshots.map((snapshot) => (
        <SnapshotLine key={snapshot.id} snapshot={snapshot} />
      ))}
      {sheet.snapshots.length === 0 && (
        <p className="text-faint">None. A snapshot is for days; it is no backup.</p>
      )}
      {mayPlan && poolId && !open && (
        <button type="button" className="act mt-1" onClick={() => setOpen(true)}>
          Record a snapshot taken now
        </button>
      )}
      {open && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <input
            autoFocus
            aria-label="Name of the snapshot"
            placeholder="before the update"
            value={draft.name}
            onChange={(event) => setDraft({ ...draft, name: event.target.value })}
          />
          <input
            aria-label="Why it is taken"
            placeholder="why"
            value={draft.why}
            onChange={(event) => setDraft({ ...draft, why: event.target.value })}
          />
          <button type="button" className="act" onClick={() => void send()}>
            Keep
          </button>
          <button type="button" className="act" onClick={() => setOpen(false)}>
            Drop
          </button>
        </div>
      )}
      <ProblemNote problem={problem} />
    </Part>
  );
}

const bytes = (text: string) =>
  text.trim() === '' ? { ok: true as const, value: 0 } : parseBytes(text);
const day = (text: string): { ok: true; value: string | null } | { ok: false; sentence: string } =>
  text.trim() === ''
    ? { ok: true, value: null }
    : /^\d{4}-\d{2}-\d{2}$/.test(text.trim())
      ? { ok: true, value: text.trim() }
      : { ok: false, sentence: 'Write a day as 2027-05-31.' };

function SnapshotLine({ snapshot }: { snapshot: SnapshotView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const at = editing('snapshot.edit', snapshot);
  return (
    <div className="border-b border-rule py-0.5">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <b>{snapshot.name}</b>{' '}
        <span>
          {snapshot.takenAt.slice(0, 10)},{' '}
          {snapshot.days === 0
            ? 'today'
            : snapshot.days === 1
              ? 'a day ago'
              : `${snapshot.days} days ago`}
        </span>{' '}
        <span>in pool {snapshot.pool.name}</span>
        {mayPlan && (
          <button
            type="button"
            className="act ml-auto text-[13px]"
            onClick={() => void make('snapshot.remove', { id: snapshot.id }, { seen: snapshot })}
            aria-label={`${snapshot.name} was deleted`}
          >
            It was deleted
          </button>
        )}
      </p>
      <p className="flex flex-wrap gap-x-4 text-[13px] text-faint">
        <span>
          for{' '}
          <Editable
            at={at('why')}
            name={`Why ${snapshot.name}`}
            value={snapshot.why}
            show={(value) => value || 'not said'}
            write={String}
            parse={asText}
          />
        </span>
        <span>
          takes{' '}
          <Editable
            at={at('bytes')}
            name={`Size of ${snapshot.name}`}
            value={snapshot.bytes}
            show={(value) => (value ? formatBoth(value) : 'not looked at')}
            write={(value) => (value ? `${value} B` : '')}
            parse={bytes}
            mono
          />
        </span>
        <span>
          grows by{' '}
          <Editable
            at={at('growthBytesPerDay')}
            name={`Growth of ${snapshot.name}`}
            value={snapshot.growthBytesPerDay}
            show={(value) => (value ? `${formatDecimal(value)} a day` : 'not known')}
            write={(value) => (value ? `${value} B` : '')}
            parse={bytes}
            mono
          />
        </span>
        <span>
          kept until{' '}
          <Editable<string | null>
            at={at('keepUntil')}
            name={`${snapshot.name} is kept until`}
            value={snapshot.keepUntil}
            show={(value) => value ?? 'not said'}
            write={(value) => value ?? ''}
            parse={day}
            mono
          />
        </span>
      </p>
      <ProblemNote problem={problem} />
    </div>
  );
}
