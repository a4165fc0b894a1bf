/** The last steps of a plan become a plan of their own, which stands on the first. */
import type { PlanSheet } from '@insel/contract';
import { counted } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';

/** This step and those behind it in a plan of their own, which stands on the rest. */
export function Split({
  plan,
  ids,
  close,
}: {
  plan: PlanSheet['plan'];
  ids: string[];
  close: () => void;
}) {
  const { make, problem } = useChange();
  const go = useNavigate();
  const [name, setName] = useState('');
  const split = async () => {
    const written = await make('plan.split', { id: plan.id, name, ids }, { seen: plan });
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="my-1 flex flex-wrap items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void split();
      }}
    >
      <input
        autoFocus
        aria-label="Name of the plan that is split off"
        placeholder={`name of a plan with ${counted(ids.length, 'step')}`}
        className="w-[280px]"
        value={name}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && close()}
      />
      <button type="submit" className="act">
        Split it off
      </button>
      <button type="button" className="act" onClick={close}>
        Drop
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
