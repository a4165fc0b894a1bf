/** Pools a host reaches: size, what they lie on, what is promised, how full they were when somebody looked. */
import type { GuestListRow, HostSheet, PoolView } from '@insel/contract';
import { formatBoth, parseBytes } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { Choose } from '../../components/choose.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { RecordPool } from '../../components/record-pool.js';
import { Part } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';

export function PoolsPart({ sheet }: { sheet: HostSheet }) {
  return (
    <Part title="Pools">
      {sheet.pools.map((pool) => (
        <PoolLine key={pool.id} pool={pool} sheet={sheet} />
      ))}
      {sheet.pools.length === 0 && (
        <p className="text-faint">No pool: guests have nowhere to lie.</p>
      )}
      <RecordPool hostId={sheet.host.id} />
    </Part>
  );
}

function PoolLine({ pool, sheet }: { pool: PoolView; sheet: HostSheet }) {
  const others = pool.hosts.filter((host) => host.id !== sheet.host.id);
  const at = editing('pool.edit', pool);
  const lies = [
    { value: '', label: pool.remote ? `remote, ${pool.remote}` : 'not said what it lies on' },
    ...sheet.arrays.map((array) => ({ value: `array ${array.id}`, label: `array ${array.name}` })),
    ...sheet.disks
      .filter((disk) => !disk.arrayId)
      .map((disk) => ({ value: `disk ${disk.id}`, label: `disk in bay ${disk.bay}` })),
  ];
  const held = pool.arrayId ? `array ${pool.arrayId}` : pool.diskId ? `disk ${pool.diskId}` : '';
  const used =
    pool.usedBytes !== null && pool.usableBytes > 0
      ? Math.floor((pool.usedBytes / pool.usableBytes) * 100)
      : null;
  return (
    <div className="border-b border-rule py-0.5">
      <div className="grid grid-cols-1 items-baseline gap-x-3 md:grid-cols-[110px_1fr_150px]">
        <b className="truncate">
          <Editable
            at={at('name')}
            name={`Name of ${pool.name}`}
            value={pool.name}
            show={String}
            parse={asText}
          />
        </b>
        <span>
          <Editable
            at={at('usableBytes')}
            name={`Usable size of ${pool.name}`}
            value={pool.usableBytes}
            show={formatBoth}
            write={(value) => `${value} B`}
            parse={parseBytes}
            mono
          />
        </span>
        <span className="text-right">
          <Figure figure={pool.free} rounding="down" /> free
        </span>
      </div>
      <div className="flex flex-wrap gap-x-3 pl-[122px] text-[13px] text-faint">
        <LiesOn pool={pool} held={held} options={lies} />
        <span>
          promised up to{' '}
          <Editable
            at={at('promiseLimitPercent')}
            name={`Promise limit of ${pool.name}`}
            value={pool.promiseLimitPercent}
            show={(value) => `${value} %`}
            write={String}
            parse={asWhole}
          />
        </span>
        <span>
          alarm at{' '}
          <Editable
            at={at('fillAlarmPercent')}
            name={`Fill alarm of ${pool.name}`}
            value={pool.fillAlarmPercent}
            show={(value) => `${value} %`}
            write={String}
            parse={asWhole}
          />
        </span>
        <span>
          starts at once{' '}
          <Editable
            at={at('startsAtOnce')}
            name={`Guests that ${pool.name} starts at once`}
            value={pool.startsAtOnce}
            show={(value) => (value === null ? 'all' : String(value))}
            write={(value) => (value === null ? '' : String(value))}
            parse={(text) =>
              /^(all)?$/i.test(text.trim()) ? { ok: true, value: null } : asWhole(text)
            }
          />
        </span>
        <span>
          used{' '}
          <Editable<number | null>
            at={at('usedBytes')}
            name={`Used in ${pool.name}`}
            value={pool.usedBytes}
            show={(value) => (value === null ? 'not looked at' : `${used} %`)}
            write={(value) => (value === null ? '' : `${value} B`)}
            parse={(text) => (text.trim() === '' ? { ok: true, value: null } : parseBytes(text))}
          />
        </span>
        <span>
          <Figure figure={pool.left} rounding="down" /> to promise
        </span>
        <ServedBy pool={pool} />
        {others.length > 0 && (
          <span>also reached by {others.map((host) => host.name).join(', ')}</span>
        )}
      </div>
    </div>
  );
}

function LiesOn({
  pool,
  held,
  options,
}: {
  pool: PoolView;
  held: string;
  options: { value: string; label: string }[];
}) {
  const { make, problem } = useChange();
  const mayPlan = useMayPlan();
  const set = (value: string) => {
    const [kind, id = null] = value.split(' ');
    const on = { arrayId: kind === 'array' ? id : null, diskId: kind === 'disk' ? id : null };
    void make('pool.edit', { id: pool.id, ...on }, { seen: pool });
  };
  const label = options.find((option) => option.value === held)?.label ?? 'on another host';
  if (!mayPlan || options.length === 1) return <span>{label}</span>;
  return (
    <span>
      <select
        aria-label={`What ${pool.name} lies on`}
        className="!min-h-6 max-w-full !border-rule !p-0 text-[13px]"
        value={held}
        onChange={(event) => set(event.target.value)}
      >
        {!options.some((option) => option.value === held) && <option value={held}>{label}</option>}
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
      <ProblemNote problem={problem} />
    </span>
  );
}

/** The guest that serves a pool over the network: whoever keeps volumes there starts after it. */
function ServedBy({ pool }: { pool: PoolView }) {
  const { make, problem } = useChange();
  const mayPlan = useMayPlan();
  const [open, setOpen] = useState(false);
  const set = async (serverGuestId: string | null) => {
    if (await make('pool.edit', { id: pool.id, serverGuestId }, { seen: pool })) setOpen(false);
  };
  if (!mayPlan) return pool.serverGuest && <span>served by {pool.serverGuest.name}</span>;
  return (
    <span className="flex items-baseline gap-2">
      {pool.serverGuest && (
        <>
          served by{' '}
          <Link className="underline decoration-rule" to={`/guests/${pool.serverGuest.id}`}>
            {pool.serverGuest.name}
          </Link>
          <button
            type="button"
            className="act min-w-6"
            aria-label={`${pool.name} is served by no guest`}
            onClick={() => void set(null)}
          >
            ×
          </button>
        </>
      )}
      {!pool.serverGuest && !open && (
        <button
          type="button"
          className="act"
          aria-label={`${pool.name} is served by a guest`}
          onClick={() => setOpen(true)}
        >
          a guest serves it
        </button>
      )}
      {open && (
        <span className="w-[160px]">
          <Choose<GuestListRow>
            list="guests"
            label={`Guest that serves ${pool.name}`}
            placeholder="guest"
            value=""
            onChange={(id) => void set(id)}
          />
        </span>
      )}
      <ProblemNote problem={problem} />
    </span>
  );
}
