import { Link, useSearchParams } from 'react-router';
import { useMayPlan } from '../frame/session.js';

/** What narrows a list, kept in the address bar, and the way to make something new. */
export function Filter({ make, label, states }: { make: string; label: string; states?: readonly string[] }) {
  const [search, setSearch] = useSearchParams();
  const mayPlan = useMayPlan();
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(name, value);
    else next.delete(name);
    setSearch(next, { replace: true });
  };
  return (
    <div className="no-print flex items-center gap-3 border-b border-rule px-2 py-1">
      <input aria-label="Filter by name" placeholder="Filter" className="w-[120px]" value={search.get('q') ?? ''} onChange={(event) => set('q', event.target.value)} />
      {states && (
        <select aria-label="State" value={search.get('state') ?? ''} onChange={(event) => set('state', event.target.value)}>
          <option value="">any state</option>
          {states.map((state) => (
            <option key={state}>{state}</option>
          ))}
        </select>
      )}
      {mayPlan && (
        <Link className="act ml-auto" to={make}>
          {label}
        </Link>
      )}
    </div>
  );
}
