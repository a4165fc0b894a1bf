import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../client/session.js';
import { useUrlState } from '../client/url-state.js';

/** What narrows a list, in one place and order: words, state, then the rest; at the other end the way to make something new. */
export function Filter({
  make,
  label,
  states,
  ways,
  children,
}: {
  make: string;
  label: string;
  states?: readonly string[];
  /** Other ways in, beside the usual one. */
  ways?: ReactNode;
  /** What narrows it beside words and state: role, group, place. */
  children?: ReactNode;
}) {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  return (
    <div className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-2 py-1">
      <input
        aria-label="Filter by name"
        placeholder="Filter"
        className="w-[120px]"
        value={search.get('q') ?? ''}
        onChange={(event) => set({ q: event.target.value })}
      />
      {states && (
        <select
          aria-label="State"
          value={search.get('state') ?? ''}
          onChange={(event) => set({ state: event.target.value })}
        >
          <option value="">any state</option>
          {states.map((state) => (
            <option key={state}>{state}</option>
          ))}
        </select>
      )}
      {children}
      <span className="ml-auto flex items-center gap-3">
        {ways}
        {mayPlan && (
          <Link className="act" to={make}>
            {label}
          </Link>
        )}
      </span>
    </div>
  );
}
