import type { Named } from '@insel/contract';
import type { Row } from '@insel/core';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { NotesEdit, OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';
import { SubnetPart } from './subnet-part.js';
import { NamedSelect } from '../../components/named-select.js';

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
          <Fact name="Notes" wide>
            <NotesEdit at={at('notes')} value={network.notes} />
          </Fact>
        </Facts>
      </Part>
    </article>
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
        <NamedSelect
          aria-label="Routing domain of the subnet"
          value={domainId}
          onChange={(event) => setDomainId(event.target.value)}
          rows={domains}
        />
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
      <NamedSelect
        aria-label="Let a host carry it, bridged"
        value=""
        onChange={(event) =>
          void make('host.carry', { hostId: event.target.value, networkId, mode: 'bridged' })
        }
        rows={free}
        none="Let a host carry it, bridged …"
      />
      <ProblemNote problem={problem} anyway={anyway} />
    </div>
  );
}
