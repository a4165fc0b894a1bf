import { checkInput, type HostListRow } from '@insel/contract';
import {
  FAMILIES,
  formatBoth,
  formatMemory,
  GUEST_STATES,
  parseBytes,
  parseMemory,
} from '@insel/core';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Consequences, usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { useRead } from '../../frame/read.js';
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

/** Plans a guest with room and address; with ?record takes one as it exists. */
export function NewGuest() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const recording = search.has('record');
  const type = recording ? 'guest.record' : 'guest.plan';
  const [draft, set, forget] = useDraft<Draft>(
    recording ? 'guest-record' : 'guest-plan',
    () => EMPTY,
  );
  const offering = useRead('hosts', { state: 'in service', sort: 'name', take: 1 });
  const hostId = draft.hostId || search.get('host') || offering.data?.rows[0]?.id || '';
  const host = useRead('host', hostId !== '' ? { id: hostId } : null).data;
  const profiles = useRead('profiles').data ?? [];
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const poolId = host?.pools.some((pool) => pool.id === draft.poolId)
    ? draft.poolId
    : (host?.pools[0]?.id ?? '');
  // The network most guests of this host are on comes first: it is the likeliest one, and not that of the management.
  const networks = [...(host?.networks ?? [])]
    .sort((a, b) => b.guests - a.guests)
    .flatMap((found) => (found.network ? [found.network] : []));
  const wanted = draft.networkId || search.get('network');
  const networkId = networks.find((network) => network.id === wanted)?.id ?? networks[0]?.id ?? '';
  const memory = parseMemory(draft.memory);
  const size = parseBytes(draft.size);
  const input = {
    name: draft.name.trim(),
    hostId,
    family: draft.family,
    ...(draft.profileId ? { profileId: draft.profileId } : {}),
    purpose: draft.purpose,
    vcpu: Number(draft.vcpu),
    memoryMiB: memory.ok ? memory.value : 0,
    volumes: draft.size.trim()
      ? [{ poolId, bytes: size.ok ? size.value : 0, label: 'system', thin: draft.thin }]
      : [],
    adapters: networkId
      ? [
          {
            networkId,
            ...(draft.mac.trim() ? { mac: draft.mac.trim() } : {}),
            address: draft.ip.trim()
              ? { as: 'given' as const, ip: draft.ip.trim() }
              : { as: recording ? ('none' as const) : ('next' as const) },
          },
        ]
      : [],
    ...(recording ? { state: draft.state } : {}),
  };
  const result = checkInput(type, input);
  const faults: Errors = {
    ...(memory.ok ? {} : { memoryMiB: memory.sentence }),
    ...(size.ok || !draft.size.trim() ? {} : { 'volumes.0.bytes': size.sentence }),
  };
  const preview = usePreview(
    type,
    result.ok && Object.keys(faults).length === 0 ? result.value : null,
  );
  const send = async () => {
    const found: Errors = {
      ...(result.ok
        ? {}
        : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence]))),
      ...faults,
    };
    setErrors(found);
    if (!result.ok || Object.keys(found).length) return;
    const written = await make(type, result.value, draft);
    if (!written) return;
    forget();
    void go(`/guests/${written.subjects[0]!.id}`);
  };
  const error = { ...errorsOf(problem), ...errors };
  const text = (field: keyof Draft) => ({
    value: draft[field] as string,
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
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
            <Field label="Name" error={error.name}>
              <input autoFocus {...text('name')} />
            </Field>
            <Field label="Family">
              <select {...text('family')}>
                {FAMILIES.map((family) => (
                  <option key={family}>{family}</option>
                ))}
              </select>
            </Field>
            <Field label="Purpose">
              <input {...text('purpose')} />
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
            <Field label="Host" error={error.hostId}>
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
            <Field label="vCPU" error={error.vcpu}>
              <input className="mono" inputMode="numeric" {...text('vcpu')} />
            </Field>
            <Field label="Memory" error={error.memoryMiB}>
              <input className="mono" {...text('memory')} />
            </Field>
            <Field label="Pool" error={error['volumes.0.poolId']}>
              <NamedSelect
                value={poolId}
                onChange={(event) => set({ poolId: event.target.value })}
                rows={host?.pools}
              />
            </Field>
            <Field
              label="Volume"
              error={error['volumes.0.bytes']}
              hint={size.ok ? formatBoth(size.value) : undefined}
            >
              <input className="mono" {...text('size')} />
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
            <Field label="Network" error={error['adapters.0.networkId']}>
              <NamedSelect
                value={networkId}
                onChange={(event) => set({ networkId: event.target.value })}
                rows={networks}
              />
            </Field>
            <Field
              label="Address"
              error={error['adapters.0.ip']}
              hint={recording ? 'as it is configured' : 'empty: the next free one'}
            >
              <input className="mono" {...text('ip')} />
            </Field>
            <Field
              label="MAC"
              error={error['adapters.0.mac']}
              hint={recording ? 'as it is, if known' : 'empty: generated'}
            >
              <input className="mono" {...text('mac')} />
            </Field>
            {recording && (
              <Field label="State">
                <select {...text('state')}>
                  {GUEST_STATES.map((state) => (
                    <option key={state}>{state}</option>
                  ))}
                </select>
              </Field>
            )}
          </div>
          <Sending
            label={recording ? 'Record the guest' : 'Plan the guest'}
            busy={busy}
            problem={problem}
            preview={preview}
            said={draft}
            set={set}
            onSend={() => send()}
          />
        </form>
      }
    />
  );
}
