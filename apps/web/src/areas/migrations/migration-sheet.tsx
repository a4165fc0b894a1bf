import type { MigrationSheet, SideView } from '@insel/contract';
import {
  formatBinary,
  formatBoth,
  formatDuration,
  formatLinkSpeed,
  formatMemory,
  METHODS,
  parseBytes,
} from '@insel/core';
import { Link } from 'react-router';
import { Editable } from '../../components/editable.js';
import { AddressEdit } from '../../components/small-edits.js';
import { editing } from '../../client/change.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { Figure } from '../../components/workings.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { Checks, EstimateLines } from './checks.js';
import { ReadingsPart } from './readings-part.js';
import { StepsPart } from './steps-part.js';
import { TroublePart } from './trouble-part.js';
import { hrefOf, useRead } from '../../client/read.js';
import { minuteOf } from '../../components/minute.js';
import { HoldLine, Steps } from './migration-steps.js';
import { Deadline, WindowEdit } from './migration-times.js';

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
