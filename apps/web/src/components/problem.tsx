import type { Problem } from '@insel/contract';
import { useState } from 'react';
import { Workings } from './workings.js';

/** What went wrong, what was kept, what to do; with the figure that fails, and a way past an objection where one is given. */
export function ProblemNote({
  problem,
  anyway,
}: {
  problem: Problem | null;
  anyway?: (reason: string) => void;
}) {
  const [reason, setReason] = useState('');
  if (!problem) return null;
  return (
    <div role="alert" className="my-2 border-l-4 border-signal pl-3">
      <p>
        <span className="font-bold text-signal">■ {problem.title}.</span> {problem.sentence}{' '}
        {problem.remedy}
      </p>
      {problem.figure && (
        <div className="mt-1 max-w-[420px] border border-rule p-2">
          <Workings figure={problem.figure} rounding="down" />
        </div>
      )}
      {anyway && problem.overridable && (
        <form
          className="mt-1 flex max-w-[640px] items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (reason.trim()) anyway(reason.trim());
          }}
        >
          <label className="flex grow flex-col text-xs font-bold text-signal">
            Reason to do it all the same
            <input required value={reason} onChange={(event) => setReason(event.target.value)} />
          </label>
          <button type="submit" className="act">
            Do it all the same
          </button>
        </form>
      )}
    </div>
  );
}
