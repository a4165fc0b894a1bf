/** Living with a finding until a day: the form, and what is said while it lasts. */
import type { Finding } from '@insel/core';
import { useChange } from '../client/change.js';
import { useMayPlan } from '../client/session.js';
import { useChangeForm } from './change-form.js';
import { Field } from './field.js';
import { useShortForm } from './kept-form.js';
import { ProblemNote } from './problem.js';
import { DayInput } from './iso-inputs.js';

/** Three months are a time in which most things are mended. */
const USUAL_MS = 90 * 86_400_000;
const usualDay = (): string => new Date(Date.now() + USUAL_MS).toISOString().slice(0, 10);

export function AcceptForm({ finding, close }: { finding: Finding; close: () => void }) {
  const kept = useShortForm(() => ({ until: usualDay(), reason: '' }));
  const { values, set, held } = kept;
  const { send, busy, problem, errors } = useChangeForm(kept, {
    type: 'finding.accept',
    read: ({ until }) => [{ findingId: finding.id, until }],
    sent: close,
  });
  return (
    <form
      aria-label={`Accept: ${finding.evidence}`}
      className="my-1 grid max-w-[640px] grid-cols-[150px_1fr] gap-3"
      onSubmit={(event) => void send(event)}
    >
      <Field label="Accepted until" error={errors.until}>
        <DayInput value={values.until} onValue={(until) => set({ until })} />
      </Field>
      <Field label="Because" of={held('reason')}>
        <input autoFocus placeholder="why it can be lived with" />
      </Field>
      <p className="col-span-2 text-xs text-faint">
        It is told again when the day has passed, or when what it says alters.
      </p>
      <p className="col-span-2 flex gap-3">
        <button type="submit" className="press" disabled={busy}>
          Accept it
        </button>
        <button type="button" className="act" onClick={close}>
          Cancel
        </button>
      </p>
      <ProblemNote problem={problem} />
    </form>
  );
}

/** Until when and why it is lived with, and the way to hear of it again. */
export function Accepted({ accepted }: { accepted: NonNullable<Finding['accepted']> }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  return (
    <p className="text-[13px] text-pencil">
      Accepted until {accepted.until} by {accepted.by}: {accepted.reason}{' '}
      {mayPlan && (
        <button
          type="button"
          className="act"
          disabled={busy}
          onClick={() =>
            void make('finding.end-acceptance', { id: accepted.id }, { seen: accepted })
          }
        >
          Tell it again
        </button>
      )}
      <ProblemNote problem={problem} />
    </p>
  );
}
