/** The end of a form that makes a change: what was refused, the reason for the log, the written reason that overrides objections. */
import type { Preview, Problem } from '@insel/contract';
import { ProblemNote } from './problem.js';

interface Said {
  reason: string;
  /** Left out where nothing can be done all the same. */
  override?: string;
}

export function Sending({
  label,
  busy,
  problem,
  preview,
  said,
  set,
  onSend,
}: {
  label: string;
  busy: boolean;
  problem: Problem | null;
  preview?: Preview;
  said: Said;
  set: (said: Partial<Said>) => void;
  onSend: () => Promise<unknown>;
}) {
  const blocked = problem?.overridable || preview?.objections.some((found) => found.overridable);
  return (
    <>
      <ProblemNote problem={problem} />
      <div className="mt-4 flex max-w-[560px] flex-col gap-2">
        <label className="flex flex-col text-xs font-bold text-faint">
          Reason, for the log
          <input value={said.reason} onChange={(event) => set({ reason: event.target.value })} />
        </label>
        {blocked && said.override !== undefined && (
          <label className="flex flex-col text-xs font-bold text-signal">
            Reason to do it all the same
            <input
              value={said.override}
              onChange={(event) => set({ override: event.target.value })}
            />
          </label>
        )}
        <div>
          <button type="button" className="press" disabled={busy} onClick={() => void onSend()}>
            {label}
          </button>
        </div>
      </div>
    </>
  );
}
