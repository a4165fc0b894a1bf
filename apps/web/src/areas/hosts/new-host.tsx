import { checkInput, type Named, type ThisMachine } from '@insel/contract';
import { formatBoth, parseBytes, parseMemory, type Input } from '@insel/core';
import { useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Consequences, Sending, usePreview } from '../../components/consequences.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../frame/read.js';

const STATES = ['planned', 'building', 'in service', 'maintenance'] as const;

const EMPTY = {
  name: '',
  state: 'in service' as (typeof STATES)[number],
  site: '',
  platformId: '',
  purpose: '',
  processorModel: '',
  sockets: '1',
  coresPerSocket: '8',
  threadsPerCore: '2',
  installed: '64 GiB',
  visible: '',
  poolName: '',
  poolSize: '2 TB',
  ip: '',
  networkId: '',
  networks: [] as string[],
  reason: '',
  override: '',
};
type Draft = typeof EMPTY;

/** What the live system said, as the beginning of a form. */
export function draftFrom(machine: ThisMachine): Partial<Draft> {
  // The largest disk that is not the system's own.
  const [disk] = (machine.disks ?? [])
    .filter(({ bay }) => !machine.systemBays.includes(bay))
    .sort((a, b) => b.bytes - a.bytes);
  return {
    name: machine.hostName ?? '',
    processorModel: machine.processorModel ?? '',
    sockets: machine.sockets?.toString() ?? '',
    coresPerSocket: machine.coresPerSocket?.toString() ?? '',
    threadsPerCore: machine.threadsPerCore?.toString() ?? '',
    installed: machine.installedMiB
      ? `${machine.installedMiB} MiB`
      : machine.visibleMiB
        ? `${machine.visibleMiB} MiB`
        : '',
    visible: machine.visibleMiB ? `${machine.visibleMiB} MiB` : '',
    poolName: disk ? `${disk.bay}-disk` : '',
    poolSize: disk ? `${disk.bytes} B` : '',
    ip: machine.addresses.find((address) => !address.ip.includes(':'))?.ip ?? '',
    purpose: machine.isGuest ? 'itself a guest: not additional capacity' : '',
  };
}

export function NewHost() {
  const go = useNavigate();
  const from = (useLocation().state as { machine?: ThisMachine } | null)?.machine;
  const [draft, set, forget] = useDraft<Draft>(from ? 'this-machine' : 'host', () => ({
    ...EMPTY,
    ...(from ? draftFrom(from) : {}),
  }));
  const platforms = useRead('platforms');
  const sites = useRead('sites');
  const networks = useRead('networks', { take: 200 });
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const [input, faults] = inputOf(draft, platforms.data?.[0]?.id ?? '', sites.data ?? [], from);
  const result = checkInput('host.record', input);
  const ready = result.ok && Object.keys(faults).length === 0;
  const preview = usePreview('host.record', ready ? input : null);
  const send = async () => {
    const found: Errors = {
      ...(result.ok
        ? {}
        : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence]))),
      ...faults,
    };
    setErrors(found);
    if (Object.keys(found).length) return;
    let siteId = input.siteId;
    if (draft.site && !siteId) {
      const made = await make('site.record', { name: draft.site }, { quiet: true });
      if (!made) return;
      siteId = made.created[0]!.id;
    }
    const written = await make('host.record', { ...input, siteId }, draft);
    if (!written) return;
    forget();
    void go(`/hosts/${written.subjects[0]!.id}`);
  };
  const error = { ...errorsOf(problem), ...errors };
  const text = (field: keyof Draft) => ({
    value: draft[field] as string,
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
  const size = parseBytes(draft.poolSize);
  return (
    <Making
      title={from ? `Record ${from.hostName ?? 'this machine'}` : 'Record a host'}
      consequences={
        <Consequences
          preview={preview}
          planning={draft.state === 'planned' || draft.state === 'building'}
        />
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          {from?.isGuest && <p className="mb-2 font-bold text-amber">◆ {from.isGuest}</p>}
          {from?.isLaptop && <p className="mb-2 font-bold text-amber">◆ {from.isLaptop}</p>}
          <div className="grid max-w-[760px] grid-cols-3 gap-3">
            <Field label="Name" error={error.name}>
              <input autoFocus {...text('name')} />
            </Field>
            <Field label="State">
              <select {...text('state')}>
                {STATES.map((state) => (
                  <option key={state}>{state}</option>
                ))}
              </select>
            </Field>
            <Field label="Site" hint="a new name makes a new site">
              <input list="sites" {...text('site')} />
            </Field>
            <Field label="Platform" error={error.platformId}>
              <select {...text('platformId')} value={draft.platformId || platforms.data?.[0]?.id}>
                {platforms.data?.map((platform) => (
                  <option key={platform.id} value={platform.id}>
                    {platform.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Purpose">
              <input {...text('purpose')} />
            </Field>
            <Field label="Processor model">
              <input {...text('processorModel')} />
            </Field>
            <Field label="Sockets" error={error.sockets}>
              <input inputMode="numeric" className="mono" {...text('sockets')} />
            </Field>
            <Field label="Cores per socket" error={error.coresPerSocket}>
              <input inputMode="numeric" className="mono" {...text('coresPerSocket')} />
            </Field>
            <Field label="Threads per core" error={error.threadsPerCore}>
              <input inputMode="numeric" className="mono" {...text('threadsPerCore')} />
            </Field>
            <Field label="Memory installed" error={error.installedMiB}>
              <input className="mono" {...text('installed')} />
            </Field>
            <Field
              label="Memory the system sees"
              error={error.visibleMiB}
              hint="empty: not looked at yet"
            >
              <input className="mono" {...text('visible')} />
            </Field>
            <span />
            <Field label="Pool" error={error['pools.0.name']} hint="empty: no pool yet">
              <input {...text('poolName')} />
            </Field>
            <Field
              label="Usable size of the pool"
              error={error['pools.0.usableBytes']}
              hint={size.ok ? formatBoth(size.value) : undefined}
            >
              <input className="mono" {...text('poolSize')} />
            </Field>
            <span />
            <Field label="Management network">
              <select {...text('networkId')}>
                <option value="">–</option>
                {networks.data?.rows.map((network) => (
                  <option key={network.id} value={network.id}>
                    {network.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field
              label="Management address"
              error={error['management.ip'] ?? error.ip}
              hint="empty: next free of the network"
            >
              <input className="mono" {...text('ip')} />
            </Field>
          </div>
          <fieldset className="mt-3">
            <legend className="text-xs font-bold text-faint">
              Networks carried for guests, bridged
            </legend>
            {networks.data?.rows.map((network) => (
              <label key={network.id} className="mr-4 inline-flex min-h-6 items-center gap-1">
                <input
                  type="checkbox"
                  checked={draft.networks.includes(network.id)}
                  onChange={(event) =>
                    set({
                      networks: event.target.checked
                        ? [...draft.networks, network.id]
                        : draft.networks.filter((found) => found !== network.id),
                    })
                  }
                />
                {network.name}
              </label>
            ))}
          </fieldset>
          <datalist id="sites">
            {sites.data?.map((site) => (
              <option key={site.id} value={site.name} />
            ))}
          </datalist>
          <ProblemNote problem={problem} />
          <Sending
            label="Record the host"
            busy={busy}
            blocked={Boolean(
              problem?.overridable || preview?.objections.some((found) => found.overridable),
            )}
            reason={draft.reason}
            override={draft.override}
            onReason={(reason) => set({ reason })}
            onOverride={(override) => set({ override })}
            onSend={() => void send()}
          />
        </form>
      }
    />
  );
}

/** Facts that have no field in the form: parts, flags, firmware. */
function restOf(machine: ThisMachine | undefined): Partial<Input<'host.record'>> {
  if (!machine) return {};
  const {
    machineModel,
    serial,
    domain,
    architecture,
    baseMhz,
    flags,
    virtualisation,
    bootMode,
    secureBoot,
    modules,
    nodes,
    disks,
    ports,
  } = machine;
  const hardware = Object.fromEntries(
    Object.entries({ modules, nodes, disks, ports }).filter(([, list]) => list !== null),
  );
  const known = Object.fromEntries(
    Object.entries({
      machineModel,
      serial,
      domain,
      architecture,
      baseMhz,
      flags,
      virtualisation,
      bootMode,
      secureBoot,
    }).filter(([, value]) => value !== null),
  );
  return { ...known, hardware };
}

function inputOf(
  draft: Draft,
  firstPlatform: string,
  sites: Named[],
  machine: ThisMachine | undefined,
): [Input<'host.record'>, Errors] {
  const faults: Errors = {};
  const memory = (text: string, field: string) => {
    const read = parseMemory(text);
    if (!read.ok) faults[field] = read.sentence;
    return read.ok ? read.value : 0;
  };
  const size = parseBytes(draft.poolSize);
  if (draft.poolName && !size.ok) faults['pools.0.usableBytes'] = size.sentence;
  const input = {
    ...restOf(machine),
    name: draft.name.trim(),
    state: draft.state,
    siteId: sites.find((site) => site.name.toLowerCase() === draft.site.trim().toLowerCase())?.id,
    platformId: draft.platformId || firstPlatform,
    purpose: draft.purpose,
    processorModel: draft.processorModel,
    sockets: Number(draft.sockets),
    coresPerSocket: Number(draft.coresPerSocket),
    threadsPerCore: Number(draft.threadsPerCore),
    installedMiB: memory(draft.installed, 'installedMiB'),
    visibleMiB: draft.visible.trim() === '' ? null : memory(draft.visible, 'visibleMiB'),
    pools: draft.poolName && size.ok ? [{ name: draft.poolName, usableBytes: size.value }] : [],
    networks: draft.networks.map((networkId) => ({ networkId })),
    ...(draft.ip || draft.networkId
      ? {
          management: { ip: draft.ip.trim() || undefined, networkId: draft.networkId || undefined },
        }
      : {}),
  };
  return [input, faults];
}
