import type { HeldView, Named, SubnetView } from '@insel/contract';
import { ADDRESS_POLICIES, parseAddress, type Row } from '@insel/core';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { editing, useChange } from '../../frame/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { errorsOf } from '../../components/field.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { AddressOfMac, FreeRun } from './address-help.js';
import { AddressRuler } from './ruler.js';
import { usePlanDrawn } from '../../frame/in-plan.js';
import { useRead } from '../../frame/read.js';

export function NetworkSheetView({ id }: { id: string }) {
  const sheet = useRead('network', { id });
  const mayPlan = useMayPlan();
  const go = useNavigate();
  const { make, problem } = useChange();
  if (sheet.error) return <p className="text-signal">{sheet.error.message}</p>;
  if (!sheet.data) return null;
  const { network, subnets, carriedBy, findings, alsoAt, devices } = sheet.data;
  const at = editing('network.edit', network);
  return (
    <article aria-label={`Network ${network.name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <Editable at={at('name')} name="Name" value={network.name} show={String} parse={asText} />
        </h1>
        <span>
          VLAN{' '}
          <Editable
            at={at('vlanId')}
            name="VLAN"
            value={network.vlanId}
            show={(value) => (value === null ? 'none' : String(value))}
            write={(value) => (value === null ? '' : String(value))}
            parse={(text) =>
              text.trim() === '' ? { ok: true as const, value: null } : asWhole(text)
            }
            mono
          />
        </span>
        <span>
          MTU{' '}
          <Editable
            at={at('mtu')}
            name="MTU"
            value={network.mtu}
            show={String}
            parse={asWhole}
            mono
          />
        </span>
        {network.untrusted && <span className="font-bold text-amber">◆ untrusted</span>}
        <SheetActions
          first={
            mayPlan && carriedBy[0]
              ? {
                  label: 'Plan a guest on it',
                  to: `/guests/new?host=${carriedBy[0].id}&network=${id}`,
                }
              : null
          }
          rest={[
            { label: 'Who reaches whom on it', to: `/networks/matrix?network=${id}` },
            { label: 'Entries in the log', to: `/log?subject=${id}` },
            mayPlan && {
              label: `Remove ${network.name}`,
              act: () =>
                void make('network.remove', { id }, { seen: network }).then(
                  (written) => written && void go('/networks'),
                ),
            },
          ]}
        />
      </div>
      <ProblemNote problem={problem} />
      <SheetFindings findings={findings} />
      {subnets.map((subnet) => (
        <SubnetPart key={subnet.id} subnet={subnet} />
      ))}
      {subnets.length === 0 && (
        <p className="py-2 text-faint">
          This network has no subnet yet: it hands out no addresses.
        </p>
      )}
      <AddSubnet networkId={id} />
      <Part title="Carried by">
        {carriedBy.map((host) => (
          <span key={host.id} className="mr-4">
            <Link className="underline decoration-rule" to={`/hosts/${host.id}`}>
              {host.name}
            </Link>{' '}
            <span className="text-faint">{host.mode}</span>
          </span>
        ))}
        {devices.map((device) => (
          <span key={`${device.id} ${device.port}`} className="mr-4">
            <Link className="underline decoration-rule" to={`/networks/devices?open=${device.id}`}>
              {device.name}
            </Link>{' '}
            <span className="text-faint">by {device.port}</span>
          </span>
        ))}
        {carriedBy.length === 0 && (
          <span className="text-faint">No host carries it: no guest can be joined to it.</span>
        )}
        <Carry networkId={id} carriedBy={carriedBy.map((host) => host.id)} />
      </Part>
      <Part title="About it">
        <Facts>
          <Fact name="Purpose">
            <TextEdit at={at('purpose')} name="Purpose" value={network.purpose} />
          </Fact>
          <Fact name="Who is on it">
            <YesNo
              at={at('untrusted')}
              name="Who is on it"
              value={network.untrusted}
              yes="people one does not know"
              no="known machines"
            />
          </Fact>
          <Sites network={network} alsoAt={alsoAt} />
          <Fact name="Notes">
            <Editable
              at={at('notes')}
              name="Notes"
              value={network.notes}
              show={String}
              parse={asText}
            />
          </Fact>
        </Facts>
      </Part>
    </article>
  );
}

function SubnetPart({ subnet }: { subnet: SubnetView }) {
  const at = editing('subnet.edit', subnet);
  const ip = (
    text: string,
  ): { ok: true; value: string | null } | { ok: false; sentence: string } => {
    if (text.trim() === '') return { ok: true, value: null };
    const found = parseAddress(text);
    return found.ok ? { ok: true, value: text.trim() } : found;
  };
  const many = (
    text: string,
  ): { ok: true; value: readonly string[] } | { ok: false; sentence: string } => {
    const list = text.split(/[\s,]+/).filter(Boolean);
    for (const one of list) {
      const found = parseAddress(one);
      if (!found.ok) return found;
    }
    return { ok: true, value: list };
  };
  const drawn = usePlanDrawn();
  const [range, setRange] = useState<RangeDraft | null>(null);
  return (
    <section aria-label={`Subnet ${subnet.prefix}`}>
      <div className="mb-2 flex flex-wrap gap-x-5 border-t border-rule pt-2">
        <b className="mono">
          <Editable
            at={at('prefix')}
            name="Block"
            value={subnet.prefix}
            show={String}
            parse={asText}
            mono
          />
        </b>
        <span>
          gateway{' '}
          <Editable
            at={at('gateway')}
            name="Gateway"
            value={subnet.gateway}
            show={(value) => value ?? 'none'}
            write={(value) => value ?? ''}
            parse={ip}
            mono
          />
        </span>
        <span>
          name servers{' '}
          <Editable
            at={at('nameServers')}
            name="Name servers"
            value={subnet.nameServers}
            show={(value) => value.join(', ') || 'none'}
            write={(value) => value.join(', ')}
            parse={many}
            mono
          />
        </span>
        <span>
          next free <b className="mono text-teal">{subnet.next ?? 'none'}</b>
          {subnet.gateway === null && subnet.prefix.includes('.') && (
            <span className="text-xs text-faint">
              {' '}
              first and last come last: no gateway is recorded
            </span>
          )}
        </span>
        <span>
          free <Figure figure={subnet.free} />
        </span>
        {subnet.taken.value !== null && (
          <span>
            taken <Figure figure={subnet.taken} />
          </span>
        )}
        <span>
          domain <TextEdit at={at('domain')} name="Domain" value={subnet.domain} mono />
        </span>
        <span>
          next is{' '}
          <OneOf
            at={at('policy')}
            name="Which address is next"
            value={subnet.policy}
            choices={ADDRESS_POLICIES.map((policy) => ({ value: policy, label: POLICY[policy]! }))}
          />
        </span>
        <span>
          released ones rest{' '}
          <Editable
            at={at('quarantineDays')}
            name="Days of rest"
            value={subnet.quarantineDays}
            show={(value) => (value === 0 ? 'not' : `${value} days`)}
            write={String}
            parse={asWhole}
            mono
          />
        </span>
        <span>
          first ones offered last{' '}
          <Editable
            at={at('lowKept')}
            name="Low addresses kept back"
            value={subnet.lowKept}
            show={(value) => (value === 0 ? 'none' : String(value))}
            write={String}
            parse={asWhole}
            mono
          />
        </span>
        <span className="text-faint">{subnet.routingDomain.name}</span>
      </div>
      <AddressRuler
        subnet={subnet}
        pencilled={drawn?.addresses.filter(({ subnetId }) => subnetId === subnet.id)}
        onRange={(firstIp, lastIp) => setRange({ use: range?.use ?? 'dynamic', firstIp, lastIp })}
      />
      <div className="grid gap-x-6 lg:grid-cols-2">
        <div>
          <h2 className="text-[13px] font-bold text-faint">Runs</h2>
          {subnet.runs.map((run) => (
            <div
              key={run.first}
              className="grid grid-cols-[74px_1fr_60px] border-b border-rule text-[13px]"
            >
              <span className={run.kind === 'free' ? 'text-teal' : ''}>{run.kind}</span>
              <span className="mono">
                {run.first === run.last ? run.first : `${run.first} – ${run.last}`}
              </span>
              <span className="mono text-right">
                {run.count.length < 10
                  ? run.count
                  : `2^${BigInt(run.count).toString(2).length - 1}`}
              </span>
            </div>
          ))}
          <Ranges subnet={subnet} range={range} setRange={setRange} />
          <FreeRun
            subnet={subnet}
            onTake={(firstIp, lastIp) => setRange({ use: 'reserved', firstIp, lastIp })}
          />
          <AddressOfMac subnet={subnet} />
          <Resting subnet={subnet} />
          <Cut subnet={subnet} />
        </div>
        <div>
          <h2 className="text-[13px] font-bold text-faint">Held here</h2>
          {subnet.held.map((held) => (
            <HeldLine key={held.id} held={held} />
          ))}
          {subnet.held.length === 0 && <p className="text-faint">Nobody.</p>}
        </div>
      </div>
    </section>
  );
}

interface RangeDraft {
  use: Row<'range'>['use'];
  firstIp: string;
  lastIp: string;
}

function Ranges({
  subnet,
  range,
  setRange,
}: {
  subnet: SubnetView;
  range: RangeDraft | null;
  setRange: (range: RangeDraft | null) => void;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const errors = errorsOf(problem);
  if (!mayPlan) return null;
  const field = (name: keyof RangeDraft) => ({
    value: range![name],
    onChange: (event: { target: { value: string } }) =>
      setRange({ ...range!, [name]: event.target.value }),
  });
  const send = async () => {
    if (await make('range.record', { subnetId: subnet.id, ...range! })) setRange(null);
  };
  return (
    <div className="my-1 text-[13px]">
      {subnet.ranges.map((found) => (
        <div key={found.id}>
          {found.use}{' '}
          <span className="mono">
            {found.firstIp} – {found.lastIp}
          </span>{' '}
          {found.purpose}{' '}
          <button
            type="button"
            className="act"
            onClick={() => void make('range.remove', { id: found.id }, { seen: found })}
          >
            Remove
          </button>
        </div>
      ))}
      {range ? (
        <div className="flex flex-wrap items-center gap-2">
          <select aria-label="Use of the range" {...field('use')}>
            <option>dynamic</option>
            <option>reserved</option>
            <option>static</option>
          </select>
          <input
            aria-label="First address"
            placeholder="first"
            className="mono w-[130px]"
            aria-invalid={Boolean(errors.firstIp)}
            {...field('firstIp')}
          />
          <input
            aria-label="Last address"
            placeholder="last"
            className="mono w-[130px]"
            aria-invalid={Boolean(errors.lastIp)}
            {...field('lastIp')}
          />
          <button type="button" className="act" onClick={() => void send()}>
            Keep
          </button>
          <button type="button" className="act" onClick={() => setRange(null)}>
            Drop
          </button>
        </div>
      ) : (
        <button
          type="button"
          className="act"
          onClick={() => setRange({ use: 'dynamic', firstIp: '', lastIp: '' })}
        >
          Set apart a range
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

const POLICY: Record<string, string> = {
  lowest: 'the lowest free',
  'after last': 'after the last held',
  random: 'any, at random',
};
const SHEET: Record<string, (id: string) => string> = {
  host: (id) => `/hosts/${id}`,
  guest: (id) => `/guests/${id}`,
  device: (id) => `/networks/devices?open=${id}`,
};

function HeldLine({ held }: { held: HeldView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  return (
    <div className="grid grid-cols-2 md:grid-cols-[1fr_140px_78px_56px] border-b border-rule text-[13px]">
      <Link className="underline decoration-rule" to={SHEET[held.holder.kind]!(held.holder.id)}>
        {held.holder.name}
      </Link>
      <span className="mono">
        {held.ip}{' '}
        {held.inRange && held.use !== 'reservation' && <span className="text-amber">◆</span>}
      </span>
      <span className="text-faint">
        {held.use === 'static' ? (held.assigned ? 'assigned' : 'found') : held.use}
      </span>
      {mayPlan && (
        <button
          type="button"
          className="act text-[12px]"
          aria-label={`Release ${held.ip} of ${held.holder.name}`}
          onClick={() => void make('address.release', { id: held.id }, { seen: held })}
        >
          Release
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Released addresses that are not given out again yet. */
function Resting({ subnet }: { subnet: SubnetView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  if (subnet.resting.length === 0) return null;
  return (
    <div className="mt-1 text-[13px]">
      <h2 className="font-bold text-faint">Resting</h2>
      {subnet.resting.map((rest) => (
        <p key={rest.id} className="flex gap-3">
          <span className="mono">{rest.ip}</span> until {rest.until}, was {rest.was}{' '}
          {mayPlan && (
            <button
              type="button"
              className="act text-[12px]"
              onClick={() => void make('address.end-rest', { id: rest.id }, { seen: rest })}
            >
              Give it out again
            </button>
          )}
        </p>
      ))}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** A subnet cut into equal parts, joined with its neighbour, or removed. */
function Cut({ subnet }: { subnet: SubnetView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [length, setLength] = useState('');
  if (!mayPlan) return null;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
      <input
        aria-label={`Prefix length to cut ${subnet.prefix} into`}
        placeholder="/26"
        className="mono w-[56px]"
        value={length}
        onChange={(event) => setLength(event.target.value)}
      />
      <button
        type="button"
        className="act"
        disabled={!/^\/?\d+$/.test(length)}
        onClick={() =>
          void make(
            'subnet.split',
            { id: subnet.id, length: Number(length.replace('/', '')) },
            { seen: subnet },
          ).then((written) => written && setLength(''))
        }
      >
        Cut into these
      </button>
      {subnet.joinable.map((other) => (
        <button
          key={other.id}
          type="button"
          className="act"
          onClick={() =>
            void make(
              'subnet.join',
              { id: subnet.id, otherId: other.id },
              { seen: [subnet, other] },
            )
          }
        >
          Join with {other.prefix}
        </button>
      ))}
      <button
        type="button"
        className="act"
        onClick={() => void make('subnet.remove', { id: subnet.id }, { seen: subnet })}
      >
        Remove {subnet.prefix}
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}

function Sites({ network, alsoAt }: { network: Row<'network'>; alsoAt: Named[] }) {
  const { siteId } = network;
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const sites = useRead('sites').data ?? [];
  const chosen = new Set(alsoAt.map((site) => site.id));
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    void make('network.edit', { id: network.id, alsoAt: [...next] }, { seen: network });
  };
  return (
    <>
      <Fact name="Site">
        <OneOf
          at={editing('network.edit', network)('siteId')}
          name="Site"
          value={siteId}
          choices={[
            { value: '', label: 'no site' },
            ...sites.map((site) => ({ value: site.id, label: site.name })),
          ]}
        />
      </Fact>
      <Fact name="Reaches also">
        {sites
          .filter((site) => site.id !== siteId)
          .map((site) => (
            <label key={site.id} className="mr-3 inline-flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                disabled={!mayPlan}
                checked={chosen.has(site.id)}
                onChange={() => toggle(site.id)}
              />
              {site.name}
            </label>
          ))}
        <ProblemNote problem={problem} />
      </Fact>
    </>
  );
}

function AddSubnet({ networkId }: { networkId: string }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [prefix, setPrefix] = useState('');
  const [domainId, setDomainId] = useState('');
  const domains = useRead('routingDomains').data ?? [];
  if (!mayPlan) return null;
  const send = async () => {
    if (await make('subnet.record', { networkId, prefix, ...(domainId ? { domainId } : {}) }))
      setPrefix('');
  };
  return (
    <div className="my-2 flex flex-wrap items-center gap-2">
      <input
        aria-label="Block of another subnet"
        placeholder="another subnet"
        className="mono w-[190px]"
        value={prefix}
        onChange={(event) => setPrefix(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && void send()}
      />
      {domains.length > 1 && prefix !== '' && (
        <select
          aria-label="Routing domain of the subnet"
          value={domainId}
          onChange={(event) => setDomainId(event.target.value)}
        >
          {domains.map((domain) => (
            <option key={domain.id} value={domain.id}>
              {domain.name}
            </option>
          ))}
        </select>
      )}
      <button type="button" className="act" disabled={prefix === ''} onClick={() => void send()}>
        Record it
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}

/** One more host carries it, bridged: what a guest on that host needs to be joined to it. */
function Carry({ networkId, carriedBy }: { networkId: string; carriedBy: readonly string[] }) {
  const mayPlan = useMayPlan();
  const { make, anyway, problem } = useChange();
  const hosts = useRead('hosts', mayPlan ? { take: 200 } : null).data?.rows ?? [];
  const free = hosts.filter(({ id }) => !carriedBy.includes(id));
  if (!mayPlan || free.length === 0) return null;
  return (
    <div className="mt-1">
      <select
        aria-label="Let a host carry it, bridged"
        value=""
        onChange={(event) =>
          void make('host.carry', { hostId: event.target.value, networkId, mode: 'bridged' })
        }
      >
        <option value="">Let a host carry it, bridged …</option>
        {free.map((host) => (
          <option key={host.id} value={host.id}>
            {host.name}
          </option>
        ))}
      </select>
      <ProblemNote problem={problem} anyway={anyway} />
    </div>
  );
}
