/** Who holds an address of a subnet, and what rests after it was released. */
import type { HeldView, SubnetView } from '@insel/contract';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';

const SHEET: Record<string, (id: string) => string> = {
  host: (id) => `/hosts/${id}`,
  guest: (id) => `/guests/${id}`,
  device: (id) => `/networks/devices?open=${id}`,
};

export function HeldLine({ held }: { held: HeldView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  return (
    <div className="grid grid-cols-2 md:grid-cols-[1fr_140px_78px_56px] border-b border-rule text-[13px]">
      <Link className="underline decoration-rule" to={SHEET[held.holder.kind]!(held.holder.id)}>
        {held.holder.name}
      </Link>
      <span className="mono">
        {held.ip}{' '}
        {held.inRange && held.use !== 'reservation' && <span className="text-amber">◆</span>}
      </span>
      <span className="text-faint">
        {held.use === 'static' ? (held.assigned ? 'assigned' : 'found') : held.use}
      </span>
      {mayPlan && (
        <button
          type="button"
          className="act text-[12px]"
          aria-label={`Release ${held.ip} of ${held.holder.name}`}
          onClick={() => void make('address.release', { id: held.id }, { seen: held })}
        >
          Release
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Released addresses that are not given out again yet. */
export function Resting({ subnet }: { subnet: SubnetView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  if (subnet.resting.length === 0) return null;
  return (
    <div className="mt-1 text-[13px]">
      <h2 className="font-bold text-faint">Resting</h2>
      {subnet.resting.map((rest) => (
        <p key={rest.id} className="flex gap-3">
          <span className="mono">{rest.ip}</span> until {rest.until}, was {rest.was}{' '}
          {mayPlan && (
            <button
              type="button"
              className="act text-[12px]"
              onClick={() => void make('address.end-rest', { id: rest.id }, { seen: rest })}
            >
              Give it out again
            </button>
          )}
        </p>
      ))}
      <ProblemNote problem={problem} />
    </div>
  );
}
