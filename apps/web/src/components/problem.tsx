import type { Problem } from '@insel/contract';
import { Workings } from './workings.js';

/** What went wrong, what was kept, what to do; with the figure that fails. */
export function ProblemNote({ problem }: { problem: Problem | null }) {
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
    </div>
  );
}
