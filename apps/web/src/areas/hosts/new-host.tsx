import type { ThisMachine } from '@insel/contract';
import { formatBoth, parseBytes } from '@insel/core';
import { useLocation, useNavigate } from 'react-router';
import { Making } from '../../components/area.js';
import { useChangeForm } from '../../components/change-form.js';
import { Consequences } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { Field } from '../../components/field.js';
import { useKeptForm } from '../../components/kept-form.js';
import { NamedSelect } from '../../components/named-select.js';
import { useRead } from '../../client/read.js';
import { EMPTY, draftFrom, type Draft, inputOf, STATES, TYPED_IN } from './host-draft.js';

export function NewHost() {
  const go = useNavigate();
  const from = (useLocation().state as { machine?: ThisMachine } | null)?.machine;
  const platforms = useRead('platforms').data;
  const sites = useRead('sites').data ?? [];
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const kept = useKeptForm<Draft>(from ? 'this-machine' : 'host', () => ({
    ...EMPTY,
    ...(from ? draftFrom(from) : {}),
  }));
  const form = useChangeForm(kept, {
    type: 'host.record',
    read: (draft) => inputOf(draft, platforms?.[0]?.id ?? '', sites, from),
    typedIn: TYPED_IN,
    previews: () => true,
    before: async (input, make) => {
      const { site } = kept.values;
      if (!site || input.siteId) return input;
      const made = await make('site.record', { name: site }, { quiet: true });
      return made && { ...input, siteId: made.created[0]!.id };
    },
    sent: ({ subjects }) => void go(`/hosts/${subjects[0]!.id}`),
  });
  const { held, values: draft, set, preview, errors } = form;
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
            <Field label="Name" of={held('name')}>
              <input autoFocus />
            </Field>
            <Field label="State" of={held('state')}>
              <select>
                {STATES.map((state) => (
                  <option key={state}>{state}</option>
                ))}
              </select>
            </Field>
            <Field label="Site" of={held('site')} hint="a new name makes a new site">
              <input list="sites" />
            </Field>
            <Field label="Platform" error={errors.platformId}>
              <NamedSelect
                rows={platforms}
                value={draft.platformId || platforms?.[0]?.id}
                onChange={(event) => set({ platformId: event.target.value })}
              />
            </Field>
            <Field label="Purpose" of={held('purpose')}>
              <input />
            </Field>
            <Field label="Processor model" of={held('processorModel')}>
              <input />
            </Field>
            <Field label="Sockets" of={held('sockets')}>
              <input inputMode="numeric" className="mono" />
            </Field>
            <Field label="Cores per socket" of={held('coresPerSocket')}>
              <input inputMode="numeric" className="mono" />
            </Field>
            <Field label="Threads per core" of={held('threadsPerCore')}>
              <input inputMode="numeric" className="mono" />
            </Field>
            <Field label="Memory installed" of={held('installed')}>
              <input className="mono" />
            </Field>
            <Field
              label="Memory the system sees"
              of={held('visible')}
              hint="empty: not looked at yet"
            >
              <input className="mono" />
            </Field>
            <span />
            <Field label="Pool" of={held('poolName')} hint="empty: no pool yet">
              <input />
            </Field>
            <Field
              label="Usable size of the pool"
              of={held('poolSize')}
              hint={size.ok ? formatBoth(size.value) : undefined}
            >
              <input className="mono" />
            </Field>
            <span />
            <Field label="Management network" of={held('networkId')}>
              <NamedSelect rows={networks} none="–" />
            </Field>
            <Field
              label="Management address"
              of={held('ip')}
              hint="empty: next free of the network"
            >
              <input className="mono" />
            </Field>
          </div>
          <fieldset className="mt-3">
            <legend className="text-xs font-bold text-faint">
              Networks carried for guests, bridged
            </legend>
            {networks.map((network) => (
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
            {sites.map((site) => (
              <option key={site.id} value={site.name} />
            ))}
          </datalist>
          <Sending label="Record the host" form={form} />
        </form>
      }
    />
  );
}
