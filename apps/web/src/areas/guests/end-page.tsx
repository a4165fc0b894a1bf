/** The end of a guest: everything that still refers to it, and what is cleared away with it. */
import { CLEARED, type Cleared, type Referrer } from '@insel/core';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../client/read.js';

const WORDS: Record<Cleared, string> = {
  addresses: 'Release its addresses',
  media: 'Eject its media',
  needs: 'Take away what it needs to start',
  rules: 'Take it out of rules',
  snapshots: 'Its snapshots were deleted',
};

const PATHS: Record<NonNullable<Referrer['open']>['kind'], string> = {
  service: '/guests/start-order?service=',
  guest: '/guests/',
  host: '/hosts/',
  pool: '/guests/pools?open=',
  migration: '/migrations/',
  network: '/networks/',
};

export function EndPage() {
  const { id = '' } = useParams();
  const go = useNavigate();
  const mayPlan = useMayPlan();
  const sheet = useRead('guest', { id });
  const end = useRead('guestEnd', { id }).data;
  const { make, busy, problem } = useChange();
  const [kept, setKept] = useState<ReadonlySet<Cleared>>(new Set());
  const [reason, setReason] = useState('');
  if (sheet.error) return <p className="p-6 text-signal">{sheet.error.message}</p>;
  if (!sheet.data || !end) return null;
  const { guest } = sheet.data;
  const of = (clears: Cleared | null): Referrer[] =>
    end.referrers.filter((row) => row.clears === clears);
  const present = CLEARED.filter((what) => of(what).length > 0);
  const open = of(null);
  const needed = open.filter((row) => row.kind !== 'volume' && row.kind !== 'backup');
  const send = async () => {
    if (
      await make(
        'guest.retire',
        { id, clear: present.filter((what) => !kept.has(what)) },
        { seen: guest, reason },
      )
    )
      void go(`/guests/${id}`);
  };
  return (
    <div className="h-full max-w-[860px] overflow-y-auto px-6 py-4">
      <h1>Retire {guest.name}</h1>
      <p className="text-faint">
        It is {guest.state}. Retired, it promises nothing and its findings end; it stays in the
        record, and can be set back to stopped.
      </p>
      <section aria-label="What still refers to it" className="mt-3 border-t border-rule pt-2">
        <h2 className="font-bold">
          {needed.length === 0
            ? 'Nothing needs it'
            : `${needed.length} ${needed.length === 1 ? 'thing still needs' : 'things still need'} it`}
        </h2>
        {needed.length > 0 && (
          <p className="text-[13px] text-faint">
            Settle these first, or they point at nothing that runs.
          </p>
        )}
        <ul>
          {open.map((row) => (
            <li key={`${row.kind}${row.id}${row.sentence}`} className="border-b border-rule py-0.5">
              {row.kind === 'volume' || row.kind === 'backup' ? (
                ''
              ) : (
                <b className="text-amber">◆ </b>
              )}
              {row.sentence}{' '}
              {row.open && (
                <Link className="act text-[12px]" to={`${PATHS[row.open.kind]}${row.open.id}`}>
                  Open
                </Link>
              )}
            </li>
          ))}
        </ul>
        {open.length === 0 && <p className="text-faint">Neither volumes nor anything else.</p>}
      </section>
      <section aria-label="Cleared away with it" className="mt-4 border-t border-rule pt-2">
        <h2 className="font-bold">Cleared away with it</h2>
        {present.length === 0 && (
          <p className="text-faint">It holds nothing that would have to be given back.</p>
        )}
        {present.map((what) => (
          <div key={what} className="border-b border-rule py-1">
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={!kept.has(what)}
                onChange={() =>
                  setKept((held) => {
                    const next = new Set(held);
                    if (!next.delete(what)) next.add(what);
                    return next;
                  })
                }
              />{' '}
              <b>{WORDS[what]}</b>
            </label>
            {of(what).map((row) => (
              <p key={row.id} className="pl-6 text-[13px] text-faint">
                {row.sentence}
              </p>
            ))}
          </div>
        ))}
      </section>
      <p className="mt-3 text-[13px]">
        Its volumes keep their room until their deletion is recorded. Personal data on its disks and
        in its backups: erase them by the rules of your place.
      </p>
      <ProblemNote problem={problem} />
      {mayPlan && (
        <div className="mt-3 flex max-w-[560px] flex-col gap-2">
          <Field label="Reason, for the log">
            <input value={reason} onChange={(event) => setReason(event.target.value)} />
          </Field>
          <p className="flex gap-4">
            <button type="button" className="press" disabled={busy} onClick={() => void send()}>
              Retire {guest.name}
            </button>{' '}
            <Link className="act" to={`/guests/${id}`}>
              Back to its sheet
            </Link>
          </p>
        </div>
      )}
    </div>
  );
}
