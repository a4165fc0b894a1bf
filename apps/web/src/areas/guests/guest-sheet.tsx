import type { GuestSheet } from '@insel/contract';
import { FAMILIES, formatDuration, formatMemory, parseDuration, parseMemory } from '@insel/core';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { editing, useChange } from '../../frame/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { IdentityList } from '../../components/identity.js';
import { SheetActions, type SheetAction } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { Needs } from '../../components/needs.js';
import { ProblemNote } from '../../components/problem.js';
import { Habits } from '../../components/habits.js';
import { ForwardedPorts } from '../../components/forwarded-ports.js';
import { Routes } from '../../components/routes.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { AddressEdit, NotesEdit, OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { BackupsPart } from './backups.js';
import { AdaptersPart } from './sheet-adapters.js';
import { CarePart, DevicesPart } from './sheet-care.js';
import { MediaPart, SnapshotsPart } from './sheet-media.js';
import { VolumesPart } from './sheet-volumes.js';
import { useRead } from '../../frame/read.js';
import { FirstStartPart } from './first-start.js';
import { KnownByPart } from './known-by.js';

export function GuestSheetView({ id }: { id: string }) {
  const sheet = useRead('guest', { id });
  if (sheet.error) return <p className="text-signal">{sheet.error.message}</p>;
  if (!sheet.data) return null;
  const { guest, identity, clones, migrations, findings } = sheet.data;
  return (
    <article aria-label={`Guest ${guest.name}`}>
      <Head sheet={sheet.data} />
      <SheetFindings findings={findings} />
      <BuildLine sheet={sheet.data} />
      <SizePart sheet={sheet.data} />
      <CarePart sheet={sheet.data} />
      <DevicesPart sheet={sheet.data} />
      <VolumesPart sheet={sheet.data} />
      <MediaPart sheet={sheet.data} />
      <AdaptersPart sheet={sheet.data} />
      <RoutingPart sheet={sheet.data} />
      <StartPart sheet={sheet.data} />
      <SnapshotsPart sheet={sheet.data} />
      <BackupsPart sheet={sheet.data} />
      {identity && (
        <Part title="Identity">
          <p>
            A {identity.copy} copy of{' '}
            <Link className="underline decoration-rule" to={`/guests/${identity.origin.id}`}>
              {identity.origin.name}
            </Link>
            , made {identity.madeAt.slice(0, 10)}. What must be its own:
          </p>
          <IdentityList items={identity.items} family={guest.family} />
        </Part>
      )}
      {guest.family === 'Linux' && guest.state !== 'retired' && (
        <FirstStartPart sheet={sheet.data} />
      )}
      {guest.state !== 'retired' && <KnownByPart sheet={sheet.data} />}
      {clones.length > 0 && (
        <Part title="Clones of it">
          {clones.map((clone) => (
            <Link
              key={clone.id}
              className="mr-4 underline decoration-rule"
              to={`/guests/${clone.id}`}
            >
              {clone.name}
            </Link>
          ))}
        </Part>
      )}
      {migrations.length > 0 && (
        <Part title="Migrations">
          {migrations.map((migration) => (
            <div key={migration.id}>
              <Link className="underline decoration-rule" to={`/migrations/${migration.id}`}>
                {migration.source.name} → {migration.target.name}
              </Link>{' '}
              {migration.state}
            </div>
          ))}
        </Part>
      )}
    </article>
  );
}

/** What one does first with a guest in a state. */
const FIRST: Readonly<Partial<Record<GuestSheet['guest']['state'], string>>> = {
  planned: 'Build sheet',
  building: 'Build sheet',
  'in service': 'Migrate',
  stopped: 'Set to in service',
};
const buildOf = (id: string): SheetAction => ({ label: 'Build sheet', to: `/guests/${id}/build` });

/** Name, state, place, and what can be done with it. */
function Head({ sheet: { guest, host, states } }: { sheet: GuestSheet }) {
  const mayPlan = useMayPlan();
  const { make, anyway, problem } = useChange();
  const actions: SheetAction[] = mayPlan
    ? [
        { label: 'Migrate', to: `/migrations/new?guest=${guest.id}` },
        { label: 'Make clones', to: `/clones/new?of=${guest.id}` },
        ...states.map(({ state, effect }) =>
          state === 'retired'
            ? { label: 'Retire', to: `/guests/${guest.id}/end`, effect }
            : {
                label: `Set to ${state}`,
                act: () => void make('guest.set-state', { id: guest.id, state }, { seen: guest }),
                effect,
              },
        ),
      ]
    : [];
  const first =
    FIRST[guest.state] === 'Build sheet'
      ? buildOf(guest.id)
      : actions.find(({ label }) => label === FIRST[guest.state]);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <Editable
            at={editing('guest.edit', guest)('name')}
            name="Name"
            value={guest.name}
            show={String}
            parse={asText}
          />
        </h1>
        <span
          className={
            guest.state === 'planned' ? 'border-b border-dashed border-pencil text-pencil' : ''
          }
        >
          {guest.state}
        </span>
        <span>
          on{' '}
          <Link className="underline decoration-rule" to={`/hosts/${host.id}`}>
            {host.name}
          </Link>
        </span>
        <SheetActions
          first={first}
          rest={[
            ...actions.filter((found) => found.label !== first?.label),
            { label: 'Measured use', to: `/guests/${guest.id}/use` },
            { label: 'Whom does it reach', to: `/networks/reach?from=${guest.id}` },
            { label: 'Entries in the log', to: `/log?subject=${guest.id}` },
          ]}
        />
      </div>
      <ProblemNote problem={problem} anyway={anyway} />
    </>
  );
}

/** How far its build is, and whether it was checked. */
function BuildLine({ sheet: { guest, build } }: { sheet: GuestSheet }) {
  const building = guest.state === 'planned' || guest.state === 'building';
  const checked = build.failed.length ? (
    <b className="text-amber">
      {build.failed.length === 1
        ? 'a first check failed'
        : `${build.failed.length} first checks failed`}
    </b>
  ) : build.passed > 0 ? (
    `${build.passed} first checks passed, the last on ${build.last!.slice(0, 10)}`
  ) : building ? (
    'not checked yet'
  ) : (
    'no first check recorded'
  );
  return (
    <p className="mb-1 flex flex-wrap gap-x-4 text-[13px]">
      {!building && (
        <Link className="act" to={`/guests/${guest.id}/build`}>
          Build sheet
        </Link>
      )}
      {(building || build.done > 0) && (
        <span className="leading-6">
          {build.done} of {build.total} steps ticked
        </span>
      )}
      <span className="leading-6">{checked}</span>
    </p>
  );
}

function SizePart({ sheet: { guest, demand } }: { sheet: GuestSheet }) {
  const at = editing('guest.edit', guest);
  return (
    <Part title="Size">
      <Facts>
        <Fact name="vCPU">
          <Editable
            at={at('vcpu')}
            name="vCPU"
            value={guest.vcpu}
            show={String}
            parse={asWhole}
            mono
          />
        </Fact>
        <Fact name="Asks of its host">
          <Figure figure={demand} rounding="up" />
        </Fact>
        <Fact name="Memory">
          <Editable
            at={at('memoryMiB')}
            name="Memory"
            value={guest.memoryMiB}
            show={(value) => formatMemory(value)}
            parse={parseMemory}
            mono
          />
        </Fact>
        <Fact name="When stopped">
          <YesNo
            at={at('heldWhenStopped')}
            name="When stopped"
            value={guest.heldWhenStopped}
            yes="its room is kept"
            no="its room is free"
          />
        </Fact>
        <Fact name="Family">
          <OneOf at={at('family')} name="Family" value={guest.family} choices={FAMILIES} />
        </Fact>
        <Fact name="Template">
          <YesNo at={at('template')} name="Template" value={guest.template} />
        </Fact>
        <Fact name="Purpose">
          <Editable
            at={at('purpose')}
            name="Purpose"
            value={guest.purpose}
            show={String}
            parse={asText}
          />
        </Fact>
        <Fact name="Notes" wide>
          <NotesEdit at={at('notes')} value={guest.notes} />
        </Fact>
      </Facts>
    </Part>
  );
}

function RoutingPart({
  sheet: { guest, fullName, routes, forwardedPorts },
}: {
  sheet: GuestSheet;
}) {
  const at = editing('guest.edit', guest);
  return (
    <Part title="Routing">
      <Facts>
        <Fact name="Full name">
          <span className="mono">{fullName}</span>
        </Fact>
        <Fact name="Domain">
          <TextEdit at={at('domain')} name="Domain" value={guest.domain} mono />
        </Fact>
        <Fact name="Gateway">
          <AddressEdit
            at={at('gateway')}
            name="Gateway"
            value={guest.gateway}
            none={guest.noGateway ? 'none, on purpose' : 'as its subnet says'}
          />
        </Fact>
        <Fact name="Has no gateway">
          <YesNo
            at={at('noGateway')}
            name="Has no gateway"
            value={guest.noGateway}
            yes="on purpose"
            no="–"
          />
        </Fact>
        <Fact name="Gateway, IPv6">
          <AddressEdit
            at={at('gateway6')}
            name="Gateway, IPv6"
            value={guest.gateway6}
            none="as its subnet says"
          />
        </Fact>
        <Fact name="Gateway on-link">
          <YesNo
            at={at('gatewayOnLink')}
            name="Gateway on-link"
            value={guest.gatewayOnLink}
            yes="outside its subnet on purpose"
            no="–"
          />
        </Fact>
        <Fact name="Forwards">
          <YesNo
            at={at('forwards')}
            name="Forwards"
            value={guest.forwards}
            yes="yes, it is a router"
          />
        </Fact>
        <Habits at={at} of={guest} />
      </Facts>
      <Routes routes={routes} holder={{ guestId: guest.id }} name={guest.name} />
      <ForwardedPorts ports={forwardedPorts} holder={{ guestId: guest.id }} name={guest.name} />
    </Part>
  );
}

function StartPart({ sheet: { guest, needs } }: { sheet: GuestSheet }) {
  return (
    <Part title="Needs to start">
      <p>
        of use{' '}
        <Editable
          at={editing('guest.edit', guest)('startSeconds')}
          name="Time to start"
          value={guest.startSeconds}
          show={formatDuration}
          write={(value) => `${value} s`}
          parse={parseDuration}
          mono
        />{' '}
        after power-on; off{' '}
        <Editable
          at={editing('guest.edit', guest)('stopSeconds')}
          name="Time to stop"
          value={guest.stopSeconds}
          show={formatDuration}
          write={(value) => `${value} s`}
          parse={parseDuration}
          mono
        />{' '}
        after it is told to stop
      </p>
      <Needs needs={needs} holder={{ guestId: guest.id }} name={guest.name} />
    </Part>
  );
}
