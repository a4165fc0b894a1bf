import { checkInput, type ThisMachine } from '@insel/contract';
import { formatBoth, parseBytes } from '@insel/core';
import { useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Consequences, usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { useRead } from '../../frame/read.js';
import { EMPTY, draftFrom, type Draft, inputOf, STATES } from './host-draft.js';

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
          <Sending
            label="Record the host"
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
