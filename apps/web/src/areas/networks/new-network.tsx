import { checkInput } from '@insel/contract';
import { broadcast, formatAddress, netmask, parsePrefix, usable } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { Fact } from '../../components/sheet.js';
import { useRead } from '../../frame/read.js';

const EMPTY = {
  name: '',
  purpose: '',
  vlan: '',
  mtu: '1500',
  siteId: '',
  domainId: '',
  domain: '',
  prefix: '',
  gateway: '',
  nameServers: '',
  firstIp: '',
  lastIp: '',
  reason: '',
  override: '',
};

export function NewNetwork() {
  const go = useNavigate();
  const [draft, set, forget] = useDraft('network', () => EMPTY);
  const sites = useRead('sites');
  const domains = useRead('routingDomains');
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const input = {
    name: draft.name.trim(),
    purpose: draft.purpose,
    vlanId: draft.vlan.trim() === '' ? null : Number(draft.vlan),
    mtu: Number(draft.mtu),
    siteId: draft.siteId || null,
    ...(draft.prefix.trim()
      ? {
          subnet: {
            prefix: draft.prefix.trim(),
            gateway: draft.gateway.trim() || null,
            ...(draft.domainId ? { domainId: draft.domainId } : {}),
            domain: draft.domain.trim(),
            nameServers: draft.nameServers.split(/[\s,]+/).filter(Boolean),
            ranges: draft.firstIp.trim()
              ? [
                  {
                    use: 'dynamic' as const,
                    firstIp: draft.firstIp.trim(),
                    lastIp: draft.lastIp.trim(),
                  },
                ]
              : [],
          },
        }
      : {}),
  };
  const send = async () => {
    const result = checkInput('network.record', input);
    const block = draft.prefix.trim() ? parsePrefix(draft.prefix) : undefined;
    const found: Errors = result.ok
      ? {}
      : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence]));
    if (block && !block.ok)
      found['subnet.prefix'] = [block.sentence, block.suggestion && `Write ${block.suggestion}.`]
        .filter(Boolean)
        .join(' ');
    setErrors(found);
    if (Object.keys(found).length) return;
    const written = await make('network.record', input, { reason: draft.reason });
    if (!written) return;
    forget();
    void go(`/networks/${written.subjects[0]!.id}`);
  };
  const error = { ...errorsOf(problem), ...errors };
  const text = (field: keyof typeof EMPTY) => ({
    value: draft[field],
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
  return (
    <Making
      title="Record a network"
      consequences={<BlockFacts text={draft.prefix} />}
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <div className="grid max-w-[760px] grid-cols-3 gap-3">
            <Field label="Name" error={error.name}>
              <input autoFocus {...text('name')} />
            </Field>
            <Field label="Purpose">
              <input {...text('purpose')} />
            </Field>
            <Field label="Site">
              <select {...text('siteId')}>
                <option value="">no site</option>
                {sites.data?.map((site) => (
                  <option key={site.id} value={site.id}>
                    {site.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="VLAN" error={error.vlanId} hint="empty: untagged">
              <input className="mono" inputMode="numeric" {...text('vlan')} />
            </Field>
            <Field label="MTU" error={error.mtu}>
              <input className="mono" inputMode="numeric" {...text('mtu')} />
            </Field>
            <Field label="Routing domain" hint="blocks may repeat across domains">
              <select {...text('domainId')}>
                {(domains.data ?? []).map((domain, i) => (
                  <option key={domain.id} value={i === 0 ? '' : domain.id}>
                    {domain.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field
              label="Subnet"
              error={error['subnet.prefix'] ?? error.prefix}
              hint="such as 192.0.2.0/24; empty: none yet"
            >
              <input className="mono" {...text('prefix')} />
            </Field>
            <Field label="Gateway" error={error['subnet.gateway'] ?? error.gateway}>
              <input className="mono" {...text('gateway')} />
            </Field>
            <Field label="Name servers" error={error.nameServers}>
              <input className="mono" {...text('nameServers')} />
            </Field>
            <Field label="Domain of its names">
              <input className="mono" {...text('domain')} />
            </Field>
            <span className="col-span-2" />
            <Field
              label="Dynamic range, first"
              error={error['subnet.ranges.0.firstIp'] ?? error.firstIp}
              hint="empty: none"
            >
              <input className="mono" {...text('firstIp')} />
            </Field>
            <Field
              label="Dynamic range, last"
              error={error['subnet.ranges.0.lastIp'] ?? error.lastIp}
            >
              <input className="mono" {...text('lastIp')} />
            </Field>
          </div>
          <Sending
            label="Record the network"
            busy={busy}
            problem={problem}
            said={{ reason: draft.reason }}
            set={set}
            onSend={() => send()}
          />
        </form>
      }
    />
  );
}

/** The block as it was understood, read back while it is typed. */
function BlockFacts({ text }: { text: string }) {
  if (text.trim() === '')
    return <p className="text-faint">Write a block: what it holds appears here.</p>;
  const read = parsePrefix(text);
  if (!read.ok) return <p className="text-signal">{read.sentence}</p>;
  const room = usable(read.value);
  const say = (value: bigint) => formatAddress({ family: read.value.family, value });
  const top = broadcast(read.value);
  return (
    <dl>
      {read.value.family === 4 && (
        <Fact name="Netmask">
          <span className="mono">{netmask(read.value)}</span>
        </Fact>
      )}
      <Fact name="First usable">
        <span className="mono">{say(room.first)}</span>
      </Fact>
      <Fact name="Last usable">
        <span className="mono">{say(room.last)}</span>
      </Fact>
      <Fact name="Broadcast">
        <span className="mono">{top === undefined ? 'none' : say(top)}</span>
      </Fact>
      <Fact name="Usable">
        <span className="mono">{room.count.toLocaleString('en-GB')}</span>
      </Fact>
    </dl>
  );
}
