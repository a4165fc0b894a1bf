/** While a plan is drawn in: what is altered becomes a step of it, the record stays as it is. */
import { counted } from '@insel/core';
import type { PlanMark, PlanSheet } from '@insel/contract';
import { Link } from 'react-router';
import { useRead } from './read.js';
import { useStandpoint, useStandpointInAddress } from './standpoint.js';

export function InPlan() {
  const [{ plan: id }, set] = useStandpointInAddress();
  const plans = useRead('plans', id ? {} : null);
  if (!id) return null;
  const plan = plans.data?.find((one) => one.id === id);
  return (
    <div
      role="status"
      className="no-print flex flex-wrap items-center gap-x-4 border-b-2 border-dashed border-pencil bg-raised px-5 py-1 text-[13px]"
    >
      <span>
        <b className="text-pencil">Drawn in pencil.</b>{' '}
        {plan ? (
          <>
            You look at the record with the plan <b>{plan.name}</b>,{' '}
            {counted(plan.steps - plan.done, 'open step')}. What you alter is drawn as a step; the
            record stays as it is.
          </>
        ) : (
          plans.data && <b className="text-signal">There is no such plan.</b>
        )}
      </span>
      <span className="ml-auto flex gap-4">
        <Link className="act" to={`/plans/${id}`}>
          Steps of the plan
        </Link>
        <button type="button" className="act" onClick={() => set({})}>
          Leave the plan
        </button>
      </span>
    </div>
  );
}

/** The plan that is drawn in, with what it comes to; undefined where none is. */
export function usePlanDrawn(): PlanSheet | undefined {
  const { plan } = useStandpoint();
  return useRead('plan', plan ? { id: plan } : null, { once: true }).data;
}

/** What the plan that is drawn in does to a record. */
export function usePlanMarks(): ReadonlyMap<string, PlanMark['how']> {
  return new Map((usePlanDrawn()?.marks ?? []).map(({ id, how }) => [id, how]));
}

export function PencilMark({ how }: { how: PlanMark['how'] | undefined }) {
  if (!how) return null;
  return (
    <span className="ml-1 text-[11px] whitespace-nowrap text-pencil" title="by the plan">
      ✎ {how}
    </span>
  );
}
