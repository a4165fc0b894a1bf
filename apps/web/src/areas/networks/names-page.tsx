/** Names out of the record as zones, hosts file and reservations; names of a file into it, compared first. */
import type { ReadQuery } from '@insel/contract';
import { useState } from 'react';
import { problemOf } from '../../client/api.js';
import { useKeptForm } from '../../components/kept-form.js';
import { Field } from '../../components/field.js';
import { Part } from '../../components/sheet.js';
import { useRead } from '../../client/read.js';
import { TakeIn, Sources } from './take-names.js';

export function NamesPage() {
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Names</h1>
      <div className="max-w-[1080px]">
        <Zones />
        <HostsFile />
        <Reservations />
        <TakeIn />
        <Sources />
      </div>
    </div>
  );
}

/** A text to look at, copy, and save. */
function FileText({ name, text }: { name: string; text: string }) {
  const [copied, setCopied] = useState(false);
  const save = () => {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([text], { type: 'text/plain' }));
    link.download = name;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <details className="border-b border-rule py-1">
      <summary className="cursor-pointer">
        <b className="mono">{name}</b>{' '}
        <span className="text-faint">{text.split('\n').length - 1} lines</span>
      </summary>
      <p className="flex gap-4">
        <button type="button" className="act" onClick={save}>
          Save
        </button>
        <button
          type="button"
          className="act"
          onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
        >
          {copied ? 'Copied' : 'Copy'}
        </button>
      </p>
      <pre className="mono max-h-[260px] overflow-auto bg-raised p-2 text-[12px]">{text}</pre>
    </details>
  );
}

function Zones() {
  const subnets = useRead('subnets').data ?? [];
  const { values: draft, held } = useKeptForm('zones', () => ({
    domain: '',
    primary: '',
    mailbox: '',
    servers: '',
    oldSerial: '',
    prefix: '',
  }));
  const found = useRead('zoneDefaults').data;
  const known: Partial<typeof draft> = found
    ? {
        domain: found.domain,
        primary: found.servers[0] ?? '',
        mailbox: found.mailbox,
        servers: found.servers.join(', '),
      }
    : {};
  const said = Object.fromEntries(
    Object.entries({ ...draft }).map(([field, value]) => [
      field,
      value.trim() || (known[field as keyof typeof draft] ?? ''),
    ]),
  ) as typeof draft;
  const filled = said.domain && said.primary && said.mailbox && said.servers;
  // Numbers go as they are typed: what is no number is told at its field.
  const query = said as unknown as ReadQuery<'zones'>;
  const zones = useRead('zones', filled ? query : null, { keep: true, once: true });
  const inputFor = (field: keyof typeof draft, placeholder: string) => (
    <input className="mono" placeholder={known[field] || placeholder} />
  );
  return (
    <Part title="Zones">
      <p className="text-faint">Left empty, a field says what the record says.</p>
      <div className="grid grid-cols-3 gap-3">
        <Field label="Domain" of={held('domain')}>
          {inputFor('domain', 'nordholm.example')}
        </Field>
        <Field label="Primary server" of={held('primary')}>
          {inputFor('primary', 'names-1.nordholm.example')}
        </Field>
        <Field label="Mailbox" of={held('mailbox')}>
          {inputFor('mailbox', 'hostmaster.nordholm.example')}
        </Field>
        <Field label="Servers of the zone" of={held('servers')}>
          {inputFor('servers', 'names-1…, names-2…')}
        </Field>
        <Field
          label="Serial served now"
          of={held('oldSerial')}
          hint="empty: today’s first; counted on by RFC 1982"
        >
          <input className="mono" inputMode="numeric" placeholder="2026112400" />
        </Field>
        <Field
          label="Reverse zones of"
          of={held('prefix')}
          hint="a block: parts of a /24 by RFC 2317"
        >
          <select>
            <option value="">no reverse zone</option>
            {subnets.map((subnet) => (
              <option key={subnet.id} value={subnet.prefix}>
                {subnet.prefix} {subnet.network.name}
              </option>
            ))}
          </select>
        </Field>
      </div>
      {zones.error && (
        <p className="my-1 font-bold text-signal">
          {problemOf(zones.error).sentence} {problemOf(zones.error).remedy}
        </p>
      )}
      {zones.data && (
        <p className="my-1">
          Serial <b className="mono">{zones.data.serial}</b>
        </p>
      )}
      {zones.data?.files.map((file) => (
        <FileText key={file.fileName} name={file.fileName} text={file.text} />
      ))}
    </Part>
  );
}

function HostsFile() {
  const file = useRead('hostsFile');
  return (
    <Part title="Hosts file">
      {file.data !== undefined && <FileText name="hosts" text={file.data.text} />}
    </Part>
  );
}

function Reservations() {
  const subnets = (useRead('subnets').data ?? []).filter((subnet) => !subnet.prefix.includes(':'));
  const [subnetId, setSubnetId] = useState('');
  const found = useRead('reservations', subnetId !== '' ? { id: subnetId } : null).data;
  return (
    <Part title="Reservations">
      <label className="flex items-center gap-2">
        For a DHCP server, of subnet{' '}
        <select
          aria-label="Subnet of the reservations"
          value={subnetId}
          onChange={(event) => setSubnetId(event.target.value)}
        >
          <option value="">choose one</option>
          {subnets.map((subnet) => (
            <option key={subnet.id} value={subnet.id}>
              {subnet.prefix} {subnet.network.name}
            </option>
          ))}
        </select>
      </label>
      {found && (
        <p className="text-faint">
          {found.rows === 0
            ? 'No address of it is marked as a reservation: mark some at their holders.'
            : `${found.rows} reservations.`}{' '}
          {found.left.map(({ name, why }) => `Left out: ${name}, ${why}.`).join(' ')}
        </p>
      )}
      {found && (
        <>
          <FileText name="reservations.json" text={found.json} />
          <FileText name="reservations.conf" text={found.text} />
        </>
      )}
    </Part>
  );
}
