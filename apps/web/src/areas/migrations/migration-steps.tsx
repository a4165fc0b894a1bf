/** Steps of a migration: what was ticked, what comes next, what holds it. */
import type { MigrationSheet } from '@insel/contract';
import { type Input, formatBinary, formatMemory, parseDuration } from '@insel/core';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useMayPlan } from '../../client/session.js';
import { Pause } from '../../components/pause.js';
import { useChange } from '../../client/change.js';
import { DayInput } from '../../components/iso-inputs.js';
import { ProblemNote } from '../../components/problem.js';
import { minuteOf } from '../../components/minute.js';

const ORDER = ['planned', 'started', 'switched', 'accepted'] as const;

export function Steps({ sheet }: { sheet: MigrationSheet }) {
  const { migration } = sheet;
  /** Its own list of steps takes it on. */
  const listed = sheet.steps.length > 0;
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [took, setTook] = useState('');
  const [keepUntil, setKeepUntil] = useState('');
  const [override, setOverride] = useState('');
  const times: Record<string, string | null> = {
    planned: migration.plannedAt,
    started: migration.startedAt,
    switched: migration.switchedAt,
    accepted: migration.state === 'accepted' ? migration.endedAt : null,
  };
  type Step = Input<'migration.step'>;
  const go = (step: Step['step'], more: Omit<Step, 'id' | 'step'> = {}) =>
    void make('migration.step', { id: migration.id, step, ...more }, { seen: migration, override });
  const duration = took.trim() ? parseDuration(took) : undefined;
  return (
    <div className="my-2">
      <ol className="flex flex-wrap items-center gap-2" aria-label="Steps">
        {ORDER.map((state) => (
          <li
            key={state}
            className={`border-b-4 px-2 ${times[state] ? 'border-ink' : 'border-dashed border-pencil text-pencil'}`}
          >
            {state}{' '}
            <span className="text-xs text-faint">{times[state] && minuteOf(times[state])}</span>
          </li>
        ))}
        {migration.state === 'rolled back' && (
          <li className="border-b-4 border-signal px-2">
            rolled back{' '}
            <span className="text-xs text-faint">
              {migration.endedAt && minuteOf(migration.endedAt)}
            </span>
          </li>
        )}
      </ol>
      {['planned', 'started', 'switched'].includes(migration.state) && (
        <Pause kept="migration" row={migration} />
      )}
      {mayPlan && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          {!listed && migration.state === 'planned' && (
            <button type="button" className="press" disabled={busy} onClick={() => go('start')}>
              Record: the copy has begun
            </button>
          )}
          {!listed && migration.state === 'started' && (
            <>
              <input
                aria-label="How long the copy took"
                placeholder="took, e.g. 9 min"
                className="w-[150px]"
                value={took}
                onChange={(event) => setTook(event.target.value)}
              />
              <button
                type="button"
                className="press"
                disabled={busy || duration?.ok === false}
                onClick={() => go('switch', duration?.ok ? { copySeconds: duration.value } : {})}
              >
                Record: it runs on {sheet.target.name}
              </button>
              {duration?.ok === false && (
                <span className="text-xs text-signal">{duration.sentence}</span>
              )}
            </>
          )}
          {!listed && migration.state === 'switched' && (
            <>
              <label className="text-xs text-faint">
                keep the source until <DayInput value={keepUntil} onValue={setKeepUntil} />
              </label>
              <button
                type="button"
                className="press"
                disabled={busy}
                onClick={() => go('accept', keepUntil ? { keepUntil } : {})}
              >
                Accept
              </button>
            </>
          )}
          {['planned', 'started', 'switched'].includes(migration.state) && (
            <button type="button" className="act" disabled={busy} onClick={() => go('roll back')}>
              Roll back
            </button>
          )}
          {migration.state === 'switched' && !migration.keepsBoth && (
            <span className="font-bold text-amber">
              ◆ {sheet.source.name} keeps the source: it must not start, or both lose their
              connections.
            </span>
          )}
        </div>
      )}
      <ProblemNote problem={problem} />
      {problem?.overridable && (
        <input
          aria-label="Reason to do it all the same"
          placeholder="Reason to do it all the same"
          className="w-[min(320px,100%)]"
          value={override}
          onChange={(event) => setOverride(event.target.value)}
        />
      )}
    </div>
  );
}

export function HoldLine({
  hold,
  guest,
}: {
  hold: MigrationSheet['holds'][number];
  guest: string;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [typed, setTyped] = useState('');
  return (
    <div className="flex flex-wrap gap-3">
      <span>
        {hold.side}, {hold.place.name}:{' '}
        <span className="mono">
          {hold.hostId
            ? `${hold.vcpu} vCPU, ${formatMemory(hold.memoryMiB)}`
            : hold.poolId
              ? hold.bytes > 0
                ? formatBinary(hold.bytes)
                : 'its volumes'
              : 'the machine itself'}
        </span>
        {hold.until && `, until ${hold.until}`}
      </span>
      {mayPlan && !hold.hostId && hold.until && (
        <Dialog.Root>
          <Dialog.Trigger className="act">Record the deletion</Dialog.Trigger>
          <Dialog.Portal>
            <Dialog.Overlay className="fixed inset-0 bg-ink/20" />
            <Dialog.Content className="fixed top-40 left-1/2 w-[min(440px,94vw)] -translate-x-1/2 border border-ink bg-raised p-5">
              <Dialog.Title className="font-bold">
                The disks of {hold.poolId ? `${guest} on ${hold.place.name}` : hold.place.name} have
                been erased
              </Dialog.Title>
              <Dialog.Description className="my-2">
                This records a deed:{' '}
                {hold.poolId
                  ? hold.bytes > 0
                    ? `${formatBinary(hold.bytes)} are free again`
                    : 'its volumes are gone'
                  : `${hold.place.name} is retired`}
                , and there is no way back to them. Type the name of the guest.
              </Dialog.Description>
              <input
                aria-label="Name of the guest"
                value={typed}
                onChange={(event) => setTyped(event.target.value)}
              />{' '}
              <button
                type="button"
                className="press"
                disabled={typed !== guest}
                onClick={() => void make('hold.release', { id: hold.id }, { seen: hold })}
              >
                Record it
              </button>
            </Dialog.Content>
          </Dialog.Portal>
        </Dialog.Root>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
