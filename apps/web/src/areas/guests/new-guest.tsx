import type { HostListRow } from '@insel/contract';
import {
  FAMILIES,
  formatBoth,
  formatMemory,
  GUEST_STATES,
  parseBytes,
  parseMemory,
} from '@insel/core';
import { useNavigate, useSearchParams } from 'react-router';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { useChangeForm } from '../../components/change-form.js';
import { Consequences } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { useKeptForm } from '../../components/kept-form.js';
import { Field, type Errors } from '../../components/field.js';
import { useRead } from '../../client/read.js';
import { NamedSelect } from '../../components/named-select.js';

const EMPTY = {
  name: '',
  hostId: '',
  profileId: '',
  family: 'Linux',
  purpose: '',
  vcpu: '2',
  memory: '4 GiB',
  poolId: '',
  size: '50 GiB',
  thin: false,
  networkId: '',
  ip: '',
  mac: '',
  state: 'in service',
  reason: '',
  override: '',
};
type Draft = typeof EMPTY;

/** What is sent that is typed in a field of another name. */
const TYPED_IN = {
  memoryMiB: 'memory',
  'volumes.0.poolId': 'poolId',
  'volumes.0.bytes': 'size',
  'adapters.0.networkId': 'networkId',
  'adapters.0.mac': 'mac',
  'adapters.0.address.ip': 'ip',
  'adapters.0.ip': 'ip',
} as const;

interface Chosen {
  hostId: string;
  poolId: string;
  networkId: string;
  recording: boolean;
}

function inputOf(draft: Draft, { hostId, poolId, networkId, recording }: Chosen): [object, Errors] {
  const memory = parseMemory(draft.memory);
  const size = parseBytes(draft.size);
  const [mac, ip, wanted] = [draft.mac.trim(), draft.ip.trim(), draft.size.trim()];
  const input = {
    name: draft.name.trim(),
    hostId,
    family: draft.family,
    ...(draft.profileId ? { profileId: draft.profileId } : {}),
    purpose: draft.purpose,
    vcpu: Number(draft.vcpu),
    memoryMiB: memory.ok ? memory.value : 0,
    volumes: wanted
      ? [{ poolId, bytes: size.ok ? size.value : 0, label: 'system', thin: draft.thin }]
      : [],
    adapters: networkId
      ? [
          {
            networkId,
            ...(mac ? { mac } : {}),
            address: ip ? { as: 'given', ip } : { as: recording ? 'none' : 'next' },
          },
        ]
      : [],
    ...(recording ? { state: draft.state } : {}),
  };
  const faults: Errors = {
    ...(memory.ok ? {} : { memoryMiB: memory.sentence }),
    ...(size.ok || !wanted ? {} : { 'volumes.0.bytes': size.sentence }),
  };
  return [input, faults];
}

/** Plans a guest with room and address; with ?record takes one as it exists. */
export function NewGuest() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const recording = search.has('record');
  const type = recording ? 'guest.record' : 'guest.plan';
  const offering = useRead('hosts', { state: 'in service', sort: 'name', take: 1 });
  const profiles = useRead('profiles').data ?? [];
  const kept = useKeptForm<Draft>(recording ? 'guest-record' : 'guest-plan', () => EMPTY);
  const { values: draft, set, held } = kept;
  const hostId = draft.hostId || search.get('host') || offering.data?.rows[0]?.id || '';
  const host = useRead('host', hostId !== '' ? { id: hostId } : null).data;
  const poolId = host?.pools.some((pool) => pool.id === draft.poolId)
    ? draft.poolId
    : (host?.pools[0]?.id ?? '');
  // The network most guests of this host are on comes first: it is the likeliest one, and not that of the management.
  const networks = [...(host?.networks ?? [])]
    .sort((a, b) => b.guests - a.guests)
    .flatMap((found) => (found.network ? [found.network] : []));
  const wanted = draft.networkId || search.get('network');
  const networkId = networks.find((network) => network.id === wanted)?.id ?? networks[0]?.id ?? '';
  const size = parseBytes(draft.size);
  const form = useChangeForm<'guest.plan' | 'guest.record', Draft>(kept, {
    type,
    read: (typed) => inputOf(typed, { hostId, poolId, networkId, recording }),
    typedIn: TYPED_IN,
    previews: () => true,
    sent: ({ subjects }) => void go(`/guests/${subjects[0]!.id}`),
  });
  const { preview, errors } = form;
  return (
    <Making
      title={recording ? 'Record a guest that exists' : 'Plan a guest'}
      consequences={
        <>
          <Consequences preview={preview} planning={!recording} />
          {preview?.made[0] && (
            <p className="mt-3 border-t border-dashed border-pencil pt-2 text-pencil">
              {preview.made[0].name} gets{' '}
              <span className="mono">{preview.made[0].ip || 'no address'}</span>
              {!recording && ' and a MAC of its own'}.
            </p>
          )}
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <div className="grid max-w-[760px] grid-cols-3 gap-3">
            <Field label="Name" of={held('name')}>
              <input autoFocus />
            </Field>
            <Field label="Family" of={held('family')}>
              <select>
                {FAMILIES.map((family) => (
                  <option key={family}>{family}</option>
                ))}
              </select>
            </Field>
            <Field label="Purpose" of={held('purpose')}>
              <input />
            </Field>
            <Field label="Role" hint={recording ? undefined : 'or let it be sized by its role'}>
              <select
                value={draft.profileId}
                onChange={(event) => {
                  const role = profiles.find((found) => found.id === event.target.value);
                  set({ profileId: event.target.value, ...(role ? { family: role.family } : {}) });
                }}
              >
                <option value="">none</option>
                {profiles.map((role) => (
                  <option key={role.id} value={role.id}>
                    {role.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Host" error={errors.hostId}>
              <Choose<HostListRow>
                list="hosts"
                query={{ sort: 'name' }}
                value={hostId}
                onChange={(id) => set({ hostId: id })}
                detail={(row) =>
                  `${formatMemory(row.memoryLeftMiB, 'down')} and ${row.vcpuLeft} vCPU left${row.offersRoom ? '' : `, ${row.state}`}`
                }
              />
            </Field>
            <Field label="vCPU" of={held('vcpu')}>
              <input className="mono" inputMode="numeric" />
            </Field>
            <Field label="Memory" of={held('memory')}>
              <input className="mono" />
            </Field>
            <Field label="Pool" error={errors.poolId}>
              <NamedSelect
                value={poolId}
                onChange={(event) => set({ poolId: event.target.value })}
                rows={host?.pools}
              />
            </Field>
            <Field
              label="Volume"
              of={held('size')}
              hint={size.ok ? formatBoth(size.value) : undefined}
            >
              <input className="mono" />
            </Field>
            <Field label="Allocation">
              <select
                value={draft.thin ? 'thin' : 'full'}
                onChange={(event) => set({ thin: event.target.value === 'thin' })}
              >
                <option value="full">allocate now</option>
                <option value="thin">grow later (thin)</option>
              </select>
            </Field>
            <Field label="Network" error={errors.networkId}>
              <NamedSelect
                value={networkId}
                onChange={(event) => set({ networkId: event.target.value })}
                rows={networks}
              />
            </Field>
            <Field
              label="Address"
              of={held('ip')}
              hint={recording ? 'as it is configured' : 'empty: the next free one'}
            >
              <input className="mono" />
            </Field>
            <Field
              label="MAC"
              of={held('mac')}
              hint={recording ? 'as it is, if known' : 'empty: generated'}
            >
              <input className="mono" />
            </Field>
            {recording && (
              <Field label="State" of={held('state')}>
                <select>
                  {GUEST_STATES.map((state) => (
                    <option key={state}>{state}</option>
                  ))}
                </select>
              </Field>
            )}
          </div>
          <Sending label={recording ? 'Record the guest' : 'Plan the guest'} form={form} />
        </form>
      }
    />
  );
}
