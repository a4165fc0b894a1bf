/** Hardware and system of a computer that runs no guests: pasted, or said; what it would need as a guest; its moves. */
import type { ComputerView, DeviceView } from '@insel/contract';
import {
  ARCHITECTURES,
  COMPUTER_WORK,
  DRIVERS,
  ENCRYPTIONS,
  FAMILIES,
  fieldsOf,
} from '@insel/core';
import { Link } from 'react-router';
import { NumberFact } from '../../components/named-row.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { OneOf, TextEdit } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { editing } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { ComputerDisks } from './computer-disks.js';
import { ListFact, MemoryFact, PasteFacts, TimeFact } from './computer-facts.js';

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
