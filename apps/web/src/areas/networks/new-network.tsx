import { broadcast, formatAddress, netmask, parsePrefix, usable } from '@insel/core';
import { useNavigate } from 'react-router';
import { Making } from '../../components/area.js';
import { useChangeForm } from '../../components/change-form.js';
import { useKeptForm } from '../../components/kept-form.js';
import { NamedSelect } from '../../components/named-select.js';
import { Sending } from '../../components/sending.js';
import { Field, whyUnread, type Errors } from '../../components/field.js';
import { Fact } from '../../components/sheet.js';
import { useRead } from '../../client/read.js';

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
};

/** The subnet stands in fields of its own; each is named as what is sent of it. */
const TYPED_IN = {
  vlanId: 'vlan',
  'subnet.prefix': 'prefix',
  'subnet.gateway': 'gateway',
  'subnet.domain': 'domain',
  'subnet.nameServers': 'nameServers',
  'subnet.ranges.0.firstIp': 'firstIp',
  'subnet.ranges.0.lastIp': 'lastIp',
} as const;

function read(draft: typeof EMPTY): [object, Errors] {
  const { name, purpose, siteId, mtu, prefix, domainId, firstIp } = draft;
  const block = prefix.trim() ? parsePrefix(prefix) : undefined;
  const range = { use: 'dynamic', firstIp: firstIp.trim(), lastIp: draft.lastIp.trim() };
  const subnet = {
    prefix: prefix.trim(),
    gateway: draft.gateway.trim() || null,
    ...(domainId ? { domainId } : {}),
    domain: draft.domain.trim(),
    nameServers: draft.nameServers.split(/[\s,]+/).filter(Boolean),
    ranges: range.firstIp ? [range] : [],
  };
  const input = {
    name: name.trim(),
    purpose,
    vlanId: draft.vlan.trim() === '' ? null : Number(draft.vlan),
    mtu: Number(mtu),
    siteId: siteId || null,
    ...(subnet.prefix ? { subnet } : {}),
  };
  if (!block || block.ok) return [input, {}];
  return [input, { 'subnet.prefix': whyUnread(block) }];
}

export function NewNetwork() {
  const go = useNavigate();
  const sites = useRead('sites').data;
  const domains = useRead('routingDomains').data ?? [];
  const form = useChangeForm(
    useKeptForm('network', () => EMPTY),
    {
      type: 'network.record',
      read,
      typedIn: TYPED_IN,
      sent: ({ subjects }) => void go(`/networks/${subjects[0]!.id}`),
    },
  );
  const { held, values } = form;
  return (
    <Making
      title="Record a network"
      consequences={<BlockFacts text={values.prefix} />}
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <div className="grid max-w-[760px] grid-cols-3 gap-3">
            <Field label="Name" of={held('name')}>
              <input autoFocus />
            </Field>
            <Field label="Purpose" of={held('purpose')}>
              <input />
            </Field>
            <Field label="Site" of={held('siteId')}>
              <NamedSelect rows={sites} none="no site" />
            </Field>
            <Field label="VLAN" of={held('vlan')} hint="empty: untagged">
              <input className="mono" inputMode="numeric" />
            </Field>
            <Field label="MTU" of={held('mtu')}>
              <input className="mono" inputMode="numeric" />
            </Field>
            <Field
              label="Routing domain"
              of={held('domainId')}
              hint="blocks may repeat across domains"
            >
              <select>
                {domains.map((domain, i) => (
                  <option key={domain.id} value={i === 0 ? '' : domain.id}>
                    {domain.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Subnet" of={held('prefix')} hint="such as 192.0.2.0/24; empty: none yet">
              <input className="mono" />
            </Field>
            <Field label="Gateway" of={held('gateway')}>
              <input className="mono" />
            </Field>
            <Field label="Name servers" of={held('nameServers')}>
              <input className="mono" />
            </Field>
            <Field label="Domain of its names" of={held('domain')}>
              <input className="mono" />
            </Field>
            <span className="col-span-2" />
            <Field label="Dynamic range, first" of={held('firstIp')} hint="empty: none">
              <input className="mono" />
            </Field>
            <Field label="Dynamic range, last" of={held('lastIp')}>
              <input className="mono" />
            </Field>
          </div>
          <Sending label="Record the network" form={form} />
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
