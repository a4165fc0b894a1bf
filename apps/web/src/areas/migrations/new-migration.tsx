import type { GuestListRow, HostListRow, MigrationRoute } from '@insel/contract';
import { formatBinary, formatMemory, METHODS, MOVE_METHODS, type Input } from '@insel/core';
import { useNavigate, useSearchParams } from 'react-router';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { useChangeForm } from '../../components/change-form.js';
import { Consequences } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { useKeptForm } from '../../components/kept-form.js';
import { LinkField } from '../../components/link-field.js';
import { Field } from '../../components/field.js';
import { AsLastTime } from './as-last-time.js';
import { Checks, EstimateLines } from './checks.js';
import { MethodField, moveInput, NO_MOVE_FIELDS, WindowFields } from './move-fields.js';
import { MoveKinds } from './move-kinds.js';
import { useRead } from '../../client/read.js';

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
  const kept = useKeptForm(`migration:${search.get('guest') ?? ''}`, () => EMPTY);
  const { values: draft, set, held } = kept;
  const guestId = draft.guestId || search.get('guest') || '';
  const target = useRead(
    'host',
    draft.targetHostId !== '' ? { id: draft.targetHostId } : null,
  ).data;
  const read = (typed: typeof EMPTY): [Input<'migration.plan'>] => [
    {
      guestId: typed.guestId || guestId,
      targetHostId: typed.targetHostId,
      targetPoolId: target?.pools.some((pool) => pool.id === typed.targetPoolId)
        ? typed.targetPoolId
        : null,
      running: typed.running,
      ...(typed.running && typed.writes.trim()
        ? { dirtyBytesPerSecond: Math.round(Number(typed.writes) * 1e6) }
        : {}),
      ...moveInput(typed),
    },
  ];
  const form = useChangeForm(kept, {
    type: 'migration.plan',
    read,
    typedIn: { dirtyBytesPerSecond: 'writes' },
    previews: () => true,
    sent: ({ subjects }) => void go(`/migrations/${subjects[0]!.id}`),
  });
  const { preview, errors } = form;
  const route = useRoute(read(draft)[0]);
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
            <Field label="Guest" error={errors.guestId}>
              <Choose<GuestListRow>
                list="guests"
                value={guestId}
                onChange={(id) => set({ guestId: id })}
                detail={(row) => `on ${row.host.name}, ${row.state}`}
              />
            </Field>
            <Field label="To host" error={errors.targetHostId}>
              <Choose<HostListRow>
                list="hosts"
                value={draft.targetHostId}
                onChange={(id) => set({ targetHostId: id, targetPoolId: '' })}
                detail={(row) => `${formatMemory(row.memoryLeftMiB, 'down')} left, ${row.state}`}
              />
            </Field>
            <Field label="Volumes go to" error={errors.targetPoolId}>
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
            <LinkField
              value={draft.linkBitsPerSecond}
              onChange={(rate) => set({ linkBitsPerSecond: rate })}
            />
            <Field label="How" error={errors.running}>
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
              error={errors}
              methods={MOVE_METHODS.filter((method) =>
                ['either', draft.running ? 'running' : 'stopped'].includes(METHODS[method].of),
              )}
            />
            {draft.running && (
              <Field label="Memory it writes, MB/s" of={held('writes')} hint="empty: nobody knows">
                <input className="mono" inputMode="decimal" />
              </Field>
            )}
            <WindowFields of={draft} set={set} error={errors} />
          </div>
          <Sending label="Plan the migration" form={form} />
        </form>
      }
    />
  );
}
