/** Addresses of an adapter: those assigned or found, the next free one, one that somebody found. */
import type { AdapterView } from '@insel/contract';
import { useState } from 'react';
import { asWhole, Editable } from '../../components/editable.js';
import { OneOf } from '../../components/small-edits.js';
import { editing, type useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';

export function AdapterAddresses({
  adapter,
  make,
}: {
  adapter: AdapterView;
  make: ReturnType<typeof useChange>['make'];
}) {
  const mayPlan = useMayPlan();
  const [ip, setIp] = useState('');
  return (
    <>
      {adapter.addresses.map((address) => (
        <div key={address.id} className="grid grid-cols-1 gap-x-3 md:grid-cols-[150px_1fr_120px]">
          <span />
          <span>
            <span className="mono">{address.ip}</span>
            <Editable<number | null>
              at={editing('address.edit', address)('prefixLength')}
              name={`Prefix length of ${address.ip}`}
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
                onClick={() => void make('address.release', { id: address.id }, { seen: address })}
              >
                Release
              </button>
            )}
          </span>
          <span className="text-faint">
            {address.assigned ? 'assigned' : 'found'},{' '}
            <OneOf
              at={editing('address.edit', address)('use')}
              name={`Use of ${address.ip}`}
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
              onClick={() => void make('address.set', { adapterId: adapter.id, assigned: true })}
            >
              Assign the next free address
            </button>
          )}
          <input
            aria-label="Address found on this adapter"
            placeholder="record a found address"
            className="mono w-[220px]"
            value={ip}
            onChange={(event) => setIp(event.target.value)}
          />
          {ip && (
            <button
              type="button"
              className="act"
              onClick={() =>
                void make('address.set', { adapterId: adapter.id, ip, assigned: false }).then(
                  (written) => written && setIp(''),
                )
              }
            >
              Record
            </button>
          )}
        </div>
      )}
    </>
  );
}
