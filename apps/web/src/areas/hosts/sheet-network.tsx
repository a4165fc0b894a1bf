/** Networks a host carries, one line each, and its own place in the network. */
import type { AddressView, CarriedView, HostSheet, NetworkListRow } from '@insel/contract';
import { compareFingerprints, groupsOfFour, LAST_FOUR, parseFingerprint, withColons } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { read } from '../../frame/api.js';
import { useMayPlan } from '../../frame/session.js';
import { useWrite } from '../../frame/write.js';
import { ProblemNote } from '../../ink/problem.js';
import { Fact, Facts, Part } from '../../ink/sheet.js';
import { AddressField, DayField, ListField, NumberField, TextField } from './host-field.js';

export function NetworksPart({ sheet }: { sheet: HostSheet }) {
  return (
    <Part title="Networks carried">
      {sheet.networks.map((found) => <CarriedLine key={found.id} found={found} sheet={sheet} />)}
      <CarryNetwork hostId={sheet.host.id} carried={sheet.networks.flatMap((found) => (found.network ? [found.network.id] : []))} />
    </Part>
  );
}

function CarriedLine({ found, sheet }: { found: CarriedView; sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [choosing, setChoosing] = useState(false);
  const by = found.ports.length ? `${found.mode} by ${found.ports.map((port) => port.name).join(' + ')}` : found.mode;
  const chosen = new Set(found.ports.map((port) => port.id));
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    void write(`hosts/networks/${found.id}/ports`, { body: { portIds: [...next] } });
  };
  return (
    <div>
      <div className="grid grid-cols-[150px_1fr_170px_64px] items-baseline gap-3 py-[3px]">
        <span>{found.network ? <Link className="font-bold underline decoration-rule" to={`/networks/${found.network.id}`}>{found.network.name}</Link> : '–'} <span className="mono text-[13px] text-faint">{found.vlanId}</span></span>
        {mayPlan && sheet.ports.length > 0 ? <button type="button" className="min-h-6 cursor-pointer text-left" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>{by}</button> : <span>{by}</span>}
        <span className={found.survives === 'single port' ? 'text-amber' : 'text-faint'}>{found.survives === 'single port' && '◆ '}{found.survives}</span>
        <span>{found.guests} guests</span>
      </div>
      {choosing && (
        <div className="flex flex-wrap gap-x-4 pl-[162px] text-[13px]">
          {sheet.ports.map((port) => (
            <label key={port.id} className="inline-flex items-center gap-1"><input type="checkbox" checked={chosen.has(port.id)} onChange={() => toggle(port.id)} />{port.name}{port.card && ` (${port.card})`}</label>
          ))}
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

function CarryNetwork({ hostId, carried }: { hostId: string; carried: string[] }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const networks = useQuery({ queryKey: ['list', 'networks', 'all'], queryFn: () => read<{ rows: NetworkListRow[] }>('networks?take=200') });
  const free = networks.data?.rows.filter((network) => !carried.includes(network.id)) ?? [];
  if (!mayPlan || free.length === 0) return null;
  return (
    <div className="mt-1">
      <select aria-label="Carry another network, bridged" value="" onChange={(event) => void write(`hosts/${hostId}/networks`, { body: { networkId: event.target.value, mode: 'bridged' } })}>
        <option value="">Carry another network, bridged …</option>
        {free.map((network) => <option key={network.id} value={network.id}>{network.name}</option>)}
      </select>
      <ProblemNote problem={problem} />
    </div>
  );
}

export function ManagementPart({ sheet }: { sheet: HostSheet }) {
  const { place, host } = sheet;
  const ports = sheet.ports.filter((port) => port.management);
  return (
    <Part title="Management">
      {sheet.management.map((address) => <AddressLine key={address.id} address={address} />)}
      {sheet.management.length === 0 && <p className="text-faint">No address recorded.</p>}
      <Facts>
        <Fact name="Full name"><span className="mono">{sheet.fullName}</span></Fact>
        <TextField name="Domain" field="domain" mono />
        <AddressField name="Gateway" field="gateway" />
        <ListField name="Name servers" field="nameServers" mono />
        <Fact name="VLAN"><span className="mono">{place?.vlanId ?? 'none'}</span></Fact>
        <NumberField name="Console port" field="consolePort" />
        <Fact name="Ports">{ports.length ? <span className="mono">{ports.map((port) => port.name).join(' + ')}</span> : <span className="text-faint">not recorded</span>}</Fact>
        <Fact name="Out of band">{sheet.outOfBand ? <span className="mono">{sheet.outOfBand.ip}</span> : <span className="text-faint">none</span>}</Fact>
        <TextField name="Time zone" field="timeZone" />
        <TextField name="Keyboard" field="keyboard" />
        <DayField name="Certificate ends" field="certificateUntil" />
      </Facts>
      {!host.gateway && place?.gateway && <p className="text-[13px] text-faint">Nobody has looked at the gateway set on the host; its subnet says <span className="mono">{place.gateway}</span>.</p>}
      <Fingerprint sheet={sheet} />
    </Part>
  );
}

export function AddressLine({ address }: { address: AddressView }) {
  return (
    <div className="flex flex-wrap gap-x-4">
      <span className="mono">{address.ip}{address.prefixLength !== null && `/${address.prefixLength}`}</span>
      <span>{address.assigned ? 'assigned' : 'found configured'}</span>
      {address.network && <Link className="underline decoration-rule" to={`/networks/${address.network.id}`}>{address.network.name}</Link>}
      {address.gateway && <span className="text-faint">gateway <span className="mono">{address.gateway}</span></span>}
    </div>
  );
}

/** The certificate's fingerprint as recorded, and a comparison of all of it with one seen elsewhere. */
function Fingerprint({ sheet: { host } }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [seen, setSeen] = useState('');
  const read = seen.trim() ? parseFingerprint(seen) : null;
  const recorded = host.certificateSha256;
  const comparison = read?.ok && recorded ? compareFingerprints(recorded, read.value) : null;
  return (
    <div className="mt-1">
      <p className="text-faint">Certificate, SHA-256</p>
      {recorded ? <p className="mono text-[13px] leading-snug break-all" title={withColons(recorded)}>{groupsOfFour(recorded)}</p> : <p className="text-faint">not recorded</p>}
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <input aria-label="Fingerprint seen elsewhere" placeholder="paste a fingerprint seen elsewhere" className="mono w-[330px]" value={seen} onChange={(event) => setSeen(event.target.value)} />
        {mayPlan && read?.ok && !comparison?.equal && <button type="button" className="act" onClick={() => void write(`hosts/${host.id}`, { method: 'PATCH', seen: host.revision, body: { certificateSha256: read.value } }).then((written) => written && setSeen(''))}>Record this one</button>}
      </div>
      {read && !read.ok && <p className="text-[13px] font-bold text-signal">{read.sentence}</p>}
      {comparison?.equal && <p role="status" className="text-[13px] font-bold text-teal">✓ Equal in all 64 digits.</p>}
      {comparison && !comparison.equal && read?.ok && (
        <div role="status" className="text-[13px]">
          <p className="font-bold text-signal">■ Different, first in group {comparison.firstDifferentGroup} of 16; {comparison.differing} of 64 digits differ.{comparison.fooledByTheEnd && ' The last four are equal.'}</p>
          <p className="mono leading-snug break-all">{groupsOfFour(read.value).split(' ').map((group, i) => <span key={i} className={group === recorded.slice(i * 4, i * 4 + 4) ? '' : 'font-bold text-signal underline'}>{group} </span>)}</p>
          <p className="text-faint">{LAST_FOUR}</p>
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
