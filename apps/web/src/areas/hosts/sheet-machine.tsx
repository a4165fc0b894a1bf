/** The machine itself: where it stands, its firmware, its licence, and whether it can be a host on its platform. */
import type { HostSheet } from '@insel/contract';
import { formatLinkSpeed, KINDS } from '@insel/core';
import { Link } from 'react-router';
import { Facts, Part } from '../../components/sheet.js';
import { PowerCords } from './power-cords.js';
import {
  ChoiceField,
  DayField,
  ListField,
  NotesField,
  NumberField,
  TextField,
} from './host-field.js';
import { useRead } from '../../client/read.js';

const choices = (field: string): readonly string[] => KINDS.host.fields[field]!.choices!;

export function MachinePart({ sheet }: { sheet: HostSheet }) {
  const racks = useRead('racks');
  return (
    <>
      <Part title="Machine">
        <Facts>
          <TextField name="Model" field="machineModel" />
          <TextField name="Serial" field="serial" mono />
          <ChoiceField
            name="Rack"
            field="rackId"
            choices={[
              { value: '', label: 'no rack' },
              ...(racks.data ?? []).map((rack) => ({ value: rack.id, label: rack.name })),
            ]}
          />
          <NumberField name="Lowest unit" field="rackUnit" />
          <NumberField name="Height" field="rackHeight" unit="U" required />
          <NumberField name="Weight" field="weightKg" unit="kg" />
          <NumberField name="Power supplies" field="powerSupplies" required />
          <PowerCords sheet={sheet} />
          <NumberField name="Highest draw" field="drawWatts" unit="W" />
          <DayField name="Warranty ends" field="warrantyUntil" />
          <DayField name="Next maintenance" field="nextMaintenanceOn" />
          <ChoiceField
            name="Video connector"
            field="videoConnector"
            choices={choices('videoConnector')}
          />
          <ChoiceField name="Boot mode" field="bootMode" choices={choices('bootMode')} />
          <ChoiceField name="Secure boot" field="secureBoot" choices={choices('secureBoot')} />
          <TextField name="Controller" field="controller" />
          <ChoiceField
            name="Controller mode"
            field="controllerMode"
            choices={choices('controllerMode')}
          />
          <NumberField name="Bays" field="bays" />
          <NumberField name="Memory slots" field="memorySlots" />
          <ListField name="Passed through" field="passThrough" />
          <TextField name="Licence" field="licence" />
          <DayField name="Licence ends" field="licenceUntil" />
          <TextField name="Key is kept" field="licenceKeyKept" />
          <TextField name="Purpose" field="purpose" />
          <TextField name="Owner" field="owner" />
          <ListField name="Labels" field="labels" />
          <NotesField />
        </Facts>
        {sheet.outerGuest && (
          <p>
            It is the guest{' '}
            <Link className="underline decoration-rule" to={`/guests/${sheet.outerGuest.id}`}>
              {sheet.outerGuest.name}
            </Link>
            : its capacity is part of that one’s host and not counted again.
          </p>
        )}
        <p className="text-xs text-faint">
          {sheet.host.confirmedAt
            ? `Last confirmed ${sheet.host.confirmedAt.slice(0, 10)} by ${sheet.host.confirmedBy}.`
            : 'Never confirmed by an import or a person.'}{' '}
          <Link className="act" to={`/hosts/facts?host=${sheet.host.id}`}>
            Take facts in
          </Link>
        </p>
      </Part>
      <Part title="Ports">
        {sheet.ports.map((port) => (
          <div
            key={port.id}
            className="grid grid-cols-[44px_1fr_140px_170px] items-baseline gap-3 text-[13px]"
          >
            <b className="mono">{port.name}</b>
            <span>
              {port.wired
                ? port.bitsPerSecond
                  ? formatLinkSpeed(port.bitsPerSecond)
                  : 'wired'
                : 'wireless'}
              {port.connector !== 'unknown' && `, ${port.connector}`}
              {port.card && `, card ${port.card}`}
              {port.management && <b>, management</b>}
            </span>
            <span className="mono">{port.mac}</span>
            <span className="truncate text-faint" title={port.pluggedInto}>
              {port.pluggedInto && `to ${port.pluggedInto}`}
            </span>
          </div>
        ))}
        {sheet.ports.length === 0 && <p className="text-faint">No port recorded.</p>}
      </Part>
      <Part title="Can it be a host?">
        {sheet.suitability.map(({ point, passes, sentence, remedy }) => (
          <p key={point}>
            <span
              className={`inline-block w-[52px] font-bold ${passes === false ? 'text-signal' : passes === null ? 'text-faint' : 'text-teal'}`}
            >
              {passes === false ? '■ no' : passes === null ? '○ open' : '✓ yes'}
            </span>{' '}
            {sentence} <span className="text-faint">{remedy}</span>
          </p>
        ))}
      </Part>
    </>
  );
}
