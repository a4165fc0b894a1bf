import type { AddressView, HostSheet, Named, NetworkListRow, PoolView } from '@insel/contract';
import { formatBoth, formatMemory, HOST_STATE_FOLLOWS, parseBytes, parseMemory, type Row } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { read } from '../../frame/api.js';
import { useMayPlan } from '../../frame/session.js';
import { useWrite } from '../../frame/write.js';
import { asText, asWhole, Editable } from '../../ink/editable.js';
import { FindingLine } from '../../ink/mark.js';
import { ProblemNote } from '../../ink/problem.js';
import { Fact, Facts, Part } from '../../ink/sheet.js';
import { Figure } from '../../ink/workings.js';

export function HostSheetView({ id }: { id: string }) {
  const sheet = useQuery({ queryKey: ['sheet', 'host', id], queryFn: () => read<HostSheet>(`hosts/${id}`) });
  const platforms = useQuery({ queryKey: ['platforms'], queryFn: () => read<Row<'platform'>[]>('platforms') });
  const sites = useQuery({ queryKey: ['sites'], queryFn: () => read<Named[]>('sites') });
  if (sheet.error) return <p className="text-signal">{sheet.error.message}</p>;
  if (!sheet.data) return null;
  const { host, figures, platform } = sheet.data;
  const at = { path: `hosts/${id}`, seen: host.revision };
  const whole = { ...at, show: String, parse: asWhole, mono: true };
  return (
    <article aria-label={`Host ${host.name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <Editable {...at} name="Name" field="name" value={host.name} show={String} parse={asText} />
        </h1>
        <Editable {...at} name="State" field="state" value={host.state} show={String} parse={(text) => ({ ok: true, value: text as typeof host.state })} choices={[host.state, ...HOST_STATE_FOLLOWS[host.state]].map((state) => ({ value: state, label: state }))} />
        <Editable {...at} name="Site" field="siteId" value={host.siteId} show={(value) => (value === null ? 'no site' : (sites.data?.find((site) => site.id === value)?.name ?? sheet.data.site?.name ?? ''))} write={(value) => value ?? ''} parse={(text) => ({ ok: true, value: text || null })} choices={[{ value: '', label: 'no site' }, ...(sites.data ?? []).map((site) => ({ value: site.id, label: site.name }))]} />
        <Link className="act ml-auto" to={`/guests/new?host=${id}`}>
          Plan a guest here
        </Link>
      </div>
      {sheet.data.findings.map((finding) => (
        <FindingLine key={finding.id} finding={finding} brief />
      ))}
      <Part title="Processors and memory">
        <Facts>
          <Fact name="Sockets"><Editable {...whole} name="Sockets" field="sockets" value={host.sockets} /></Fact>
          <Fact name="Left for guests"><Figure figure={figures.memoryLeft} rounding="down" /></Fact>
          <Fact name="Cores per socket"><Editable {...whole} name="Cores per socket" field="coresPerSocket" value={host.coresPerSocket} /></Fact>
          <Fact name="Of"><Figure figure={figures.memoryForGuests} rounding="down" /> · <Figure figure={figures.memoryTaken} /> taken</Fact>
          <Fact name="Threads per core"><Editable {...whole} name="Threads per core" field="threadsPerCore" value={host.threadsPerCore} /></Fact>
          <Fact name="vCPU left"><Figure figure={figures.vcpuLeft} /> of <Figure figure={figures.vcpuForGuests} /></Fact>
          <Fact name="Memory installed"><Editable {...at} name="Memory installed" field="installedMiB" value={host.installedMiB} show={(value) => formatMemory(value)} parse={parseMemory} mono /></Fact>
          <Fact name="Limits first">{sheet.data.limits}</Fact>
          <Fact name="System sees">
            <Editable {...at} name="System sees" field="visibleMiB" value={host.visibleMiB} show={(value) => (value === null ? 'not looked at' : formatMemory(value))} write={(value) => (value === null ? '' : formatMemory(value))} parse={(text) => (text.trim() === '' ? { ok: true, value: null } : parseMemory(text))} mono />
          </Fact>
          <Fact name="Largest guest"><Figure figure={figures.largestGuest} rounding="down" /> with 2 vCPU</Fact>
          <Fact name="Platform"><Editable {...at} name="Platform" field="platformId" value={host.platformId} show={(value) => platforms.data?.find((found) => found.id === value)?.name ?? platform.name} write={String} parse={asText} choices={(platforms.data ?? []).map((found) => ({ value: found.id, label: found.name }))} /></Fact>
          <Fact name="Model"><Editable {...at} name="Model" field="processorModel" value={host.processorModel} show={String} parse={asText} /></Fact>
          <Fact name="Purpose"><Editable {...at} name="Purpose" field="purpose" value={host.purpose} show={String} parse={asText} /></Fact>
          <Fact name="Notes"><Editable {...at} name="Notes" field="notes" value={host.notes} show={String} parse={asText} /></Fact>
        </Facts>
      </Part>
      <Part title="Pools">
        {sheet.data.pools.map((pool) => (
          <PoolLine key={pool.id} pool={pool} hostId={id} />
        ))}
        {sheet.data.pools.length === 0 && <p className="text-faint">No pool: guests have nowhere to lie.</p>}
        <AddPool hostId={id} />
      </Part>
      <Part title="Networks carried">
        {sheet.data.networks.map((found) => (
          <div key={found.id} className="grid grid-cols-3 gap-3">
            {found.network ? <Link className="font-bold underline decoration-rule" to={`/networks/${found.network.id}`}>{found.network.name}</Link> : '–'}
            <span>{found.mode}</span>
            <span>{found.guests} guests</span>
          </div>
        ))}
        <CarryNetwork hostId={id} carried={sheet.data.networks.flatMap((found) => (found.network ? [found.network.id] : []))} />
      </Part>
      <Part title="Management">
        {sheet.data.management.map((address) => (
          <AddressLine key={address.id} address={address} />
        ))}
        {sheet.data.management.length === 0 && <p className="text-faint">No address recorded.</p>}
      </Part>
      <Part title="Guests">
        {sheet.data.guests.map((guest) => (
          <div key={guest.id} className="grid grid-cols-[1fr_150px_130px_90px] gap-3">
            <Link className="underline decoration-rule" to={`/guests/${guest.id}`}>{guest.name}</Link>
            <span className="mono">{guest.vcpu} vCPU {formatMemory(guest.memoryMiB)}</span>
            <span className="mono">{guest.address}</span>
            <span>{guest.state}</span>
          </div>
        ))}
        {sheet.data.guests.length === 0 && <p className="text-faint">No guest lives here.</p>}
      </Part>
      <Part title="Log">
        <Link className="act" to={`/log?subject=${id}`}>Entries about {host.name}</Link>
      </Part>
    </article>
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

function PoolLine({ pool, hostId }: { pool: PoolView; hostId: string }) {
  const others = pool.hosts.filter((host) => host.id !== hostId);
  return (
    <div className="grid grid-cols-[110px_1fr_150px] items-baseline gap-3">
      <b className="truncate">{pool.name}</b>
      <span>
        <Editable name={`Usable size of ${pool.name}`} path={`pools/${pool.id}`} seen={pool.revision} field="usableBytes" value={pool.usableBytes} show={formatBoth} write={(value) => `${value} B`} parse={parseBytes} mono />
        {others.length > 0 && <span className="text-faint"> · also reached by {others.map((host) => host.name).join(', ')}</span>}
      </span>
      <span className="text-right"><Figure figure={pool.left} rounding="down" /> left</span>
    </div>
  );
}

function AddPool({ hostId }: { hostId: string }) {
  const mayPlan = useMayPlan();
  const { write, busy, problem } = useWrite();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [size, setSize] = useState('');
  if (!mayPlan) return null;
  if (!open) return <button type="button" className="act" onClick={() => setOpen(true)}>Add a pool</button>;
  const bytes = parseBytes(size);
  const send = async () => {
    if (bytes.ok && (await write('pools', { body: { name, usableBytes: bytes.value, hostIds: [hostId] } }))) setOpen(false);
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <input aria-label="Name of the pool" placeholder="Name" value={name} onChange={(event) => setName(event.target.value)} />
      <input aria-label="Usable size" placeholder="4 TB" className="mono" value={size} onChange={(event) => setSize(event.target.value)} />
      <span className="text-xs text-faint">{size && (bytes.ok ? formatBoth(bytes.value) : bytes.sentence)}</span>
      <button type="button" className="act" disabled={busy} onClick={() => void send()}>Keep</button>
      <button type="button" className="act" onClick={() => setOpen(false)}>Drop</button>
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
        {free.map((network) => (
          <option key={network.id} value={network.id}>{network.name}</option>
        ))}
      </select>
      <ProblemNote problem={problem} />
    </div>
  );
}
