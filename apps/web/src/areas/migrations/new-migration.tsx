import {
  checkInput,
  type GuestListRow,
  type HostListRow,
  type MigrationRoute,
} from '@insel/contract';
import { formatBinary, formatMemory, METHODS, MOVE_METHODS, type Input } from '@insel/core';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Consequences, usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { AsLastTime } from './as-last-time.js';
import { Checks, EstimateLines } from './checks.js';
import { LinkField, MethodField, moveInput, NO_MOVE_FIELDS, WindowFields } from './move-fields.js';
import { MoveKinds } from './move-kinds.js';
import { useRead } from '../../frame/read.js';

const EMPTY = {
  guestId: '',
  targetHostId: '',
  targetPoolId: '',
  running: false,
  writes: '',
  ...NO_MOVE_FIELDS,
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
    ...(draft.running && draft.writes.trim()
      ? { dirtyBytesPerSecond: Math.round(Number(draft.writes) * 1e6) }
      : {}),
    ...moveInput(draft),
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
          {route?.lastTime && <AsLastTime last={route.lastTime} set={set} />}
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
          <MoveKinds now="guest" />
          <div className="grid max-w-[760px] grid-cols-1 gap-3 sm:grid-cols-2">
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
            <LinkField of={draft} set={set} />
            <Field label="How" error={error.running}>
              <select
                value={draft.running ? 'running' : 'stopped'}
                onChange={(event) => set({ running: event.target.value === 'running', method: '' })}
              >
                <option value="stopped">shut down first</option>
                <option value="running">while it runs</option>
              </select>
            </Field>
            <MethodField
              of={draft}
              set={set}
              error={error}
              methods={MOVE_METHODS.filter((method) =>
                ['either', draft.running ? 'running' : 'stopped'].includes(METHODS[method].of),
              )}
            />
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
            <WindowFields of={draft} set={set} error={error} />
          </div>
          <Sending
            label="Plan the migration"
            busy={busy}
            problem={problem}
            preview={preview}
            said={draft}
            set={set}
            onSend={() => send()}
          />
        </form>
      }
    />
  );
}
