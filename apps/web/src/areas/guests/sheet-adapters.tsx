/** Adapters of a guest: network, MAC, model, what they are called inside, addresses. */
import type { AdapterView, GuestSheet } from '@insel/contract';
import { ADAPTER_MODELS, macNotations, parseMac } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useWrite } from '../../frame/write.js';
import { Choose } from '../../ink/choose.js';
import { asWhole, Editable } from '../../ink/editable.js';
import { ProblemNote } from '../../ink/problem.js';
import { Part } from '../../ink/sheet.js';
import { OneOf, YesNo } from '../../ink/small-edits.js';

export function AdaptersPart({ sheet }: { sheet: GuestSheet }) {
  const { guest, adapters, adapterCaution } = sheet;
  return (
    <Part title="Adapters">
      {adapters.map((adapter, i) => (
        <AdapterLine
          key={adapter.id}
          adapter={adapter}
          seen={guest.revision}
          earlier={i > 0 ? swapped(adapters, i) : null}
          guestId={guest.id}
        />
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

/** One more adapter, on a network, with the next free address, a found one, or none. */
function AddAdapter({ guestId, adapters }: { guestId: string; adapters: AdapterView[] }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({ networkId: '', ip: '' });
  if (!mayPlan) return null;
  const send = async () => {
    const body = {
      networkId: draft.networkId || null,
      ...(draft.ip.trim()
        ? { take: 'given', ip: draft.ip.trim() }
        : { take: draft.networkId ? 'next' : 'none' }),
    };
    if (await write(`guests/${guestId}/adapters`, { body })) setOpen(false);
  };
  const [a, b] = adapters;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-3">
      {open ? (
        <>
          <span className="w-[200px]">
            <Choose
              list="networks"
              label="Network of the new adapter"
              value={draft.networkId}
              onChange={(networkId) => setDraft({ ...draft, networkId })}
              placeholder="network"
            />
          </span>
          <input
            aria-label="Address of the new adapter"
            placeholder="next free address"
            className="mono w-[160px]"
            value={draft.ip}
            onChange={(event) => setDraft({ ...draft, ip: event.target.value })}
          />
          <button type="button" className="act" onClick={() => void send()}>
            Add it
          </button>
          <button type="button" className="act" onClick={() => setOpen(false)}>
            Drop
          </button>
        </>
      ) : (
        <button type="button" className="act" onClick={() => setOpen(true)}>
          Add an adapter
        </button>
      )}
      {adapters.length === 2 && a && b && (
        <button
          type="button"
          className="act"
          onClick={() => void write('adapters/swap', { body: { aId: a.id, bId: b.id } })}
        >
          Change the two over
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Ids in the order in which one of them comes a place earlier. */
const swapped = (adapters: AdapterView[], i: number): string[] =>
  adapters.map(
    (adapter, n) => (n === i - 1 ? adapters[i]! : n === i ? adapters[i - 1]! : adapter).id,
  );

function AdapterLine({
  adapter,
  seen,
  earlier,
  guestId,
}: {
  adapter: AdapterView;
  seen: number;
  earlier: string[] | null;
  guestId: string;
}) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [ip, setIp] = useState('');
  return (
    <div className="border-b border-rule py-0.5">
      <div className="grid grid-cols-[150px_1fr_120px] items-baseline gap-3">
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
        <Editable
          name="MAC"
          path={`adapters/${adapter.id}`}
          seen={seen}
          field="mac"
          value={adapter.mac}
          show={(value) => value ?? 'unknown'}
          write={(value) => value ?? ''}
          parse={(text) => (text.trim() === '' ? { ok: true, value: '' } : parseMac(text))}
          mono
        />
        <span className="text-faint">
          {adapter.macAssigned ? 'generated' : adapter.mac ? 'found' : ''}
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
          path={`adapters/${adapter.id}`}
          seen={seen}
          name={`Name inside of adapter ${adapter.position + 1}`}
          field="nameInside"
          value={adapter.nameInside}
          show={(value) =>
            value || (adapter.inside.name ? `${adapter.inside.name} (expected)` : 'not known')
          }
          write={String}
          parse={(text) => ({ ok: true, value: text.trim() })}
          mono
        />
        <OneOf
          at={{ path: `adapters/${adapter.id}`, seen }}
          name={`Model of adapter ${adapter.position + 1}`}
          field="model"
          value={adapter.model}
          choices={ADAPTER_MODELS.map((model) => ({
            value: model,
            label: model === 'unknown' ? 'model not known' : model,
          }))}
        />
        <YesNo
          at={{ path: `adapters/${adapter.id}`, seen }}
          name={`Adapter ${adapter.position + 1} is`}
          field="connected"
          value={adapter.connected}
          yes="connected"
          no="not connected"
        />
        <YesNo
          at={{ path: `adapters/${adapter.id}`, seen }}
          name={`Adapter ${adapter.position + 1} translates`}
          field="masquerade"
          value={adapter.masquerade}
          yes="translates what goes out"
          no="no translation"
        />
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
        {mayPlan && earlier && (
          <button
            type="button"
            className="act text-[12px]"
            aria-label={`Adapter ${adapter.position + 1} one place earlier`}
            onClick={() =>
              void write(`guests/${guestId}/adapters/order`, { body: { ids: earlier } })
            }
          >
            Earlier
          </button>
        )}
        {mayPlan && (
          <button
            type="button"
            className="act text-[12px]"
            onClick={() => void write(`adapters/${adapter.id}`, { method: 'DELETE' })}
          >
            Remove adapter {adapter.position + 1}
          </button>
        )}
      </div>
      {adapter.addresses.map((address) => (
        <div key={address.id} className="grid grid-cols-[150px_1fr_120px] gap-3">
          <span />
          <span>
            <span className="mono">{address.ip}</span>
            <Editable<number | null>
              path={`addresses/${address.id}`}
              seen={seen}
              name={`Prefix length of ${address.ip}`}
              field="prefixLength"
              value={address.prefixLength}
              show={(value) => (value === null ? '/?' : `/${value}`)}
              write={(value) => (value === null ? '' : String(value))}
              parse={(text) =>
                text.trim() === '' ? { ok: true, value: null } : asWhole(text.replace('/', ''))
              }
              mono
            />{' '}
            {mayPlan && (
              <button
                type="button"
                className="act text-xs"
                onClick={() => void write(`addresses/${address.id}`, { method: 'DELETE' })}
              >
                Release
              </button>
            )}
          </span>
          <span className="text-faint">
            {address.assigned ? 'assigned' : 'found'},{' '}
            <OneOf
              at={{ path: `addresses/${address.id}`, seen }}
              name={`Use of ${address.ip}`}
              field="use"
              value={address.use}
              choices={['static', 'reservation', 'shared', 'lease']}
            />
          </span>
        </div>
      ))}
      {mayPlan && (
        <div className="flex flex-wrap items-center gap-3">
          {adapter.network && (
            <button
              type="button"
              className="act"
              onClick={() =>
                void write('addresses', { body: { adapterId: adapter.id, assigned: true } })
              }
            >
              Assign the next free address
            </button>
          )}
          <input
            aria-label="Address found on this adapter"
            placeholder="record a found address"
            className="mono w-[180px]"
            value={ip}
            onChange={(event) => setIp(event.target.value)}
          />
          {ip && (
            <button
              type="button"
              className="act"
              onClick={() =>
                void write('addresses', {
                  body: { adapterId: adapter.id, ip, assigned: false },
                }).then((written) => written && setIp(''))
              }
            >
              Record
            </button>
          )}
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
