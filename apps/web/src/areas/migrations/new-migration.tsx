import {
  checkInput,
  type GuestListRow,
  type HostListRow,
  type MigrationRoute,
} from '@insel/contract';
import {
  formatBinary,
  formatMemory,
  METHODS,
  MOVE_METHODS,
  type Input,
  type MoveMethod,
} from '@insel/core';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Consequences, Sending, usePreview } from '../../components/consequences.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { MinuteInput, utcOf } from '../../components/iso-inputs.js';
import { ProblemNote } from '../../components/problem.js';
import { Checks, EstimateLines } from './checks.js';
import { useRead } from '../../frame/read.js';

const LINKS: [string, string][] = [
  ['100000000', '100 Mbit/s'],
  ['1000000000', '1 Gbit/s'],
  ['2500000000', '2.5 Gbit/s'],
  ['10000000000', '10 Gbit/s'],
  ['25000000000', '25 Gbit/s'],
];
const EMPTY = {
  guestId: '',
  targetHostId: '',
  targetPoolId: '',
  running: false,
  link: '1000000000',
  method: '',
  writes: '',
  windowFrom: '',
  windowUntil: '',
  reason: '',
  override: '',
};

/** Checks and estimate of the move that is being typed. */
function useRoute(input: Input<'migration.plan'>): MigrationRoute | undefined {
  const { guestId, targetHostId, targetPoolId, running, linkBitsPerSecond } = input;
  const query = {
    guestId,
    targetHostId,
    targetPoolId: targetPoolId ?? undefined,
    how: running ? ('running' as const) : ('stopped' as const),
    linkBitsPerSecond,
    method: input.method ?? undefined,
    dirtyBytesPerSecond: input.dirtyBytesPerSecond ?? undefined,
  };
  return useRead('migrationRoute', guestId && targetHostId ? query : null).data;
}

export function NewMigration() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const [draft, set, forget] = useDraft(`migration:${search.get('guest') ?? ''}`, () => EMPTY);
  const guestId = draft.guestId || search.get('guest') || '';
  const target = useRead(
    'host',
    draft.targetHostId !== '' ? { id: draft.targetHostId } : null,
  ).data;
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const input = {
    guestId,
    targetHostId: draft.targetHostId,
    targetPoolId: target?.pools.some((pool) => pool.id === draft.targetPoolId)
      ? draft.targetPoolId
      : null,
    running: draft.running,
    linkBitsPerSecond: Number(draft.link),
    ...(draft.method ? { method: draft.method as MoveMethod } : {}),
    ...(draft.running && draft.writes.trim()
      ? { dirtyBytesPerSecond: Math.round(Number(draft.writes) * 1e6) }
      : {}),
    ...(draft.windowFrom ? { windowFrom: utcOf(draft.windowFrom) } : {}),
    ...(draft.windowUntil ? { windowUntil: utcOf(draft.windowUntil) } : {}),
  };
  const result = checkInput('migration.plan', input);
  const preview = usePreview('migration.plan', result.ok ? result.value : null);
  const route = useRoute(input);
  const send = async () => {
    setErrors(
      result.ok
        ? {}
        : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence])),
    );
    if (!result.ok) return;
    const written = await make('migration.plan', result.value, draft);
    if (!written) return;
    forget();
    void go(`/migrations/${written.subjects[0]!.id}`);
  };
  const error = { ...errorsOf(problem), ...errors };
  return (
    <Making
      title="Migrate a guest"
      consequences={
        <>
          {route?.estimate && <EstimateLines estimate={route.estimate} />}
          {route && route.checks.length > 0 && <h2 className="mt-2 font-bold">Checks before</h2>}
          {route && <Checks checks={route.checks} />}
          {preview && route?.checks.length === 0 && <Consequences preview={preview} planning />}
          {!route && (
            <p className="text-faint">
              Choose a guest and a target: checks and the estimate appear here.
            </p>
          )}
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <div className="grid max-w-[760px] grid-cols-2 gap-3">
            <Field label="Guest" error={error.guestId}>
              <Choose<GuestListRow>
                list="guests"
                value={guestId}
                onChange={(id) => set({ guestId: id })}
                detail={(row) => `on ${row.host.name}, ${row.state}`}
              />
            </Field>
            <Field label="To host" error={error.targetHostId}>
              <Choose<HostListRow>
                list="hosts"
                value={draft.targetHostId}
                onChange={(id) => set({ targetHostId: id, targetPoolId: '' })}
                detail={(row) => `${formatMemory(row.memoryLeftMiB, 'down')} left, ${row.state}`}
              />
            </Field>
            <Field label="Volumes go to" error={error.targetPoolId}>
              <select
                value={draft.targetPoolId}
                onChange={(event) => set({ targetPoolId: event.target.value })}
              >
                <option value="">stay where they are</option>
                {target?.pools.map((pool) => (
                  <option key={pool.id} value={pool.id}>
                    {pool.name}, {formatBinary(pool.free.value ?? 0, 'down')} free
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Slowest link between them">
              <select value={draft.link} onChange={(event) => set({ link: event.target.value })}>
                {LINKS.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="How" error={error.running}>
              <select
                value={draft.running ? 'running' : 'stopped'}
                onChange={(event) => set({ running: event.target.value === 'running', method: '' })}
              >
                <option value="stopped">shut down first</option>
                <option value="running">while it runs</option>
              </select>
            </Field>
            <Field label="Method" error={error.method}>
              <select
                value={draft.method}
                onChange={(event) => set({ method: event.target.value })}
              >
                <option value="">as usual</option>
                {MOVE_METHODS.filter((method) =>
                  ['either', draft.running ? 'running' : 'stopped'].includes(METHODS[method].of),
                ).map((method) => (
                  <option key={method} value={method}>
                    {METHODS[method].words}
                  </option>
                ))}
              </select>
            </Field>
            {draft.running && (
              <Field
                label="Memory it writes, MB/s"
                error={error.dirtyBytesPerSecond}
                hint="empty: nobody knows"
              >
                <input
                  className="mono"
                  inputMode="decimal"
                  value={draft.writes}
                  onChange={(event) => set({ writes: event.target.value })}
                />
              </Field>
            )}
            <Field label="Window from" error={error.windowFrom} hint="UTC; empty: none">
              <MinuteInput value={draft.windowFrom} onValue={(text) => set({ windowFrom: text })} />
            </Field>
            <Field label="Window until" error={error.windowUntil}>
              <MinuteInput
                value={draft.windowUntil}
                onValue={(text) => set({ windowUntil: text })}
              />
            </Field>
          </div>
          <ProblemNote problem={problem} />
          <Sending
            label="Plan the migration"
            busy={busy}
            blocked={Boolean(
              problem?.overridable || preview?.objections.some((found) => found.overridable),
            )}
            reason={draft.reason}
            override={draft.override}
            onReason={(reason) => set({ reason })}
            onOverride={(override) => set({ override })}
            onSend={() => void send()}
          />
        </form>
      }
    />
  );
}
