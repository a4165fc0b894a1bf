/** How a host is managed: its addresses, and the fingerprint of its certificate. */
import type { AddressView, HostSheet } from '@insel/contract';
import {
  compareFingerprints,
  groupsOfFour,
  LAST_FOUR,
  parseFingerprint,
  withColons,
} from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';
import { Habits } from '../../components/habits.js';
import { ForwardedPorts } from '../../components/forwarded-ports.js';
import { Routes } from '../../components/routes.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { YesNo } from '../../components/small-edits.js';
import { AddressField, DayField, ListField, NumberField, TextField } from './host-field.js';

export function ManagementPart({ sheet }: { sheet: HostSheet }) {
  const { place, host } = sheet;
  const ports = sheet.ports.filter((port) => port.management);
  return (
    <Part title="Management">
      {sheet.management.map((address) => (
        <AddressLine key={address.id} address={address} />
      ))}
      {sheet.management.length === 0 && <p className="text-faint">No address recorded.</p>}
      <Facts>
        <Fact name="Full name">
          <span className="mono">{sheet.fullName}</span>
        </Fact>
        <TextField name="Domain" field="domain" mono />
        <AddressField name="Gateway" field="gateway" />
        <ListField name="Name servers" field="nameServers" mono />
        <Fact name="VLAN">
          <span className="mono">{place?.vlanId ?? 'none'}</span>
        </Fact>
        <NumberField name="Console port" field="consolePort" />
        <Fact name="Ports">
          {ports.length ? (
            <span className="mono">{ports.map((port) => port.name).join(' + ')}</span>
          ) : (
            <span className="text-faint">not recorded</span>
          )}
        </Fact>
        <Fact name="Out of band">
          {sheet.outOfBand ? (
            <span className="mono">{sheet.outOfBand.ip}</span>
          ) : (
            <span className="text-faint">none</span>
          )}
        </Fact>
        <TextField name="Time zone" field="timeZone" />
        <TextField name="Keyboard" field="keyboard" />
        <DayField name="Certificate ends" field="certificateUntil" />
        <Fact name="Forwards">
          <YesNo
            at={editing('host.edit', host)('forwards')}
            name="Forwards"
            value={host.forwards}
            yes="between all its networks"
            no="only for its inside networks"
          />
        </Fact>
        <Habits at={editing('host.edit', host)} of={host} />
      </Facts>
      <Routes routes={sheet.routes} holder={{ hostId: host.id }} name={host.name} />
      <ForwardedPorts ports={sheet.forwardedPorts} holder={{ hostId: host.id }} name={host.name} />
      {!host.gateway && place?.gateway && (
        <p className="text-[13px] text-faint">
          Nobody has looked at the gateway set on the host; its subnet says{' '}
          <span className="mono">{place.gateway}</span>.
        </p>
      )}
      <Fingerprint sheet={sheet} />
    </Part>
  );
}

function AddressLine({ address }: { address: AddressView }) {
  return (
    <div className="flex flex-wrap gap-x-4">
      <span className="mono">
        {address.ip}
        {address.prefixLength !== null && `/${address.prefixLength}`}
      </span>
      <span>{address.assigned ? 'assigned' : 'found configured'}</span>
      {address.network && (
        <Link className="underline decoration-rule" to={`/networks/${address.network.id}`}>
          {address.network.name}
        </Link>
      )}
      {address.gateway && (
        <span className="text-faint">
          gateway <span className="mono">{address.gateway}</span>
        </span>
      )}
    </div>
  );
}

/** The certificate's fingerprint as recorded, and a comparison of all of it with one seen elsewhere. */
function Fingerprint({ sheet: { host } }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [seen, setSeen] = useState('');
  const read = seen.trim() ? parseFingerprint(seen) : null;
  const recorded = host.certificateSha256;
  const comparison = read?.ok && recorded ? compareFingerprints(recorded, read.value) : null;
  return (
    <div className="mt-1">
      <p className="text-faint">Certificate, SHA-256</p>
      {recorded ? (
        <p className="mono text-[13px] leading-snug break-all" title={withColons(recorded)}>
          {groupsOfFour(recorded)}
        </p>
      ) : (
        <p className="text-faint">not recorded</p>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <input
          aria-label="Fingerprint seen elsewhere"
          placeholder="paste a fingerprint seen elsewhere"
          className="mono w-[min(330px,100%)]"
          value={seen}
          onChange={(event) => setSeen(event.target.value)}
        />
        {mayPlan && read?.ok && !comparison?.equal && (
          <button
            type="button"
            className="act"
            onClick={() =>
              void make(
                'host.edit',
                { id: host.id, certificateSha256: read.value },
                { seen: host },
              ).then((written) => written && setSeen(''))
            }
          >
            Record this one
          </button>
        )}
      </div>
      {read && !read.ok && <p className="text-[13px] font-bold text-signal">{read.sentence}</p>}
      {comparison?.equal && (
        <p role="status" className="text-[13px] font-bold text-teal">
          ✓ Equal in all 64 digits.
        </p>
      )}
      {comparison && !comparison.equal && read?.ok && (
        <div role="status" className="text-[13px]">
          <p className="font-bold text-signal">
            ■ Different, first in group {comparison.firstDifferentGroup} of 16;{' '}
            {comparison.differing} of 64 digits differ.
            {comparison.fooledByTheEnd && ' The last four are equal.'}
          </p>
          <p className="mono leading-snug break-all">
            {groupsOfFour(read.value)
              .split(' ')
              .map((group, i) => (
                <span
                  key={i}
                  className={
                    group === recorded.slice(i * 4, i * 4 + 4)
                      ? ''
                      : 'font-bold text-signal underline'
                  }
                >
                  {group}{' '}
                </span>
              ))}
          </p>
          <p className="text-faint">{LAST_FOUR}</p>
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
