import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useRead } from '../../client/read.js';
import { IdentityBoard } from './identity-board.js';

/** Each origin with its clones in the order they were made, and what of their identity is still open. */
export function Clones() {
  const lines = useRead('clones');
  const mayPlan = useMayPlan();
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <div className="mb-3 flex items-baseline gap-4">
        <h1>Identity of clones</h1>
        {mayPlan && (
          <Link className="act ml-auto" to="/clones/new">
            Make clones
          </Link>
        )}
      </div>
      {lines.data?.length === 0 && (
        <p className="text-faint">
          A clone is the same machine twice until it has an identity of its own; here you see which
          still lack one.{' '}
          {mayPlan && (
            <Link className="act" to="/clones/new">
              Make clones
            </Link>
          )}
        </p>
      )}
      {lines.data?.map((line) => (
        <IdentityBoard key={line.origin.id} line={line} />
      ))}
    </div>
  );
}
