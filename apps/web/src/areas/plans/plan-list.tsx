/** All plans, and a new one. */
import type { PlanRow } from '@insel/contract';
import { Link, useNavigate } from 'react-router';
import { useChangeForm } from '../../components/change-form.js';
import { useShortForm } from '../../components/kept-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

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
  const go = useNavigate();
  const kept = useShortForm(() => ({ name: '', purpose: '' }));
  const { send, problem, held } = useChangeForm(kept, {
    type: 'plan.record',
    read: (typed) => [typed],
    sent: ({ created }) => {
      const made = created.find(({ kind }) => kind === 'plan');
      if (made) void go(`/plans/${made.id}`);
    },
  });
  return (
    <form className="mt-4 flex flex-col gap-2" onSubmit={(event) => void send(event)}>
      <Field label="Name of a new plan" of={held('name')}>
        <input />
      </Field>
      <Field label="What for" of={held('purpose')}>
        <input />
      </Field>
      <button type="submit" className="act self-start">
        Begin a plan
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
