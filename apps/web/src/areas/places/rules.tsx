/** Rules between guests: together, apart, pinned to a host. */
import type { GuestListRow, HostListRow, Named } from '@insel/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { Choose } from '../../components/choose.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';

export function Rules() {
  const mayPlan = useMayPlan();
  const rules = useRead('placementRules').data ?? [];
  const { make, problem } = useChange();
  return (
    <Part title="Rules">
      <p className="text-faint">
        Guests that belong together, apart, or on one host. They hold when guests restart elsewhere.
      </p>
      {rules.map((rule) => (
        <div
          key={rule.id}
          className="grid grid-cols-[150px_150px_1fr_70px] items-baseline gap-3 border-b border-rule py-1 leading-6"
        >
          <b>{rule.name}</b>
          <span>
            {rule.rule}
            {rule.rule === 'pinned'
              ? ` to ${rule.host?.name}`
              : rule.scope !== 'host'
                ? ` by ${rule.scope}`
                : ''}
          </span>
          <span>
            {rule.guests.map((guest) => (
              <Link
                key={guest.id}
                className="mr-3 underline decoration-rule"
                to={`/guests/${guest.id}`}
              >
                {guest.name}
              </Link>
            ))}
          </span>
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              onClick={() => void make('rule.remove', { id: rule.id }, { seen: rule })}
            >
              Remove
            </button>
          )}
        </div>
      ))}
      <ProblemNote problem={problem} />
      {mayPlan && <AddRule />}
    </Part>
  );
}

function AddRule() {
  const { make, problem } = useChange();
  const [name, setName] = useState('');
  const [rule, setRule] = useState<'apart' | 'together' | 'pinned'>('apart');
  const [scope, setScope] = useState<'host' | 'rack' | 'site'>('host');
  const [hostId, setHostId] = useState('');
  const [guests, setGuests] = useState<Named[]>([]);
  const send = async () => {
    if (
      await make('rule.set', {
        name,
        rule,
        ...(rule === 'pinned' ? { hostId: hostId || null } : { scope }),
        guestIds: guests.map((guest) => guest.id),
      })
    ) {
      setName('');
      setGuests([]);
    }
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <input
        aria-label="Name of a new rule"
        placeholder="name of a new rule"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <select
        aria-label="Kind of rule"
        value={rule}
        onChange={(event) => setRule(event.target.value as 'apart')}
      >
        <option>apart</option>
        <option>together</option>
        <option>pinned</option>
      </select>
      {rule === 'pinned' ? (
        <span className="w-[180px]">
          <Choose<HostListRow>
            list="hosts"
            label="Host they are pinned to"
            value={hostId}
            onChange={(id) => setHostId(id)}
          />
        </span>
      ) : (
        <select
          aria-label="By what"
          value={scope}
          onChange={(event) => setScope(event.target.value as 'host')}
        >
          <option value="host">by host</option>
          <option value="rack">by rack</option>
          <option value="site">by site</option>
        </select>
      )}
      <span className="w-[200px]">
        <Choose<GuestListRow>
          list="guests"
          label="Add a guest to the rule"
          placeholder="add a guest"
          value=""
          onChange={(id, row) =>
            row &&
            setGuests((held) =>
              held.some((guest) => guest.id === id) ? held : [...held, { id, name: row.name }],
            )
          }
          detail={(row) => `on ${row.host.name}`}
        />
      </span>
      {guests.map((guest) => (
        <button
          key={guest.id}
          type="button"
          className="act"
          aria-label={`Leave ${guest.name} out`}
          onClick={() => setGuests(guests.filter((found) => found.id !== guest.id))}
        >
          {guest.name} ×
        </button>
      ))}
      <button type="button" className="act" onClick={() => void send()}>
        Record the rule
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}
