import type { AdapterView, GuestSheet } from '@insel/contract';
import { FAMILIES, formatBoth, formatDuration, formatMemory, macNotations, parseBytes, parseDuration, parseMac, parseMemory } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { read } from '../../frame/api.js';
import { useMayPlan } from '../../frame/session.js';
import { useWrite } from '../../frame/write.js';
import { Choose } from '../../ink/choose.js';
import { asText, asWhole, Editable } from '../../ink/editable.js';
import { IdentityList } from '../../ink/identity.js';
import { FindingLine } from '../../ink/mark.js';
import { ProblemNote } from '../../ink/problem.js';
import { Needs } from '../../ink/needs.js';
import { Routes } from '../../ink/routes.js';
import { Fact, Facts, Part } from '../../ink/sheet.js';
import { AddressEdit, OneOf, TextEdit, YesNo } from '../../ink/small-edits.js';
import { Figure } from '../../ink/workings.js';
import { BackupsPart } from './backups.js';

export function GuestSheetView({ id }: { id: string }) {
  const sheet = useQuery({ queryKey: ['sheet', 'guest', id], queryFn: () => read<GuestSheet>(`guests/${id}`) });
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  if (sheet.error) return <p className="text-signal">{sheet.error.message}</p>;
  if (!sheet.data) return null;
  const { guest, host, demand, volumes, adapters, identity, clones, migrations, states, findings } = sheet.data;
  const at = { path: `guests/${id}`, seen: guest.revision };
  return (
    <article aria-label={`Guest ${guest.name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1><Editable {...at} name="Name" field="name" value={guest.name} show={String} parse={asText} /></h1>
        <span className={guest.state === 'planned' ? 'border-b border-dashed border-pencil text-pencil' : ''}>{guest.state}</span>
        <span>on <Link className="underline decoration-rule" to={`/hosts/${host.id}`}>{host.name}</Link></span>
        {mayPlan && (
          <span className="ml-auto flex gap-3">
            <Link className="act" to={`/clones/new?of=${id}`}>Make clones</Link>
            <Link className="act" to={`/migrations/new?guest=${id}`}>Migrate</Link>
          </span>
        )}
      </div>
      {mayPlan && (
        <div className="mb-2 flex flex-wrap gap-3">
          {states.map((state) => (
            <button key={state} type="button" className="act" onClick={() => void write(`guests/${id}/state`, { body: { state } })}>Set to {state}</button>
          ))}
        </div>
      )}
      <ProblemNote problem={problem} />
      {findings.map((finding) => <FindingLine key={finding.id} finding={finding} brief />)}
      <Part title="Size">
        <Facts>
          <Fact name="vCPU"><Editable {...at} name="vCPU" field="vcpu" value={guest.vcpu} show={String} parse={asWhole} mono /></Fact>
          <Fact name="Asks of its host"><Figure figure={demand} rounding="up" /></Fact>
          <Fact name="Memory"><Editable {...at} name="Memory" field="memoryMiB" value={guest.memoryMiB} show={(value) => formatMemory(value)} parse={parseMemory} mono /></Fact>
          <Fact name="When stopped"><Editable {...at} name="When stopped" field="heldWhenStopped" value={guest.heldWhenStopped} show={(value) => (value ? 'its room is kept' : 'its room is free')} write={String} parse={(text) => ({ ok: true, value: text === 'true' })} choices={[{ value: 'true', label: 'its room is kept' }, { value: 'false', label: 'its room is free' }]} /></Fact>
          <Fact name="Family"><Editable {...at} name="Family" field="family" value={guest.family} show={String} parse={(text) => ({ ok: true, value: text as typeof guest.family })} choices={FAMILIES.map((family) => ({ value: family, label: family }))} /></Fact>
          <Fact name="Template"><Editable {...at} name="Template" field="template" value={guest.template} show={(value) => (value ? 'yes' : 'no')} write={String} parse={(text) => ({ ok: true, value: text === 'true' })} choices={[{ value: 'true', label: 'yes' }, { value: 'false', label: 'no' }]} /></Fact>
          <Fact name="Processor seen"><Editable {...at} name="Processor seen" field="processorMode" value={guest.processorMode} show={(value) => (value === 'host' ? 'the host’s own' : value === 'unknown' ? 'not known' : `level x86-64-${value}`)} write={String} parse={(text) => ({ ok: true, value: text as typeof guest.processorMode })} choices={[{ value: 'unknown', label: 'not known' }, { value: 'host', label: 'the host’s own' }, ...['v1', 'v2', 'v3', 'v4'].map((level) => ({ value: level, label: `level x86-64-${level}` }))]} /></Fact>
          <Fact name="Can be a host"><Editable {...at} name="Can be a host" field="nestedVirtualisation" value={guest.nestedVirtualisation} show={(value) => (value ? 'virtualisation passed through' : 'no')} write={String} parse={(text) => ({ ok: true, value: text === 'true' })} choices={[{ value: 'true', label: 'virtualisation passed through' }, { value: 'false', label: 'no' }]} /></Fact>
          <Fact name="Purpose"><Editable {...at} name="Purpose" field="purpose" value={guest.purpose} show={String} parse={asText} /></Fact>
          <Fact name="Notes"><Editable {...at} name="Notes" field="notes" value={guest.notes} show={String} parse={asText} /></Fact>
        </Facts>
      </Part>
      <Part title="Volumes">
        {volumes.map((volume) => (
          <div key={volume.id} className="grid grid-cols-[110px_1fr_120px_90px] items-baseline gap-3">
            <b>{volume.label}</b>
            <Editable name={`Size of ${volume.label}`} path={`volumes/${volume.id}`} seen={guest.revision} field="bytes" value={volume.bytes} show={formatBoth} write={(value) => `${value} B`} parse={parseBytes} mono />
            <span>pool {volume.pool.name}</span>
            <span>{volume.thin ? 'grows (thin)' : 'allocated'}</span>
          </div>
        ))}
        {volumes.length === 0 && <span className="text-faint">No volume.</span>}
      </Part>
      <Part title="Adapters">
        {adapters.map((adapter) => <AdapterLine key={adapter.id} adapter={adapter} seen={guest.revision} />)}
        {adapters.length === 0 && <span className="text-faint">No adapter.</span>}
        {sheet.data.adapterCaution && <p className="text-[13px]"><b className="text-amber">◆ Caution.</b> {sheet.data.adapterCaution}</p>}
        <AddAdapter guestId={id} adapters={adapters} />
      </Part>
      <Part title="Routing">
        <Facts>
          <Fact name="Full name"><span className="mono">{sheet.data.fullName}</span></Fact>
          <Fact name="Domain"><TextEdit at={at} name="Domain" field="domain" value={guest.domain} mono /></Fact>
          <Fact name="Gateway"><AddressEdit at={at} name="Gateway" field="gateway" value={guest.gateway} none={guest.noGateway ? 'none, on purpose' : 'as its subnet says'} /></Fact>
          <Fact name="Has no gateway"><YesNo at={at} name="Has no gateway" field="noGateway" value={guest.noGateway} yes="on purpose" no="–" /></Fact>
          <Fact name="Gateway, IPv6"><AddressEdit at={at} name="Gateway, IPv6" field="gateway6" value={guest.gateway6} none="as its subnet says" /></Fact>
          <Fact name="Gateway on-link"><YesNo at={at} name="Gateway on-link" field="gatewayOnLink" value={guest.gatewayOnLink} yes="outside its subnet on purpose" no="–" /></Fact>
          <Fact name="Forwards"><YesNo at={at} name="Forwards" field="forwards" value={guest.forwards} yes="yes, it is a router" /></Fact>
        </Facts>
        <Routes routes={sheet.data.routes} holder={{ guestId: id }} name={guest.name} />
        <Link className="act text-[13px]" to={`/networks/reach?from=${id}`}>Whom does it reach</Link>
      </Part>
      <Part title="Needs to start">
        <p>of use <Editable {...at} name="Time to start" field="startSeconds" value={guest.startSeconds} show={formatDuration} write={(value) => `${value} s`} parse={parseDuration} mono /> after power-on</p>
        <Needs needs={sheet.data.needs} holder={{ guestId: id }} name={guest.name} />
      </Part>
      <BackupsPart sheet={sheet.data} />
      {identity && (
        <Part title="Identity">
          <p>A {identity.copy} copy of <Link className="underline decoration-rule" to={`/guests/${identity.origin.id}`}>{identity.origin.name}</Link>, made {identity.madeAt.slice(0, 10)}. What must be its own:</p>
          <IdentityList items={identity.items} />
        </Part>
      )}
      {clones.length > 0 && (
        <Part title="Clones of it">
          {clones.map((clone) => <Link key={clone.id} className="mr-4 underline decoration-rule" to={`/guests/${clone.id}`}>{clone.name}</Link>)}
        </Part>
      )}
      {migrations.length > 0 && (
        <Part title="Migrations">
          {migrations.map((migration) => (
            <div key={migration.id}><Link className="underline decoration-rule" to={`/migrations/${migration.id}`}>{migration.source.name} → {migration.target.name}</Link> {migration.state}</div>
          ))}
        </Part>
      )}
      <Part title="Log"><Link className="act" to={`/log?subject=${id}`}>Entries about {guest.name}</Link></Part>
    </article>
  );
}

/** One more adapter, on a network, with the next free address, a found one, or none. */
function AddAdapter({ guestId, adapters }: { guestId: string; adapters: AdapterView[] }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({ networkId: '', ip: '' });
  if (!mayPlan) return null;
  const send = async () => {
    const body = { networkId: draft.networkId || null, ...(draft.ip.trim() ? { take: 'given', ip: draft.ip.trim() } : { take: draft.networkId ? 'next' : 'none' }) };
    if (await write(`guests/${guestId}/adapters`, { body })) setOpen(false);
  };
  const [a, b] = adapters;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-3">
      {open ? (
        <>
          <span className="w-[200px]"><Choose list="networks" label="Network of the new adapter" value={draft.networkId} onChange={(networkId) => setDraft({ ...draft, networkId })} placeholder="network" /></span>
          <input aria-label="Address of the new adapter" placeholder="next free address" className="mono w-[160px]" value={draft.ip} onChange={(event) => setDraft({ ...draft, ip: event.target.value })} />
          <button type="button" className="act" onClick={() => void send()}>Add it</button>
          <button type="button" className="act" onClick={() => setOpen(false)}>Drop</button>
        </>
      ) : (
        <button type="button" className="act" onClick={() => setOpen(true)}>Add an adapter</button>
      )}
      {adapters.length === 2 && a && b && <button type="button" className="act" onClick={() => void write('adapters/swap', { body: { aId: a.id, bId: b.id } })}>Change the two over</button>}
      <ProblemNote problem={problem} />
    </div>
  );
}

function AdapterLine({ adapter, seen }: { adapter: AdapterView; seen: number }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [ip, setIp] = useState('');
  return (
    <div className="border-b border-rule py-0.5">
      <div className="grid grid-cols-[150px_1fr_120px] items-baseline gap-3">
        {adapter.network ? <Link className="font-bold underline decoration-rule" to={`/networks/${adapter.network.id}`}>{adapter.network.name}</Link> : <span className="text-faint">no network</span>}
        <Editable name="MAC" path={`adapters/${adapter.id}`} seen={seen} field="mac" value={adapter.mac} show={(value) => value ?? 'unknown'} write={(value) => value ?? ''} parse={(text) => (text.trim() === '' ? { ok: true, value: '' } : parseMac(text))} mono />
        <span className="text-faint">{adapter.macAssigned ? 'generated' : adapter.mac ? 'found' : ''}</span>
      </div>
      <div className="flex flex-wrap gap-x-4 text-[13px]">
        <span className="text-faint">adapter {adapter.position + 1}</span>
        <YesNo at={{ path: `adapters/${adapter.id}`, seen }} name={`Adapter ${adapter.position + 1} is`} field="connected" value={adapter.connected} yes="connected" no="not connected" />
        <YesNo at={{ path: `adapters/${adapter.id}`, seen }} name={`Adapter ${adapter.position + 1} translates`} field="masquerade" value={adapter.masquerade} yes="translates what goes out" no="no translation" />
        {adapter.linkLocal && <span className="mono text-faint" title="link-local, made of its MAC (RFC 4291, appendix A)">{adapter.linkLocal}</span>}
        {adapter.mac && <details><summary className="min-h-6 cursor-pointer leading-6 text-faint">other notations</summary>{macNotations(adapter.mac).slice(1).map((text) => <p key={text} className="mono">{text}</p>)}</details>}
        {mayPlan && <button type="button" className="act text-[12px]" onClick={() => void write(`adapters/${adapter.id}`, { method: 'DELETE' })}>Remove adapter {adapter.position + 1}</button>}
      </div>
      {adapter.addresses.map((address) => (
        <div key={address.id} className="grid grid-cols-[150px_1fr_120px] gap-3">
          <span />
          <span><span className="mono">{address.ip}</span><Editable<number | null> path={`addresses/${address.id}`} seen={seen} name={`Prefix length of ${address.ip}`} field="prefixLength" value={address.prefixLength} show={(value) => (value === null ? '/?' : `/${value}`)} write={(value) => (value === null ? '' : String(value))} parse={(text) => (text.trim() === '' ? { ok: true, value: null } : asWhole(text.replace('/', '')))} mono /> {mayPlan && <button type="button" className="act text-xs" onClick={() => void write(`addresses/${address.id}`, { method: 'DELETE' })}>Release</button>}</span>
          <span className="text-faint">{address.assigned ? 'assigned' : 'found'}, <OneOf at={{ path: `addresses/${address.id}`, seen }} name={`Use of ${address.ip}`} field="use" value={address.use} choices={['static', 'reservation', 'shared', 'lease']} /></span>
        </div>
      ))}
      {mayPlan && (
        <div className="flex flex-wrap items-center gap-3">
          {adapter.network && <button type="button" className="act" onClick={() => void write('addresses', { body: { adapterId: adapter.id, assigned: true } })}>Assign the next free address</button>}
          <input aria-label="Address found on this adapter" placeholder="record a found address" className="mono w-[180px]" value={ip} onChange={(event) => setIp(event.target.value)} />
          {ip && <button type="button" className="act" onClick={() => void write('addresses', { body: { adapterId: adapter.id, ip, assigned: false } }).then((written) => written && setIp(''))}>Record</button>}
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
