/** Hardware and system of a computer that runs no guests: pasted, or said; what it would need as a guest; its moves. */
import type { ComputerView, DeviceView } from '@insel/contract';
import {
  ARCHITECTURES,
  COMPUTER_WORK,
  canonicalTime,
  DRIVERS,
  ENCRYPTIONS,
  FACTS_SCRIPT,
  FAMILIES,
  fieldsOf,
  formatMemory,
  parseMemory,
} from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { Editable } from '../../components/editable.js';
import { NumberFact } from '../../components/named-row.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { OneOf, TextEdit } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { editing, useChange, type At } from '../../frame/change.js';
import { useMayPlan } from '../../frame/session.js';
import { ComputerDisks } from './computer-disks.js';

const computer = fieldsOf('computer');
/** Fields that are one of a few words. */
type Chosen = 'bootMode' | 'secureBoot' | 'controllerMode' | 'licenceTied';
type Sheet = NonNullable<ComputerView['sheet']>;
/** Of a computer of which nothing is recorded yet. */
const EMPTY = Object.fromEntries(
  Object.entries(computer).map(([name, field]) => [name, 'initial' in field ? field.initial : '']),
) as unknown as Sheet;

export function ComputerPart({ device, of }: { device: DeviceView; of: ComputerView }) {
  const at = editing('computer.set', device);
  const sheet = of.sheet ?? EMPTY;
  const orNone = (choices: readonly string[]) => [
    { value: '', label: 'nobody has looked' },
    ...choices.map((value) => ({ value, label: value })),
  ];
  const choice = (field: Chosen, name: string) => (
    <Fact name={name}>
      <OneOf
        at={at(field)}
        name={name}
        value={sheet[field]}
        choices={computer[field].choices ?? []}
      />
    </Fact>
  );
  return (
    <>
      <Moves device={device} of={of} />
      <Part title="Hardware">
        {!of.sheet && (
          <p className="mb-1 text-faint">
            Nothing is recorded of it yet: paste what it prints of itself, or say it here.
          </p>
        )}
        <PasteFacts device={device} />
        <Facts>
          <Fact name="Processor">
            <TextEdit at={at('processorModel')} name="Processor" value={sheet.processorModel} />
          </Fact>
          <Fact name="Architecture">
            <OneOf
              at={at('architecture')}
              name="Architecture"
              value={sheet.architecture}
              choices={orNone(ARCHITECTURES)}
            />
          </Fact>
          <NumberFact at={at('sockets')} name="Sockets" value={sheet.sockets} none="" />
          <NumberFact
            at={at('coresPerSocket')}
            name="Cores a socket"
            value={sheet.coresPerSocket}
            none=""
          />
          <NumberFact
            at={at('threadsPerCore')}
            name="Threads a core"
            value={sheet.threadsPerCore}
            none=""
          />
          <MemoryFact at={at('memoryMiB')} name="Memory" value={sheet.memoryMiB} />
          {choice('bootMode', 'Boot mode')}
          {choice('secureBoot', 'Secure boot')}
          <Fact name="Disk controller">
            <TextEdit at={at('controller')} name="Disk controller" value={sheet.controller} />
          </Fact>
          {choice('controllerMode', 'Runs as')}
          <Fact name="Serial">
            <TextEdit at={at('serial')} name="Serial" value={sheet.serial} mono />
          </Fact>
          <NumberFact
            at={at('rackHeight')}
            name="Rack units"
            value={sheet.rackHeight}
            unit="U"
            none=""
          />
          <NumberFact at={at('drawWatts')} name="Draw" value={sheet.drawWatts} unit="W" none="" />
          <ListFact
            at={at('driversAtHand')}
            name="Drivers at hand"
            value={sheet.driversAtHand}
            hint={DRIVERS.join(', ')}
          />
        </Facts>
        <ComputerDisks device={device} disks={of.disks} />
      </Part>
      <Part title="System">
        <Facts>
          <Fact name="Family">
            <OneOf
              at={at('family')}
              name="Family"
              value={sheet.family}
              choices={orNone(FAMILIES)}
            />
          </Fact>
          <Fact name="Its work">
            <OneOf at={at('work')} name="Its work" value={sheet.work} choices={COMPUTER_WORK} />
          </Fact>
          <Fact name="Encryption">
            <OneOf
              at={at('encryption')}
              name="Encryption"
              value={sheet.encryption}
              choices={ENCRYPTIONS}
            />
          </Fact>
          <Fact name="Recovery key">
            <TextEdit
              at={at('recoveryKeyKept')}
              name="Recovery key is kept"
              value={sheet.recoveryKeyKept}
            />
          </Fact>
          {choice('licenceTied', 'Licence tied')}
          <ListFact
            at={at('attached')}
            name="Hangs on it"
            value={sheet.attached}
            hint="dongle, tape drive"
          />
          <TimeFact at={at('restartedAt')} name="Restarted well" value={sheet.restartedAt} />
          <TimeFact at={at('backupAt')} name="Last backup" value={sheet.backupAt} />
          <TimeFact
            at={at('restoreProvenAt')}
            name="Restore proven"
            value={sheet.restoreProvenAt}
          />
        </Facts>
      </Part>
      <Part title="As a guest">
        <Facts>
          <NumberFact
            at={at('cpuP95Percent')}
            name="Processors, P95"
            value={sheet.cpuP95Percent}
            unit="%"
            none="not measured"
          />
          <MemoryFact
            at={at('memoryPeakMiB')}
            name="Memory, peak"
            value={sheet.memoryPeakMiB}
            none="not measured"
          />
          <Fact name="vCPU">
            <Figure figure={of.asGuest.vcpu} />
          </Fact>
          <Fact name="Memory">
            <Figure figure={of.asGuest.memory} />
          </Fact>
        </Facts>
        {of.asGuest.unmeasured && (
          <p className="text-[13px] text-faint">
            Not all of its use is measured: what is not is taken as it is, and looked at again after
            two weeks.
          </p>
        )}
      </Part>
    </>
  );
}

function Moves({ device, of }: { device: DeviceView; of: ComputerView }) {
  const mayPlan = useMayPlan();
  const open = of.moves.some(({ state }) => state !== 'accepted' && state !== 'rolled back');
  if (!mayPlan && of.moves.length === 0) return null;
  return (
    <Part title="Moves">
      {of.moves.map(({ id, guest, state, into }) => (
        <p key={id}>
          <Link className="underline decoration-rule" to={`/migrations/${id}`}>
            {into === 'guest' ? `into the guest ${guest.name}` : `${guest.name} onto it`}
          </Link>
          , <span className={state === 'planned' ? 'text-pencil' : ''}>{state}</span>
        </p>
      ))}
      {mayPlan && !open && (
        <p className="flex gap-4">
          <Link className="act" to={`/migrations/new-physical?device=${device.id}`}>
            Make it a guest
          </Link>
          <Link className="act" to={`/migrations/new-physical?onto=${device.id}`}>
            Put a guest onto it
          </Link>
        </p>
      )}
    </Part>
  );
}

function PasteFacts({ device }: { device: DeviceView }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [text, setText] = useState('');
  if (!mayPlan) return null;
  return (
    <details className="mb-2">
      <summary className="min-h-6 cursor-pointer text-teal">Paste what it prints of itself</summary>
      <p className="text-[13px]">
        <button
          type="button"
          className="act"
          onClick={() => void navigator.clipboard.writeText(FACTS_SCRIPT)}
        >
          Copy the script
        </button>{' '}
        and run it there: it reads only. Output of lscpu, lsblk, ip, dmidecode or a Redfish document
        is read as well. What it does not say stays as it is.
      </p>
      <textarea
        aria-label="What the computer printed"
        className="mono h-28 w-full text-[12px]"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button
        type="button"
        className="press"
        disabled={busy || !text.trim()}
        onClick={() =>
          void make('computer.take-facts', { id: device.id, text }, { seen: device }).then(
            (written) => written && setText(''),
          )
        }
      >
        Take the facts in
      </button>
      <ProblemNote problem={problem} />
    </details>
  );
}

function MemoryFact({
  at,
  name,
  value,
  none = '',
}: {
  at: At;
  name: string;
  value: number | null;
  none?: string;
}) {
  return (
    <Fact name={name}>
      <Editable<number | null>
        at={at}
        name={name}
        value={value}
        show={(held) => (held === null ? none : formatMemory(held))}
        write={(held) => (held === null ? '' : formatMemory(held))}
        parse={(text) => (text.trim() === '' ? { ok: true, value: null } : parseMemory(text))}
        mono
      />
    </Fact>
  );
}

function TimeFact({ at, name, value }: { at: At; name: string; value: string | null }) {
  const minute = (held: string) => held.slice(0, 16).replace('T', ' ');
  return (
    <Fact name={name}>
      <Editable<string | null>
        at={at}
        name={name}
        value={value}
        show={(held) => (held ? `${minute(held)} UTC` : 'not recorded')}
        write={(held) => (held ? minute(held) : '')}
        parse={(text) => {
          if (text.trim() === '') return { ok: true, value: null };
          const time = canonicalTime(`${text.trim().replace(' ', 'T')}:00Z`);
          return time
            ? { ok: true, value: time }
            : { ok: false, sentence: 'Write a minute in UTC, as 2027-01-16 02:00.' };
        }}
      />
    </Fact>
  );
}

/** Words with commas between them. */
function ListFact({
  at,
  name,
  value,
  hint,
}: {
  at: At;
  name: string;
  value: readonly string[];
  hint: string;
}) {
  return (
    <Fact name={name}>
      <Editable<readonly string[]>
        at={at}
        name={name}
        value={value}
        show={(held) => held.join(', ') || `nothing recorded (${hint})`}
        write={(held) => held.join(', ')}
        parse={(text) => ({
          ok: true,
          value: text
            .split(',')
            .map((one) => one.trim())
            .filter(Boolean),
        })}
      />
    </Fact>
  );
}
