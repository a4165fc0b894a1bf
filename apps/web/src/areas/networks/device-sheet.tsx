/** A device: what it is, where it stands, its addresses. */
import { DEVICE_KINDS, DEVICE_STATES } from '@insel/core';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { editing, useChange } from '../../client/change.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { GatewayFacts } from '../../components/gateway-facts.js';
import { Habits } from '../../components/habits.js';
import { ForwardedPorts } from '../../components/forwarded-ports.js';
import { Routes } from '../../components/routes.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { NotesEdit, OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';
import { ComputerPart } from './computer-part.js';
import { Ports } from './device-ports.js';

export function DeviceSheet({ id }: { id: string }) {
  const mayPlan = useMayPlan();
  const [, set] = useUrlState();
  const { make, problem } = useChange();
  const found = useRead('device', { id });
  const sites = useRead('sites').data ?? [];
  if (found.error) return <p className="text-signal">{found.error.message}</p>;
  if (!found.data) return null;
  const { device } = found.data;
  const at = editing('device.edit', device);
  return (
    <article aria-label={`Equipment ${device.name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <TextEdit at={at('name')} name="Name" value={device.name} />
        </h1>
        <OneOf at={at('kind')} name="Kind" value={device.kind} choices={DEVICE_KINDS} />
        <OneOf at={at('state')} name="State" value={device.state} choices={DEVICE_STATES} />
        <SheetActions
          first={{ label: 'Whom does it reach', to: `/networks/reach?from=${id}` }}
          rest={[
            { label: 'Entries in the log', to: `/log?subject=${id}` },
            mayPlan && {
              label: `Remove ${device.name}`,
              act: () =>
                void make('device.remove', { id }, { seen: device }).then(
                  (written) => written && set({ open: '' }),
                ),
            },
          ]}
        />
        <button type="button" className="act" onClick={() => set({ open: '' })}>
          Close
        </button>
      </div>
      <SheetFindings findings={device.findings} />
      {device.unread.length > 0 && (
        <Part title="Not read">
          {device.unread.map((text) => (
            <p key={text}>{text}</p>
          ))}
          {mayPlan && (
            <button
              type="button"
              className="act"
              onClick={() => void make('device.edit', { id, unread: [] }, { seen: device })}
            >
              I have looked: remove these remarks
            </button>
          )}
        </Part>
      )}
      {device.computer && <ComputerPart device={device} of={device.computer} />}
      <Part title="Routing">
        <Facts>
          <Fact name="Forwards">
            <YesNo at={at('forwards')} name="Forwards" value={device.forwards} />
          </Fact>
          <GatewayFacts at={at} of={device} />
          <Habits at={at} of={device} />
        </Facts>
        <Routes routes={device.routes} holder={{ deviceId: id }} name={device.name} />
        <ForwardedPorts
          ports={device.forwardedPorts}
          holder={{ deviceId: id }}
          name={device.name}
        />
      </Part>
      <Ports device={device} />
      <Part title="About it">
        <Facts>
          <Fact name="Site">
            <OneOf
              at={at('siteId')}
              name="Site"
              value={device.siteId}
              choices={[
                { value: '', label: 'no site' },
                ...sites.map((site) => ({ value: site.id, label: site.name })),
              ]}
            />
          </Fact>
          <Fact name="Model">
            <TextEdit at={at('model')} name="Model" value={device.model} />
          </Fact>
          <Fact name="Domain">
            <TextEdit at={at('domain')} name="Domain" value={device.domain} mono />
          </Fact>
          <Fact name="Full name">
            <span className="mono">{device.fullName}</span>
          </Fact>
          <Fact name="Notes" wide>
            <NotesEdit at={at('notes')} value={device.notes} />
          </Fact>
          <Fact name="Last confirmed">
            {device.confirmedAt ? (
              `${device.confirmedAt.slice(0, 10)}, ${device.confirmedBy}`
            ) : (
              <span className="text-faint">never</span>
            )}
          </Fact>
        </Facts>
      </Part>
      <ProblemNote problem={problem} />
    </article>
  );
}
