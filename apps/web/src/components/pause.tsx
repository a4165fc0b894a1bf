/** A plan or a migration that waits, why, and going on with it. */
import { useState } from 'react';
import { useChange } from '../client/change.js';
import { useMayPlan } from '../client/session.js';
import { minuteOf } from './minute.js';
import { ProblemNote } from './problem.js';

export function Pause({
  kept,
  row,
}: {
  kept: 'plan' | 'migration';
  row: { id: string; revision: number; pausedAt: string | null; pausedWhy: string };
}) {
  const { make, problem } = useChange();
  const mayPlan = useMayPlan();
  const [why, setWhy] = useState<string | null>(null);
  if (row.pausedAt !== null)
    return (
      <p>
        <b className="text-amber">◆ Paused</b> since {minuteOf(row.pausedAt)}
        {row.pausedWhy && `: ${row.pausedWhy}`}.{' '}
        {mayPlan && (
          <button
            type="button"
            className="act"
            onClick={() => void make(`${kept}.resume`, { id: row.id }, { seen: row })}
          >
            Go on with it
          </button>
        )}
        <ProblemNote problem={problem} />
      </p>
    );
  if (!mayPlan) return null;
  if (why === null)
    return (
      <button type="button" className="act float-right text-[13px]" onClick={() => setWhy('')}>
        Pause it
      </button>
    );
  return (
    <form
      className="flex items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void make(`${kept}.pause`, { id: row.id, why }, { seen: row }).then(
          (written) => written && setWhy(null),
        );
      }}
    >
      <input
        autoFocus
        aria-label="Why it is paused"
        placeholder="why"
        className="w-[280px]"
        value={why}
        onChange={(event) => setWhy(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setWhy(null)}
      />
      <button type="submit" className="act">
        Pause the {kept}
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
