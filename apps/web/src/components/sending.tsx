/** The end of a form that makes a change: what was refused, the reason for the log, the written reason that overrides objections. */
import type { Preview, Problem } from '@insel/contract';
import { Wrong } from './field.js';
import { unplaced, type KeptForm } from './kept-form.js';
import { ProblemNote } from './problem.js';

interface Said {
  reason: string;
  /** Left out where nothing can be done all the same. */
  override?: string;
}

/** A form that is sent: one that makes a change, or many of them in turn. */
export interface Sendable<V extends Said> extends KeptForm<V> {
  busy: boolean;
  problem: Problem | null;
  preview?: Preview;
  send: () => Promise<void>;
}

export function Sending<V extends Said>({
  label,
  form,
  placed,
}: {
  label: string;
  form: Sendable<V>;
  /** Paths within parts whose sentences the page shows itself. */
  placed?: RegExp;
}) {
  const { control, values, errors, busy, problem, preview, send } = form;
  const blocked = problem?.overridable || preview?.objections.some((found) => found.overridable);
  const marked = form.form.formState.isSubmitted && Object.keys(errors).length > 0;
  const others = Object.entries(unplaced(form)).filter(([path]) => !placed?.test(path));
  return (
    <>
      <ProblemNote problem={problem} />
      {marked && !problem && (
        <p role="alert" className="mt-2 font-bold text-signal">
          ■ Not sent: what is marked above needs another look.
        </p>
      )}
      <Wrong errors={Object.fromEntries(others)} problem={problem} />
      <div className="mt-4 flex max-w-[560px] flex-col gap-2">
        <label className="flex flex-col text-xs font-bold text-faint">
          Reason, for the log
          <input {...control('reason')} />
        </label>
        {blocked && values.override !== undefined && (
          <label className="flex flex-col text-xs font-bold text-signal">
            Reason to do it all the same
            <input {...control('override')} />
          </label>
        )}
        <div>
          <button type="button" className="press" disabled={busy} onClick={() => void send()}>
            {label}
          </button>
        </div>
      </div>
    </>
  );
}
