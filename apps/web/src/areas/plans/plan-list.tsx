/** All plans, and a new one. */
import type { PlanRow } from '@insel/contract';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { errorsOf, Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../frame/change.js';

export function PlanList({ plans, openId }: { plans: readonly PlanRow[]; openId: string }) {
  if (plans.length === 0) return <p className="text-faint">No plan is drawn yet.</p>;
  return (
    <table className="w-full text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th>Plan</th>
          <th>State</th>
          <th className="text-right">done</th>
        </tr>
      </thead>
      <tbody>
        {plans.map((plan) => (
          <tr
            key={plan.id}
            className={`h-8 border-b border-rule ${plan.id === openId ? 'bg-water' : ''}`}
          >
            <td>
              <Link className="font-bold" to={`/plans/${plan.id}`}>
                {plan.name}
              </Link>
            </td>
            <td>{plan.state}</td>
            <td className="mono text-right">
              {plan.done} of {plan.steps}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function BeginPlan() {
  const { make, problem } = useChange();
  const go = useNavigate();
  const [draft, setDraft] = useState({ name: '', purpose: '' });
  const error = errorsOf(problem);
  const begin = async () => {
    const written = await make('plan.record', draft);
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="mt-4 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <Field label="Name of a new plan" error={error.name}>
        <input
          value={draft.name}
          onChange={(event) => setDraft({ ...draft, name: event.target.value })}
        />
      </Field>
      <Field label="What for" error={error.purpose}>
        <input
          value={draft.purpose}
          onChange={(event) => setDraft({ ...draft, purpose: event.target.value })}
        />
      </Field>
      <button type="submit" className="act self-start">
        Begin a plan
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
