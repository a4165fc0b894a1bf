/** Networks a host carries, one line each, and its own place in the network. */
import { type AddressView, type CarriedView, type HostSheet } from '@insel/contract';
import {
  counted,
  compareFingerprints,
  groupsOfFour,
  KINDS,
  LAST_FOUR,
  parseFingerprint,
  withColons,
  type Input,
} from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { editing, useChange } from '../../frame/change.js';
import { ProblemNote } from '../../components/problem.js';
import { Habits } from '../../components/habits.js';
import { ForwardedPorts } from '../../components/forwarded-ports.js';
import { Routes } from '../../components/routes.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { OneOf, YesNo } from '../../components/small-edits.js';
import { AddressField, DayField, ListField, NumberField, TextField } from './host-field.js';
import { useRead } from '../../frame/read.js';

export function NetworksPart({ sheet }: { sheet: HostSheet }) {
  return (
    <Part title="Networks carried">
      {sheet.networks.map((found) => (
        <CarriedLine key={found.id} found={found} sheet={sheet} />
      ))}
      {sheet.ports.length > 0 && <Cables sheet={sheet} />}
      <InsideNetwork sheet={sheet} />
      <CarryNetwork
        hostId={sheet.host.id}
        carried={sheet.networks.flatMap((found) => (found.network ? [found.network.id] : []))}
      />
    </Part>
  );
}

function CarriedLine({ found, sheet }: { found: CarriedView; sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [choosing, setChoosing] = useState(false);
  const by = found.ports.length
    ? `${found.mode} by ${found.ports.map((port) => port.name).join(' + ')}`
    : found.mode;
  const at = editing('switch.edit', found);
  const chosen = new Set(found.ports.map((port) => port.id));
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    void make('switch.set-uplinks', { switchId: found.id, portIds: [...next] }, { seen: found });
  };
  return (
    <div>
      <div className="grid grid-cols-[150px_1fr_170px_64px] items-baseline gap-3 py-[3px]">
        <span>
          {found.network ? (
            <Link
              className="font-bold underline decoration-rule"
              to={`/networks/${found.network.id}`}
            >
              {found.network.name}
            </Link>
          ) : (
            '–'
          )}{' '}
          <span className="mono text-[13px] text-faint">{found.vlanId}</span>
        </span>
        {mayPlan ? (
          <button
            type="button"
            className="min-h-6 cursor-pointer text-left"
            aria-expanded={choosing}
            onClick={() => setChoosing(!choosing)}
          >
            {by}
          </button>
        ) : (
          <span>{by}</span>
        )}
        <span className={found.survives === 'single port' ? 'text-amber' : 'text-faint'}>
          {found.survives === 'single port' && '◆ '}
          {found.survives}
        </span>
        <span>{counted(found.guests, 'guest')}</span>
      </div>
      {choosing && (
        <div className="flex flex-wrap gap-x-4 pl-[162px] text-[13px]">
          <span>
            mode{' '}
            <OneOf
              at={at('mode')}
              name={`Mode of ${found.network?.name ?? 'the switch'}`}
              value={found.mode}
              choices={MODES}
            />
          </span>
          <span>
            frames{' '}
            <YesNo
              at={at('untagged')}
              name="Frames leave"
              value={found.untagged}
              yes="without a tag"
              no={found.vlanId === null ? 'untagged network' : `tagged ${found.vlanId}`}
            />
          </span>
          {found.mode === 'NAT' && (
            <span>
              guests{' '}
              <OneOf
                at={at('translation')}
                name="How its guests are translated"
                value={found.translation}
                choices={[
                  { value: 'as its platform', label: 'as its platform does' },
                  { value: 'shared', label: 'share one segment' },
                  { value: 'isolated', label: 'each alone' },
                ]}
              />
            </span>
          )}
          {found.mode === 'NAT' && (
            <span>
              leaving by{' '}
              <OneOf
                at={at('natUplinkId')}
                name="The uplink that they are translated by"
                value={found.natUplinkId}
                choices={[
                  { value: '', label: 'whichever (not recorded)' },
                  ...sheet.networks
                    .filter((other) => other.mode === 'bridged' && other.network)
                    .map((other) => ({ value: other.id, label: other.network!.name })),
                ]}
              />
            </span>
          )}
          {found.ports.length > 1 && (
            <span>
              ports bound{' '}
              <OneOf
                at={at('bundle')}
                name="How the ports are bound"
                value={found.bundle}
                choices={[
                  { value: 'none', label: 'not' },
                  { value: 'failover', label: 'one at a time' },
                  { value: 'aggregation', label: 'as one' },
                ]}
              />
            </span>
          )}
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              onClick={() => void make('host.drop-switch', { id: found.id }, { seen: found })}
            >
              No longer carried
            </button>
          )}
          <span className="basis-full" />
          {sheet.ports.map((port) => (
            <label key={port.id} className="inline-flex items-center gap-1">
              <input
                type="checkbox"
                checked={chosen.has(port.id)}
                onChange={() => toggle(port.id)}
              />
              {port.name}
              {port.card && ` (${port.card})`}
            </label>
          ))}
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Which port of which switch each cable goes to. */
function Cables({ sheet }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const plugs = useRead('plugs').data?.switches ?? [];
  if (plugs.length === 0) return null;
  const name = (id: string | null) =>
    plugs.flatMap((found) =>
      found.ports
        .filter((port) => port.id === id)
        .map((port) => `${found.name}, port ${port.name}`),
    )[0] ?? '';
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-[13px] text-faint">
        Cables: {sheet.ports.filter((port) => port.switchPortId).length} of {sheet.ports.length}{' '}
        ports plugged into recorded switches
      </summary>
      {sheet.ports.map((port) => {
        const at = editing('port.edit', port);
        const choices = [
          { value: '', label: 'not recorded' },
          ...plugs.flatMap((found) =>
            found.ports
              .filter((one) => !one.taken || one.id === port.switchPortId)
              .map((one) => ({ value: one.id, label: `${found.name}, port ${one.name}` })),
          ),
        ];
        return (
          <div key={port.id} className="grid grid-cols-[70px_70px_1fr] gap-3 text-[13px]">
            <b className="mono">{port.name}</b>
            <YesNo at={at('up')} name={`${port.name} is`} value={port.up} yes="up" no="down" />
            {mayPlan ? (
              <OneOf<string | null>
                at={at('switchPortId')}
                name={`Cable of ${port.name}`}
                value={port.switchPortId}
                choices={choices}
              />
            ) : (
              <span>{name(port.switchPortId) || port.pluggedInto}</span>
            )}
          </div>
        );
      })}
    </details>
  );
}

const MODES = KINDS.virtualSwitch.fields.mode!.choices!;
type Mode = Input<'host.add-inside'>['mode'];

/** A network inside this host: translated, routed, for host and guests, or for guests alone. */
function InsideNetwork({ sheet }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [draft, setDraft] = useState<Omit<Input<'host.add-inside'>, 'hostId'> | null>(null);
  if (!mayPlan) return null;
  if (!draft)
    return (
      <button
        type="button"
        className="act mr-3 text-[13px]"
        onClick={() => setDraft({ name: '', mode: 'NAT', prefix: '' })}
      >
        Add a network inside this host
      </button>
    );
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void make('host.add-inside', { hostId: sheet.host.id, ...draft }).then(
          (written) => written && setDraft(null),
        );
      }}
    >
      <input
        autoFocus
        aria-label="Name of the inside network"
        placeholder="name"
        className="w-[130px]"
        value={draft.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      <select
        aria-label="Mode of the inside network"
        value={draft.mode}
        onChange={(event) => setDraft({ ...draft, mode: event.target.value as Mode })}
      >
        {MODES.filter((mode) => mode !== 'bridged').map((mode) => (
          <option key={mode}>{mode}</option>
        ))}
      </select>
      <input
        aria-label="Block of the inside network"
        placeholder="192.168.60.0/24"
        className="mono w-[150px]"
        value={draft.prefix}
        onChange={(event) => setDraft({ ...draft, prefix: event.target.value })}
      />
      <button type="submit" className="act">
        Record it
      </button>{' '}
      <button type="button" className="act" onClick={() => setDraft(null)}>
        Drop
      </button>
      {draft.mode === 'NAT' && (
        <p className="basis-full text-[13px] text-faint">
          On this platform{' '}
          {sheet.platform.natShared
            ? 'all guests behind translation share one segment and see each other and the host'
            : 'each guest is alone behind translation: neither the host nor its neighbours reach it'}
          . Its block may repeat elsewhere: it gets a routing domain of its own.
        </p>
      )}
      <ProblemNote problem={problem} />
    </form>
  );
}

function CarryNetwork({ hostId, carried }: { hostId: string; carried: string[] }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const networks = useRead('networks', { take: 200 });
  const free = networks.data?.rows.filter((network) => !carried.includes(network.id)) ?? [];
  if (!mayPlan || free.length === 0) return null;
  return (
    <div className="mt-1">
      <select
        aria-label="Carry another network, bridged"
        value=""
        onChange={(event) =>
          void make('host.carry', {
            hostId,
            networkId: event.target.value,
            mode: 'bridged',
          })
        }
      >
        <option value="">Carry another network, bridged …</option>
        {free.map((network) => (
          <option key={network.id} value={network.id}>
            {network.name}
          </option>
        ))}
      </select>
      <ProblemNote problem={problem} />
    </div>
  );
}

export function ManagementPart({ sheet }: { sheet: HostSheet }) {
  const { place, host } = sheet;
  const ports = sheet.ports.filter((port) => port.management);
  return (
    <Part title="Management">
      {sheet.management.map((address) => (
        <AddressLine key={address.id} address={address} />
      ))}
      {sheet.management.length === 0 && <p className="text-faint">No address recorded.</p>}
      <Facts>
        <Fact name="Full name">
          <span className="mono">{sheet.fullName}</span>
        </Fact>
        <TextField name="Domain" field="domain" mono />
        <AddressField name="Gateway" field="gateway" />
        <ListField name="Name servers" field="nameServers" mono />
        <Fact name="VLAN">
          <span className="mono">{place?.vlanId ?? 'none'}</span>
        </Fact>
        <NumberField name="Console port" field="consolePort" />
        <Fact name="Ports">
          {ports.length ? (
            <span className="mono">{ports.map((port) => port.name).join(' + ')}</span>
          ) : (
            <span className="text-faint">not recorded</span>
          )}
        </Fact>
        <Fact name="Out of band">
          {sheet.outOfBand ? (
            <span className="mono">{sheet.outOfBand.ip}</span>
          ) : (
            <span className="text-faint">none</span>
          )}
        </Fact>
        <TextField name="Time zone" field="timeZone" />
        <TextField name="Keyboard" field="keyboard" />
        <DayField name="Certificate ends" field="certificateUntil" />
        <Fact name="Forwards">
          <YesNo
            at={editing('host.edit', host)('forwards')}
            name="Forwards"
            value={host.forwards}
            yes="between all its networks"
            no="only for its inside networks"
          />
        </Fact>
        <Habits at={editing('host.edit', host)} of={host} />
      </Facts>
      <Routes routes={sheet.routes} holder={{ hostId: host.id }} name={host.name} />
      <ForwardedPorts ports={sheet.forwardedPorts} holder={{ hostId: host.id }} name={host.name} />
      {!host.gateway && place?.gateway && (
        <p className="text-[13px] text-faint">
          Nobody has looked at the gateway set on the host; its subnet says{' '}
          <span className="mono">{place.gateway}</span>.
        </p>
      )}
      <Fingerprint sheet={sheet} />
    </Part>
  );
}

export function AddressLine({ address }: { address: AddressView }) {
  return (
    <div className="flex flex-wrap gap-x-4">
      <span className="mono">
        {address.ip}
        {address.prefixLength !== null && `/${address.prefixLength}`}
      </span>
      <span>{address.assigned ? 'assigned' : 'found configured'}</span>
      {address.network && (
        <Link className="underline decoration-rule" to={`/networks/${address.network.id}`}>
          {address.network.name}
        </Link>
      )}
      {address.gateway && (
        <span className="text-faint">
          gateway <span className="mono">{address.gateway}</span>
        </span>
      )}
    </div>
  );
}

/** The certificate's fingerprint as recorded, and a comparison of all of it with one seen elsewhere. */
function Fingerprint({ sheet: { host } }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [seen, setSeen] = useState('');
  const read = seen.trim() ? parseFingerprint(seen) : null;
  const recorded = host.certificateSha256;
  const comparison = read?.ok && recorded ? compareFingerprints(recorded, read.value) : null;
  return (
    <div className="mt-1">
      <p className="text-faint">Certificate, SHA-256</p>
      {recorded ? (
        <p className="mono text-[13px] leading-snug break-all" title={withColons(recorded)}>
          {groupsOfFour(recorded)}
        </p>
      ) : (
        <p className="text-faint">not recorded</p>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <input
          aria-label="Fingerprint seen elsewhere"
          placeholder="paste a fingerprint seen elsewhere"
          className="mono w-[min(330px,100%)]"
          value={seen}
          onChange={(event) => setSeen(event.target.value)}
        />
        {mayPlan && read?.ok && !comparison?.equal && (
          <button
            type="button"
            className="act"
            onClick={() =>
              void make(
                'host.edit',
                { id: host.id, certificateSha256: read.value },
                { seen: host },
              ).then((written) => written && setSeen(''))
            }
          >
            Record this one
          </button>
        )}
      </div>
      {read && !read.ok && <p className="text-[13px] font-bold text-signal">{read.sentence}</p>}
      {comparison?.equal && (
        <p role="status" className="text-[13px] font-bold text-teal">
          ✓ Equal in all 64 digits.
        </p>
      )}
      {comparison && !comparison.equal && read?.ok && (
        <div role="status" className="text-[13px]">
          <p className="font-bold text-signal">
            ■ Different, first in group {comparison.firstDifferentGroup} of 16;{' '}
            {comparison.differing} of 64 digits differ.
            {comparison.fooledByTheEnd && ' The last four are equal.'}
          </p>
          <p className="mono leading-snug break-all">
            {groupsOfFour(read.value)
              .split(' ')
              .map((group, i) => (
                <span
                  key={i}
                  className={
                    group === recorded.slice(i * 4, i * 4 + 4)
                      ? ''
                      : 'font-bold text-signal underline'
                  }
                >
                  {group}{' '}
                </span>
              ))}
          </p>
          <p className="text-faint">{LAST_FOUR}</p>
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
