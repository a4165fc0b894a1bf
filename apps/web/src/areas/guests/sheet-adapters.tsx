/** Adapters of a guest: network, MAC, model, what they are called inside, addresses. */
import type { AdapterView, GuestSheet } from '@insel/contract';
import { ADAPTER_MODELS, macNotations, parseMac } from '@insel/core';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { BlocksEdit, OneOf, YesNo } from '../../components/small-edits.js';
import { AdapterAddresses } from './adapter-addresses.js';
import { AddAdapter } from './add-adapter.js';

export function AdaptersPart({ sheet }: { sheet: GuestSheet }) {
  const { guest, adapters, adapterCaution } = sheet;
  return (
    <Part title="Adapters">
      {adapters.map((adapter, i) => (
        <AdapterLine key={adapter.id} adapter={adapter} all={adapters} i={i} guestId={guest.id} />
      ))}
      {adapters.length === 0 && <span className="text-faint">No adapter.</span>}
      {adapterCaution && (
        <p className="text-[13px]">
          <b className="text-amber">◆ Caution.</b> {adapterCaution}
        </p>
      )}
      <AddAdapter guestId={guest.id} adapters={adapters} />
    </Part>
  );
}

/** The order in which one of them comes a place earlier. */
const earlier = (adapters: AdapterView[], i: number): AdapterView[] =>
  adapters.map((adapter, n) => (n === i - 1 ? adapters[i]! : n === i ? adapters[i - 1]! : adapter));

function AdapterLine({
  adapter,
  all,
  i,
  guestId,
}: {
  adapter: AdapterView;
  all: AdapterView[];
  i: number;
  guestId: string;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const at = editing('adapter.edit', adapter);
  const order = earlier(all, i);
  return (
    <div className="border-b border-rule py-0.5">
      <div className="grid grid-cols-1 items-baseline gap-x-3 md:grid-cols-[150px_1fr_120px]">
        {adapter.network ? (
          <Link
            className="font-bold underline decoration-rule"
            to={`/networks/${adapter.network.id}`}
          >
            {adapter.network.name}
          </Link>
        ) : (
          <span className="text-faint">no network</span>
        )}
        {adapter.trunk === null ? (
          <Editable
            name="MAC"
            at={at('mac')}
            value={adapter.mac}
            show={(value) => value ?? 'unknown'}
            write={(value) => value ?? ''}
            parse={(text) => (text.trim() === '' ? { ok: true, value: '' } : parseMac(text))}
            mono
          />
        ) : (
          <span>
            tagged on adapter {adapter.trunk + 1}
            {adapter.vlanId ? `, VLAN ${adapter.vlanId}` : ''}
          </span>
        )}
        <span className="text-faint">
          {adapter.trunk !== null
            ? 'sub-interface'
            : adapter.macAssigned
              ? 'generated'
              : adapter.mac
                ? 'found'
                : ''}
        </span>
      </div>
      <div className="flex flex-wrap gap-x-4 text-[13px]">
        {adapter.side && <b>{adapter.side}</b>}
        {adapter.switchName && (
          <span className="text-faint">
            switch {adapter.switchName}
            {adapter.vlanId ? `, VLAN ${adapter.vlanId}` : ''}
          </span>
        )}
        <span className="text-faint">adapter {adapter.position + 1}, called inside</span>
        <Editable
          at={at('nameInside')}
          name={`Name inside of adapter ${adapter.position + 1}`}
          value={adapter.nameInside}
          show={(value) =>
            value || (adapter.inside.name ? `${adapter.inside.name} (expected)` : 'not known')
          }
          write={String}
          parse={(text) => ({ ok: true, value: text.trim() })}
          mono
        />
        {adapter.trunk === null && (
          <OneOf
            at={at('model')}
            name={`Model of adapter ${adapter.position + 1}`}
            value={adapter.model}
            choices={ADAPTER_MODELS.map((model) => ({
              value: model,
              label: model === 'unknown' ? 'model not known' : model,
            }))}
          />
        )}
        <YesNo
          at={at('connected')}
          name={`Adapter ${adapter.position + 1} is`}
          value={adapter.connected}
          yes="connected"
          no="not connected"
        />
        <YesNo
          at={at('masquerade')}
          name={`Adapter ${adapter.position + 1} translates`}
          value={adapter.masquerade}
          yes="translates what goes out"
          no="no translation"
        />
        {adapter.masquerade && (
          <span>
            from{' '}
            <BlocksEdit
              at={at('masqueradeFrom')}
              name={`Adapter ${adapter.position + 1} translates only what comes from`}
              value={adapter.masqueradeFrom}
            />
          </span>
        )}
        {adapter.linkLocal && (
          <span
            className="mono text-faint"
            title="link-local, made of its MAC (RFC 4291, appendix A)"
          >
            {adapter.linkLocal}
          </span>
        )}
        {adapter.mac && (
          <details>
            <summary className="min-h-6 cursor-pointer leading-6 text-faint">
              other notations
            </summary>
            {macNotations(adapter.mac)
              .slice(1)
              .map((text) => (
                <p key={text} className="mono">
                  {text}
                </p>
              ))}
          </details>
        )}
        {mayPlan && i > 0 && (
          <button
            type="button"
            className="act text-[12px]"
            aria-label={`Adapter ${adapter.position + 1} one place earlier`}
            onClick={() =>
              void make(
                'adapter.order',
                { guestId, ids: order.map(({ id }) => id) },
                { seen: order },
              )
            }
          >
            Earlier
          </button>
        )}
        {mayPlan && (
          <button
            type="button"
            className="act text-[12px]"
            onClick={() => void make('adapter.remove', { id: adapter.id }, { seen: adapter })}
          >
            Remove adapter {adapter.position + 1}
          </button>
        )}
      </div>
      <AdapterAddresses adapter={adapter} make={make} />
      <ProblemNote problem={problem} />
    </div>
  );
}
