/** What is asked when a step is ticked. */
import type { MigrationSheet } from '@insel/contract';
import { parseDuration, type Input, type Row } from '@insel/core';
import { useState } from 'react';
import { DayInput } from '../../components/iso-inputs.js';

export type Extra = Omit<Input<'migration.tick'>, 'stepIds' | 'state'>;
export type Step = Row<'moveStep'>;

/** What is said with a tick: why, how long the copy took, until when disks are kept, the name of what is destroyed. */
export function StepQuestions({
  step,
  state,
  sheet,
  close,
  tick,
}: {
  step: Step;
  state: 'done' | 'failed' | 'skipped';
  sheet: MigrationSheet;
  close: () => void;
  tick: (extra: Extra) => Promise<unknown>;
}) {
  const [remark, setRemark] = useState('');
  const [took, setTook] = useState('');
  const [typed, setTyped] = useState('');
  const [keepUntil, setKeepUntil] = useState('');
  const [fault, setFault] = useState('');
  const done = state === 'done';
  const send = async () => {
    const read = done && took.trim() ? parseDuration(took) : null;
    if (read && !read.ok) return setFault(read.sentence);
    const written = await tick({
      ...(remark.trim() ? { remark: remark.trim() } : {}),
      ...(read ? { copySeconds: read.value } : {}),
      ...(typed.trim() ? { typed: typed.trim() } : {}),
      ...(keepUntil ? { keepUntil } : {}),
    });
    if (written) close();
  };
  return (
    <form
      className="mt-1 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      {done && step.destroys !== '' && (
        <label className="flex flex-col text-xs font-bold text-signal">
          Destroys what lies there; type {step.destroys}
          <input value={typed} onChange={(event) => setTyped(event.target.value)} />
        </label>
      )}
      {done && step.becomes === 'switched' && (
        <label className="flex flex-col text-xs font-bold text-faint">
          The copy took, if it was measured
          <input
            className="mono w-28"
            placeholder="9 min"
            value={took}
            onChange={(event) => setTook(event.target.value)}
          />
        </label>
      )}
      {done && step.becomes === 'accepted' && (
        <label className="flex flex-col text-xs font-bold text-faint">
          Keep the source until (else {sheet.holdDays} {sheet.holdDays === 1 ? 'day' : 'days'})
          <DayInput value={keepUntil} onValue={setKeepUntil} />
        </label>
      )}
      <label className="flex grow flex-col text-xs font-bold text-faint">
        {done ? 'Remark' : 'Why'}
        <input
          autoFocus
          required={!done}
          value={remark}
          onChange={(event) => setRemark(event.target.value)}
        />
      </label>
      <button type="submit" className="press">
        {state === 'done' ? 'Tick' : state === 'failed' ? 'It failed' : 'Skip it'}
      </button>
      <button type="button" className="act" onClick={close}>
        Drop
      </button>
      {fault && <span className="text-xs font-bold text-signal">{fault}</span>}
    </form>
  );
}
