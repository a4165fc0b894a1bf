import type { MigrationSheet, SideView } from '@insel/contract';
import {
  canonicalTime,
  type Input,
  formatBinary,
  formatBoth,
  formatDuration,
  formatLinkSpeed,
  formatMemory,
  METHODS,
  parseBytes,
  parseDuration,
} from '@insel/core';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { Editable } from '../../components/editable.js';
import { Pause } from '../../components/pause.js';
import { AddressEdit } from '../../components/small-edits.js';
import { editing, useChange } from '../../frame/change.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { DayInput } from '../../components/iso-inputs.js';
import { ProblemNote } from '../../components/problem.js';
import { Figure } from '../../components/workings.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { Checks, EstimateLines } from './checks.js';
import { ReadingsPart } from './readings-part.js';
import { StepsPart } from './steps-part.js';
import { TroublePart } from './trouble-part.js';
import { hrefOf, useRead } from '../../frame/read.js';
import { minuteOf } from '../../components/minute.js';

function AcceptsItselfNote({ sheet: { acceptsItself } }: { sheet: MigrationSheet }) {
  if (!acceptsItself) return null;
  const { at, against } = acceptsItself;
  return (
    <p className="mb-2 text-[13px]">
      Accepts itself on <span className="mono">{minuteOf(at)}</span>
      {against.length === 0 ? ', unless something is found.' : ' at the earliest. Against it now:'}
      {against.map((sentence) => (
        <span key={sentence} className="block text-amber">
          ◆ {sentence}
        </span>
      ))}
    </p>
  );
}

export function MigrationSheetView({ id }: { id: string }) {
  const sheet = useRead('migration', { id });
  if (sheet.error) return <p className="text-signal">{sheet.error.message}</p>;
  if (!sheet.data) return null;
  const { migration, guest, source, target, checks, estimate, moves, holds, findings } = sheet.data;
  return (
    <article aria-label={`Migration of ${guest.name}`}>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1>
          <Link to={`/guests/${guest.id}`}>{guest.name}</Link>{' '}
          <span className="text-base font-normal">
            {source.name} → {target.name}, {migration.state}
            {migration.keepsBoth && ', a copy: both stay'}
          </span>
        </h1>
        <SheetActions
          rest={[
            sheet.data.steps.length > 0 && {
              label: 'Runbook to print or save',
              href: hrefOf('runbook', { id: migration.id }),
              effect: 'all steps for two consoles, as one page that works without a network',
            },
            { label: 'Entries in the log', to: `/log?subject=${id}` },
          ]}
        />
      </div>
      <SheetFindings findings={findings} />
      <Steps sheet={sheet.data} />
      <Deadline sheet={sheet.data} />
      <StepsPart sheet={sheet.data} />
      <AcceptsItselfNote sheet={sheet.data} />
      <ReadingsPart sheet={sheet.data} />
      <TroublePart sheet={sheet.data} />
      <Part title="Both sides">
        <div className="grid grid-cols-[110px_1fr_1fr] gap-x-4">
          <span />
          <b>{source.name}</b>
          <b>{target.name}</b>
          <Compare name="State" sides={[source, target]} say={(side) => side.state} />
          <Compare name="Site" sides={[source, target]} say={(side) => side.site || '–'} />
          <Compare
            name="Memory left"
            sides={[source, target]}
            say={(side) =>
              side.memoryLeftMiB === null ? '–' : formatMemory(side.memoryLeftMiB, 'down')
            }
          />
          <Compare
            name="vCPU left"
            sides={[source, target]}
            say={(side) => (side.vcpuLeft === null ? '–' : String(side.vcpuLeft))}
          />
          <Compare
            name={source.kind === target.kind ? 'Free in pools' : 'Disks, or free'}
            sides={[source, target]}
            say={(side) =>
              [
                ...side.pools.map(
                  ({ name, freeBytes }) => `${name} ${formatBinary(freeBytes, 'down')}`,
                ),
                ...side.disks.map(({ bay, bytes }) => `${bay} ${formatBinary(bytes, 'down')}`),
              ].join(', ')
            }
          />
        </div>
      </Part>
      {checks.length > 0 && (
        <Part title="Checks before">
          <Checks checks={checks} />
        </Part>
      )}
      <Part title="Duration">
        {(migration.state === 'planned' || migration.state === 'started') && (
          <EstimateLines estimate={estimate} />
        )}
        <Facts>
          <Fact name="To copy">
            <span className="mono">{formatBoth(migration.bytes)}</span>
          </Fact>
          <Fact name="Method">{METHODS[sheet.data.method].words}</Fact>
          <Fact name="Window from">
            <WindowEdit migration={migration} field="windowFrom" name="Window from" />
          </Fact>
          <Fact name="Window until">
            <WindowEdit migration={migration} field="windowUntil" name="Window until" />
          </Fact>
          <Fact name="Link">
            <span className="mono">{formatLinkSpeed(migration.linkBitsPerSecond)}</span>
          </Fact>
          {sheet.data.method === 'block image' && (
            <>
              <Fact name="Copied from">
                <AddressEdit
                  at={editing('migration.edit', migration)('copyFromIp')}
                  name="Address of the copying environment at the source"
                  value={migration.copyFromIp}
                  none="not said"
                />
              </Fact>
              <Fact name="Copied to">
                <AddressEdit
                  at={editing('migration.edit', migration)('copyToIp')}
                  name="Address of the copying environment at the target"
                  value={migration.copyToIp}
                  none="not said"
                />
              </Fact>
            </>
          )}
          <Fact name="Expected then">
            <span className="text-pencil">
              {migration.estimateSeconds === null ? '–' : formatDuration(migration.estimateSeconds)}
            </span>
          </Fact>
          {migration.state === 'started' && (
            <Fact name="Copied so far">
              <Editable<number | null>
                at={editing('migration.edit', migration)('bytesDone')}
                name="Copied so far"
                value={migration.bytesDone}
                show={(held) => (held === null ? 'not said' : formatBinary(held))}
                write={(held) => (held === null ? '' : formatBinary(held))}
                parse={(text) =>
                  text.trim() === '' ? { ok: true, value: null } : parseBytes(text)
                }
                mono
              />
              <Progress progress={sheet.data.progress} />
            </Fact>
          )}
          <Fact name="Really took">
            {migration.copySeconds === null ? '–' : formatDuration(migration.copySeconds)}
          </Fact>
        </Facts>
      </Part>
      <Part title="Volumes">
        {moves.map((move) => (
          <div key={move.volume}>
            <b>{move.volume}</b> <span className="mono">{formatBoth(move.bytes)}</span> {move.from}{' '}
            → {move.to}
          </div>
        ))}
        {moves.length === 0 && 'The volumes stay where they are.'}
      </Part>
      <Part title="Room held">
        {holds.map((hold) => (
          <HoldLine key={hold.id} hold={hold} guest={guest.name} />
        ))}
        {holds.length === 0 && <span className="text-faint">None.</span>}
      </Part>
    </article>
  );
}

/** By what it has done, beside what was expected. */
function Progress({ progress }: { progress: MigrationSheet['progress'] }) {
  if (!progress) return null;
  if (!progress.said) return <span className="block text-[13px] text-faint">{progress.why}</span>;
  const { whole, endsAt, expectedSeconds } = progress;
  return (
    <span className="block text-[13px]">
      by that <Figure figure={whole} rounding="up" /> in all, done {minuteOf(endsAt)} UTC
      {expectedSeconds !== null && (
        <span className="text-pencil">; expected were {formatDuration(expectedSeconds)}</span>
      )}
    </span>
  );
}

function Compare({
  name,
  sides,
  say,
}: {
  name: string;
  sides: [SideView, SideView];
  say: (side: SideView) => string;
}) {
  const [a, b] = sides.map(say);
  return (
    <>
      <span className="text-faint">{name}</span>
      <span className="mono text-[13px]">{a}</span>
      <span className={`mono text-[13px] ${a === b ? '' : 'border-l-2 border-pencil pl-2'}`}>
        {b}
      </span>
    </>
  );
}

/** A minute in UTC, or none. */
function WindowEdit({
  migration,
  field,
  name,
}: {
  migration: MigrationSheet['migration'];
  field: 'windowFrom' | 'windowUntil';
  name: string;
}) {
  return (
    <Editable<string | null>
      at={editing('migration.edit', migration)(field)}
      name={name}
      value={migration[field]}
      show={(held) => (held ? minuteOf(held) : 'none')}
      write={(held) => (held ? minuteOf(held) : '')}
      parse={(text) => {
        if (text.trim() === '') return { ok: true, value: null };
        const value = canonicalTime(`${text.trim().replace(' ', 'T')}:00Z`);
        return value
          ? { ok: true, value }
          : { ok: false, sentence: 'Write a minute in UTC, as 2027-01-16 02:00.' };
      }}
      mono
    />
  );
}

/** Its window, and until when it can still be taken back inside it. */
function Deadline({ sheet: { migration, decideBy, zone } }: { sheet: MigrationSheet }) {
  if (!decideBy || !migration.windowUntil) return null;
  const open = ['planned', 'started', 'switched'].includes(migration.state);
  return (
    <p className="my-1">
      Window {migration.windowFrom && `${minuteOf(migration.windowFrom)} – `}
      {minuteOf(migration.windowUntil)} UTC
      {minuteOf(migration.windowUntil, zone) !== minuteOf(migration.windowUntil) && (
        <span className="text-faint">
          {' '}
          ({migration.windowFrom && `${minuteOf(migration.windowFrom, zone)} – `}
          {minuteOf(migration.windowUntil, zone)} {zone})
        </span>
      )}
      ;{' '}
      {open ? (
        <b className="text-amber">◆ decide by {minuteOf(decideBy.at)}</b>
      ) : (
        `to be decided by ${minuteOf(decideBy.at)}`
      )}{' '}
      (<Figure figure={decideBy.figure} /> before its end)
    </p>
  );
}

const ORDER = ['planned', 'started', 'switched', 'accepted'] as const;

function Steps({ sheet }: { sheet: MigrationSheet }) {
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

function HoldLine({ hold, guest }: { hold: MigrationSheet['holds'][number]; guest: string }) {
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
