/** A subnet is cut into smaller ones, or joined with its neighbour. */
import type { SubnetView } from '@insel/contract';
import { useState } from 'react';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';

/** A subnet cut into equal parts, joined with its neighbour, or removed. */
export function Cut({ subnet }: { subnet: SubnetView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [length, setLength] = useState('');
  if (!mayPlan) return null;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
      <input
        aria-label={`Prefix length to cut ${subnet.prefix} into`}
        placeholder="/26"
        className="mono w-[56px]"
        value={length}
        onChange={(event) => setLength(event.target.value)}
      />
      <button
        type="button"
        className="act"
        disabled={!/^\/?\d+$/.test(length)}
        onClick={() =>
          void make(
            'subnet.split',
            { id: subnet.id, length: Number(length.replace('/', '')) },
            { seen: subnet },
          ).then((written) => written && setLength(''))
        }
      >
        Cut into these
      </button>
      {subnet.joinable.map((other) => (
        <button
          key={other.id}
          type="button"
          className="act"
          onClick={() =>
            void make(
              'subnet.join',
              { id: subnet.id, otherId: other.id },
              { seen: [subnet, other] },
            )
          }
        >
          Join with {other.prefix}
        </button>
      ))}
      <button
        type="button"
        className="act"
        onClick={() => void make('subnet.remove', { id: subnet.id }, { seen: subnet })}
      >
        Remove {subnet.prefix}
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}
