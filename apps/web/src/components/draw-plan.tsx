/** What was found, drawn as a plan of its own under a name; the plan opens when it is drawn. */
import type { ReactNode } from 'react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useChange } from '../client/change.js';
import { errorsOf, Field } from './field.js';
import { ProblemNote } from './problem.js';

type Make = ReturnType<typeof useChange>['make'];

export function DrawPlan({
  initial,
  words,
  draw,
}: {
  /** The name to begin with. */
  initial: string;
  /** On the button. */
  words: ReactNode;
  draw: (make: Make, name: string) => ReturnType<Make>;
}) {
  const { make, problem, busy } = useChange();
  const go = useNavigate();
  const [name, setName] = useState(initial);
  const send = async () => {
    const written = await draw(make, name);
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Field label="Name of the plan" error={errorsOf(problem).name}>
        <input value={name} onChange={(event) => setName(event.target.value)} />
      </Field>
      <button type="submit" className="act" disabled={busy}>
        {words}
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
