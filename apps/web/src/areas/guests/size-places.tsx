/** Hosts ranked for a guest, each with the reason why it fits or not; the chosen one's pools. */
import type { SizeAnswer } from '@insel/contract';
import type { HostRank } from '@insel/core';
import { useState } from 'react';

const FEW = 6;
const share = (value: number): string => `${Math.round(value)} %`;

export function Places({
  answer,
  choose,
  poolId,
  choosePool,
}: {
  answer: SizeAnswer;
  choose: (hostId: string) => void;
  poolId: string;
  choosePool: (poolId: string) => void;
}) {
  const [all, setAll] = useState(false);
  const shown = answer.hosts.filter((host, i) => all || i < FEW || host.hostId === answer.hostId);
  const chosen = answer.hosts.find((host) => host.hostId === answer.hostId);
  const fitting = answer.hosts.filter((host) => host.fits).length;
  return (
    <div>
      <p className="text-[13px] text-faint">
        {fitting === 0
          ? 'It fits on no host as it is: each says why.'
          : `It fits on ${fitting} of ${answer.hostsInAll} hosts.`}{' '}
        Best is what keeps every failure bearable, then what evens out the group.
      </p>
      <div role="radiogroup" aria-label="Host for the guest" className="mt-1 border-t border-ink">
        {shown.map((host) => (
          <HostLine
            key={host.hostId}
            host={host}
            chosen={host.hostId === answer.hostId}
            choose={() => choose(host.hostId)}
          />
        ))}
      </div>
      {!all && answer.hosts.length > shown.length && (
        <button type="button" className="act mt-1" onClick={() => setAll(true)}>
          Show {answer.hosts.length - shown.length} more
        </button>
      )}
      {chosen &&
        chosen.pools.length > 0 &&
        answer.chosen.systemBytes + answer.chosen.dataBytes > 0 && (
          <div role="radiogroup" aria-label="Pool for its volumes" className="mt-2">
            <p className="text-xs font-bold text-faint">Pool on {chosen.name}</p>
            {chosen.pools.map((pool) => {
              const on =
                (chosen.pools.some((found) => found.poolId === poolId)
                  ? poolId
                  : chosen.pools[0]!.poolId) === pool.poolId;
              return (
                <label
                  key={pool.poolId}
                  className={`flex min-h-6 items-baseline gap-2 ${pool.fits ? '' : 'text-faint'}`}
                >
                  <input
                    type="radio"
                    name="pool"
                    checked={on}
                    onChange={() => choosePool(pool.poolId)}
                  />{' '}
                  <b>{pool.name}</b> {!pool.fits && <span className="text-signal">■ no room</span>}{' '}
                  <span>{pool.sentence}</span>
                </label>
              );
            })}
          </div>
        )}
    </div>
  );
}

function HostLine({
  host,
  chosen,
  choose,
}: {
  host: HostRank;
  chosen: boolean;
  choose: () => void;
}) {
  const [open, setOpen] = useState(false);
  const against = host.reasons.filter((reason) => !reason.fits);
  return (
    <div
      className={`border-b border-rule py-1 ${chosen ? 'bg-water shadow-[inset_3px_0_0_var(--teal)]' : ''}`}
    >
      <div className="grid grid-cols-[18px_96px_84px_1fr_auto] items-baseline gap-2 px-2">
        <input
          type="radio"
          name="host"
          aria-label={`Put it on ${host.name}`}
          checked={chosen}
          onChange={choose}
        />
        <b>{host.name}</b>
        <span className={`whitespace-nowrap ${host.fits ? '' : 'font-bold text-signal'}`}>
          {host.fits ? 'fits' : '■ does not'}
        </span>
        <span className="min-w-0 text-[13px]">
          {host.fits ? (
            <>
              memory {share(host.memoryTakenAfter)}, processors {share(host.vcpuTakenAfter)} taken
              afterwards
              {host.tolerance.answer === 'kept' && (
                <span className="text-faint">; {host.tolerance.sentence}</span>
              )}
              {host.tolerance.answer === 'lost' && (
                <span className="text-amber">; ◆ {host.tolerance.sentence}</span>
              )}
            </>
          ) : (
            against.map((reason) => reason.sentence).join('; ')
          )}
        </span>
        <button
          type="button"
          className="act text-[12px]"
          aria-expanded={open}
          aria-label={`Reasons of ${host.name}`}
          onClick={() => setOpen(!open)}
        >
          Reasons
        </button>
      </div>
      {open && (
        <dl className="grid grid-cols-[100px_1fr] gap-x-3 px-8 text-[13px]">
          {host.reasons.map((reason) => [
            <dt key={`${reason.check}-name`} className="text-faint">
              {reason.check}
            </dt>,
            <dd key={reason.check} className={reason.fits ? '' : 'text-signal'}>
              {reason.fits ? '' : '■ '}
              {reason.sentence}
            </dd>,
          ])}
          <dt className="text-faint">failures</dt>
          <dd>
            {host.tolerance.sentence || 'not asked: it does not fit, or better ones were looked at'}
          </dd>
          <dt className="text-faint">balance</dt>
          <dd>
            hosts of its group would differ by {Math.round(host.imbalance)} points (standard
            deviation of what is taken)
          </dd>
        </dl>
      )}
    </div>
  );
}
