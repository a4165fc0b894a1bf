import type { NetworkSheet, SubnetView } from '@insel/contract';
import { parseAddress } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { read } from '../../frame/api.js';
import { useMayPlan } from '../../frame/session.js';
import { useWrite } from '../../frame/write.js';
import { asText, asWhole, Editable } from '../../ink/editable.js';
import { errorsOf } from '../../ink/field.js';
import { FindingLine } from '../../ink/mark.js';
import { ProblemNote } from '../../ink/problem.js';
import { Fact, Facts, Part } from '../../ink/sheet.js';
import { Figure } from '../../ink/workings.js';
import { AddressRuler } from './ruler.js';

export function NetworkSheetView({ id }: { id: string }) {
  const sheet = useQuery({ queryKey: ['sheet', 'network', id], queryFn: () => read<NetworkSheet>(`networks/${id}`) });
  if (sheet.error) return <p className="text-signal">{sheet.error.message}</p>;
  if (!sheet.data) return null;
  const { network, subnets, carriedBy, findings, site } = sheet.data;
  const at = { path: `networks/${id}`, seen: network.revision };
  return (
    <article aria-label={`Network ${network.name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1><Editable {...at} name="Name" field="name" value={network.name} show={String} parse={asText} /></h1>
        <span>VLAN <Editable {...at} name="VLAN" field="vlanId" value={network.vlanId} show={(value) => (value === null ? 'none' : String(value))} write={(value) => (value === null ? '' : String(value))} parse={(text) => (text.trim() === '' ? { ok: true as const, value: null } : asWhole(text))} mono /></span>
        <span>MTU <Editable {...at} name="MTU" field="mtu" value={network.mtu} show={String} parse={asWhole} mono /></span>
        {site && <span>{site.name}</span>}
      </div>
      {findings.map((finding) => <FindingLine key={finding.id} finding={finding} />)}
      {subnets.map((subnet) => <SubnetPart key={subnet.id} subnet={subnet} seen={network.revision} />)}
      {subnets.length === 0 && <p className="py-2 text-faint">This network has no subnet yet: it hands out no addresses.</p>}
      <AddSubnet networkId={id} />
      <Part title="Carried by">
        {carriedBy.map((host) => <span key={host.id} className="mr-4"><Link className="underline decoration-rule" to={`/hosts/${host.id}`}>{host.name}</Link> <span className="text-faint">{host.mode}</span></span>)}
        {carriedBy.length === 0 && <span className="text-faint">No host carries it: no guest can be joined to it.</span>}
      </Part>
      <Part title="About it">
        <Facts>
          <Fact name="Purpose"><Editable {...at} name="Purpose" field="purpose" value={network.purpose} show={String} parse={asText} /></Fact>
          <Fact name="Notes"><Editable {...at} name="Notes" field="notes" value={network.notes} show={String} parse={asText} /></Fact>
        </Facts>
        <Link className="act" to={`/log?subject=${id}`}>Entries about {network.name}</Link>
      </Part>
    </article>
  );
}

function SubnetPart({ subnet, seen }: { subnet: SubnetView; seen: number }) {
  const at = { path: `subnets/${subnet.id}`, seen };
  const ip = (text: string): { ok: true; value: string | null } | { ok: false; sentence: string } => {
    if (text.trim() === '') return { ok: true, value: null };
    const found = parseAddress(text);
    return found.ok ? { ok: true, value: text.trim() } : found;
  };
  const many = (text: string): { ok: true; value: readonly string[] } | { ok: false; sentence: string } => {
    const list = text.split(/[\s,]+/).filter(Boolean);
    for (const one of list) {
      const found = parseAddress(one);
      if (!found.ok) return found;
    }
    return { ok: true, value: list };
  };
  return (
    <section aria-label={`Subnet ${subnet.prefix}`}>
      <div className="mb-2 flex flex-wrap gap-x-5 border-t border-rule pt-2">
        <b className="mono"><Editable {...at} name="Block" field="prefix" value={subnet.prefix} show={String} parse={asText} mono /></b>
        <span>gateway <Editable {...at} name="Gateway" field="gateway" value={subnet.gateway} show={(value) => value ?? 'none'} write={(value) => value ?? ''} parse={ip} mono /></span>
        <span>name servers <Editable {...at} name="Name servers" field="nameServers" value={subnet.nameServers} show={(value) => value.join(', ') || 'none'} write={(value) => value.join(', ')} parse={many} mono /></span>
        <span>next free <b className="mono text-teal">{subnet.next ?? 'none'}</b></span>
        <span>free <Figure figure={subnet.free} /></span>
        {subnet.taken.value !== null && <span>taken <Figure figure={subnet.taken} /></span>}
      </div>
      <AddressRuler subnet={subnet} />
      <div className="grid gap-x-6 lg:grid-cols-2">
        <div>
          <h2 className="text-[13px] font-bold text-faint">Runs</h2>
          {subnet.runs.map((run) => (
            <div key={run.first} className="grid grid-cols-[74px_1fr_60px] border-b border-rule text-[13px]">
              <span className={run.kind === 'free' ? 'text-teal' : ''}>{run.kind}</span>
              <span className="mono">{run.first === run.last ? run.first : `${run.first} – ${run.last}`}</span>
              <span className="mono text-right">{run.count.length < 10 ? run.count : `2^${BigInt(run.count).toString(2).length - 1}`}</span>
            </div>
          ))}
          <Ranges subnet={subnet} />
        </div>
        <div>
          <h2 className="text-[13px] font-bold text-faint">Held here</h2>
          {subnet.held.map((held) => (
            <div key={held.id} className="grid grid-cols-[1fr_140px_90px] border-b border-rule text-[13px]">
              <Link className="underline decoration-rule" to={`/${held.holder.kind}s/${held.holder.id}`}>{held.holder.name}</Link>
              <span className="mono">{held.ip} {held.inRange && <span className="text-amber">◆</span>}</span>
              <span className="text-faint">{held.assigned ? 'assigned' : 'found'}</span>
            </div>
          ))}
          {subnet.held.length === 0 && <p className="text-faint">Nobody.</p>}
        </div>
      </div>
    </section>
  );
}

function Ranges({ subnet }: { subnet: SubnetView }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [open, setOpen] = useState(false);
  const [range, setRange] = useState({ use: 'dynamic', firstIp: '', lastIp: '' });
  const errors = errorsOf(problem);
  if (!mayPlan) return null;
  const field = (name: keyof typeof range) => ({ value: range[name], onChange: (event: { target: { value: string } }) => setRange({ ...range, [name]: event.target.value }) });
  const send = async () => {
    if (await write(`subnets/${subnet.id}/ranges`, { body: range })) setOpen(false);
  };
  return (
    <div className="my-1 text-[13px]">
      {subnet.ranges.map((found) => (
        <div key={found.id}>
          {found.use} <span className="mono">{found.firstIp} – {found.lastIp}</span> {found.purpose}{' '}
          <button type="button" className="act" onClick={() => void write(`ranges/${found.id}`, { method: 'DELETE' })}>Remove</button>
        </div>
      ))}
      {open ? (
        <div className="flex flex-wrap items-center gap-2">
          <select aria-label="Use of the range" {...field('use')}><option>dynamic</option><option>reserved</option></select>
          <input aria-label="First address" placeholder="first" className="mono w-[130px]" aria-invalid={Boolean(errors.firstIp)} {...field('firstIp')} />
          <input aria-label="Last address" placeholder="last" className="mono w-[130px]" aria-invalid={Boolean(errors.lastIp)} {...field('lastIp')} />
          <button type="button" className="act" onClick={() => void send()}>Keep</button>
          <button type="button" className="act" onClick={() => setOpen(false)}>Drop</button>
        </div>
      ) : (
        <button type="button" className="act" onClick={() => setOpen(true)}>Set apart a range</button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

function AddSubnet({ networkId }: { networkId: string }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [prefix, setPrefix] = useState('');
  if (!mayPlan) return null;
  const send = async () => {
    if (await write(`networks/${networkId}/subnets`, { body: { prefix } })) setPrefix('');
  };
  return (
    <div className="my-2 flex flex-wrap items-center gap-2">
      <input aria-label="Block of another subnet" placeholder="another subnet" className="mono w-[190px]" value={prefix} onChange={(event) => setPrefix(event.target.value)} onKeyDown={(event) => event.key === 'Enter' && void send()} />
      <button type="button" className="act" disabled={prefix === ''} onClick={() => void send()}>Record it</button>
      <ProblemNote problem={problem} />
    </div>
  );
}
