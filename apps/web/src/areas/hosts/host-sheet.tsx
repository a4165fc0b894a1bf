import type { HostSheet } from '@insel/contract';
import { formatDuration, formatMemory, HOST_STATE_FOLLOWS, parseDuration } from '@insel/core';
import { Link } from 'react-router';
import { editing } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { asText, Editable } from '../../components/editable.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { Needs } from '../../components/needs.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { WindowEdit } from '../../components/small-edits.js';
import { NumberField, OneHost } from './host-field.js';
import { BaysPart } from './sheet-bays.js';
import { CapacityPart } from './sheet-capacity.js';
import { MachinePart } from './sheet-machine.js';
import { ManagementPart } from './sheet-management.js';
import { NetworksPart } from './sheet-network.js';
import { PoolsPart } from './sheet-pools.js';
import { VerificationPart } from './sheet-verification.js';
import { useRead } from '../../client/read.js';

export function HostSheetView({ id }: { id: string }) {
  const query = useRead('host', { id });
  const sites = useRead('sites');
  if (query.error) return <p className="text-signal">{query.error.message}</p>;
  if (!query.data) return null;
  const sheet = query.data;
  const { host } = sheet;
  const at = editing('host.edit', host);
  return (
    <OneHost value={host}>
      <article aria-label={`Host ${host.name}`}>
        <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
          <h1>
            <Editable at={at('name')} name="Name" value={host.name} show={String} parse={asText} />
          </h1>
          <Editable
            at={at('state')}
            name="State"
            value={host.state}
            show={String}
            parse={(text) => ({ ok: true, value: text as typeof host.state })}
            choices={[host.state, ...HOST_STATE_FOLLOWS[host.state]].map((state) => ({
              value: state,
              label: state,
            }))}
          />
          <Editable
            at={at('siteId')}
            name="Site"
            value={host.siteId}
            show={(value) =>
              value === null
                ? 'no site'
                : (sites.data?.find((site) => site.id === value)?.name ?? sheet.site?.name ?? '')
            }
            write={(value) => value ?? ''}
            parse={(text) => ({ ok: true, value: text || null })}
            choices={[
              { value: '', label: 'no site' },
              ...(sites.data ?? []).map((site) => ({ value: site.id, label: site.name })),
            ]}
          />
          {sheet.rack && (
            <span>
              {sheet.rack.name}
              {host.rackUnit !== null &&
                `, U ${host.rackUnit}${host.rackHeight > 1 ? `–${host.rackUnit + host.rackHeight - 1}` : ''}`}
            </span>
          )}
          <HostActions host={host} />
        </div>
        <SheetFindings findings={sheet.findings} />
        <CapacityPart sheet={sheet} />
        <BaysPart sheet={sheet} />
        <PoolsPart sheet={sheet} />
        <NetworksPart sheet={sheet} />
        <ManagementPart sheet={sheet} />
        <VerificationPart sheet={sheet} />
        <Part title="Guests">
          {sheet.guests.map((guest) => (
            <div
              key={guest.id}
              className="grid grid-cols-2 gap-x-3 md:grid-cols-[1fr_150px_130px_90px] py-[3px]"
            >
              <Link className="underline decoration-rule" to={`/guests/${guest.id}`}>
                {guest.name}
              </Link>
              <span className="mono">
                {guest.vcpu} vCPU {formatMemory(guest.memoryMiB)}
              </span>
              <span className="mono">{guest.address}</span>
              <span>{guest.state}</span>
            </div>
          ))}
          {sheet.guests.length === 0 && <p className="text-faint">No guest lives here.</p>}
        </Part>
        <MachinePart sheet={sheet} />
        <Part title="Needs to start">
          <p>
            starts guests{' '}
            <Editable
              at={at('bootSeconds')}
              name="Time to start"
              value={host.bootSeconds}
              show={formatDuration}
              write={(value) => `${value} s`}
              parse={parseDuration}
              mono
            />{' '}
            after power-on; is off{' '}
            <Editable
              at={at('stopSeconds')}
              name="Time to stop"
              value={host.stopSeconds}
              show={formatDuration}
              write={(value) => `${value} s`}
              parse={parseDuration}
              mono
            />{' '}
            after its last guest
          </p>
          <Facts>
            <NumberField
              name="Starts at once"
              field="startsAtOnce"
              unit="guests"
              after={
                host.startsAtOnce === null && <span className="text-faint">as its group says</span>
              }
            />
          </Facts>
          <Facts>
            <Fact name="May be worked at">
              <WindowEdit at={at('workWindow')} name="May be worked at" value={host.workWindow} />{' '}
              <span className="text-faint">{sheet.zone}</span>
            </Fact>
          </Facts>
          <Needs needs={sheet.needs} holder={{ hostId: id }} name={host.name} />
        </Part>
      </article>
    </OneHost>
  );
}

/** Where a host takes no guests yet, it is built first. */
function HostActions({ host: { id, state } }: { host: HostSheet['host'] }) {
  const mayPlan = useMayPlan();
  const build = { label: 'Build sheet', to: `/hosts/${id}/build-sheet` };
  const plan = { label: 'Plan a guest here', to: `/guests/new?host=${id}` };
  const building = state === 'planned' || state === 'building';
  return (
    <SheetActions
      first={building ? build : mayPlan && state !== 'retired' ? plan : null}
      rest={[
        building ? mayPlan && plan : build,
        mayPlan && { label: 'Next like this', to: `/hosts/${id}/alike` },
        { label: 'Empty it', to: `/plans/moves?host=${id}` },
        { label: 'Whom does it reach', to: `/networks/reach?from=${id}` },
        { label: 'Entries in the log', to: `/log?subject=${id}` },
      ]}
    />
  );
}
