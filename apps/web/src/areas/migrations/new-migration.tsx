import {
  checked,
  PlanMigrationBody,
  type GuestListRow,
  type HostListRow,
  type HostSheet,
  type MigrationPreview,
} from '@insel/contract';
import { formatBinary, formatMemory } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { read } from '../../frame/api.js';
import { useDraft } from '../../frame/draft.js';
import { useWrite } from '../../frame/write.js';
import { Making } from '../../ink/area.js';
import { Choose } from '../../ink/choose.js';
import { Consequences, Sending, usePreview } from '../../ink/consequences.js';
import { errorsOf, Field, type Errors } from '../../ink/field.js';
import { ProblemNote } from '../../ink/problem.js';
import { Checks, EstimateLines } from './checks.js';

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
  reason: '',
  override: '',
};

export function NewMigration() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const [draft, set, forget] = useDraft(`migration:${search.get('guest') ?? ''}`, () => EMPTY);
  const guestId = draft.guestId || search.get('guest') || '';
  const target = useQuery({
    queryKey: ['sheet', 'host', draft.targetHostId],
    queryFn: () => read<HostSheet>(`hosts/${draft.targetHostId}`),
    enabled: draft.targetHostId !== '',
  }).data;
  const { write, busy, problem } = useWrite();
  const [errors, setErrors] = useState<Errors>({});
  const body = {
    guestId,
    targetHostId: draft.targetHostId,
    targetPoolId: target?.pools.some((pool) => pool.id === draft.targetPoolId)
      ? draft.targetPoolId
      : null,
    running: draft.running,
    linkBitsPerSecond: Number(draft.link),
    ...(draft.reason ? { reason: draft.reason } : {}),
    ...(draft.override ? { override: draft.override } : {}),
  };
  const result = checked(PlanMigrationBody, body);
  const preview = usePreview<MigrationPreview>('migrations/preview', result.ok ? body : null);
  const send = async () => {
    setErrors(
      result.ok
        ? {}
        : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence])),
    );
    if (!result.ok) return;
    const written = await write('migrations', { body });
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
          {preview?.estimate && <EstimateLines estimate={preview.estimate} />}
          {preview && preview.checks.length > 0 && (
            <h2 className="mt-2 font-bold">Checks before</h2>
          )}
          {preview && <Checks checks={preview.checks} />}
          {preview && preview.checks.length === 0 && <Consequences preview={preview} planning />}
          {!preview && (
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
                    {pool.name}, {formatBinary(pool.left.value ?? 0, 'down')} left
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
                onChange={(event) => set({ running: event.target.value === 'running' })}
              >
                <option value="stopped">shut down first</option>
                <option value="running">while it runs</option>
              </select>
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
