import type { GuestSheet } from '@insel/contract';
import { FAMILIES, formatDuration, formatMemory, parseDuration, parseMemory } from '@insel/core';
import { Link } from 'react-router';
import { editing } from '../../client/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { IdentityList } from '../../components/identity.js';
import { SheetFindings } from '../../components/finding-line.js';
import { Needs } from '../../components/needs.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { NotesEdit, OneOf, YesNo } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { BackupsPart } from './backups.js';
import { AdaptersPart } from './sheet-adapters.js';
import { RolePart, DevicesPart } from './sheet-role.js';
import { MediaPart, SnapshotsPart } from './sheet-media.js';
import { VolumesPart } from './sheet-volumes.js';
import { useRead } from '../../client/read.js';
import { FirstStartPart } from './first-start.js';
import { KnownByPart } from './known-by.js';
import { RoutingPart } from './sheet-routing.js';
import { Head, BuildLine } from './sheet-head.js';

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
      <RolePart sheet={sheet.data} />
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
