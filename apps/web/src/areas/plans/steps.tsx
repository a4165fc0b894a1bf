/** The steps of a plan: what each comes to, put in order, carried out or ticked. */
import type { PlanSheet, PlanStepView } from '@insel/contract';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { Step } from './step.js';
import { type Dragging } from './step-acts.js';

export function Steps({ sheet: { plan, steps } }: { sheet: PlanSheet }) {
  const { make, problem, busy } = useChange();
  const [stopped, setStopped] = useState('');
  // Where a step that is dragged would stand: before the one of this place among those that are open.
  const [dragged, setDragged] = useState<{ step: PlanStepView; before: number } | null>(null);
  const mayPlan = useMayPlan();
  const open = steps.filter(({ doneAt }) => doneAt === null);
  if (steps.length === 0)
    return (
      <p className="text-faint">
        No step yet. Draw in this plan: alter a host, plan a guest, move an address in any view, and
        each alteration becomes a step.
      </p>
    );
  const carryOutAll = async () => {
    setStopped('');
    for (const [i, step] of open.entries())
      if (
        step.byHand ||
        !(await make('plan-step.carry-out', { id: step.id }, { seen: step, quiet: true }))
      )
        return setStopped(
          `Stopped before step ${steps.indexOf(step) + 1}${step.byHand ? ', which is done by hand' : ''}; ${i} carried out.`,
        );
  };
  const paused = plan.pausedAt !== null;
  /** @param to its place among those that are open */
  const moveTo = (step: PlanStepView, to: number) => {
    const order = open.filter(({ id }) => id !== step.id);
    order.splice(to, 0, step);
    if (order.every(({ id }, i) => id === open[i]!.id)) return;
    void make('plan.order', { planId: plan.id, ids: order.map(({ id }) => id) }, { seen: order });
  };
  const move = (step: PlanStepView, by: 1 | -1) => moveTo(step, open.indexOf(step) + by);
  const movable = mayPlan && open.length > 1;
  const dragging = (step: PlanStepView): Dragging | undefined => {
    const at = open.indexOf(step);
    if (!movable || at < 0) return undefined;
    return {
      over:
        dragged && dragged.step.id !== step.id && dragged.before === at
          ? 'above'
          : dragged && at === open.length - 1 && dragged.before === open.length
            ? 'below'
            : null,
      take: () => setDragged({ step, before: at }),
      pass: (below) =>
        setDragged((held) => {
          const before = at + Number(below);
          return held && held.before !== before ? { ...held, before } : held;
        }),
      drop: () => {
        if (dragged) {
          const from = open.findIndex(({ id }) => id === dragged.step.id);
          moveTo(dragged.step, dragged.before - Number(dragged.before > from));
        }
        setDragged(null);
      },
      end: () => setDragged(null),
      step: (by) => (at + by < 0 || at + by >= open.length ? undefined : move(step, by)),
    };
  };
  return (
    <>
      <ol>
        {steps.map((step, i) => (
          <Step
            key={step.id}
            plan={plan}
            step={step}
            number={i + 1}
            dragging={dragging(step)}
            next={mayPlan && plan.state === 'drawn' && !paused && step.id === open[0]?.id}
            rest={
              mayPlan && plan.state === 'drawn' && open.indexOf(step) > 0
                ? open.slice(open.indexOf(step)).map(({ id }) => id)
                : undefined
            }
            earlier={mayPlan && open.indexOf(step) > 0 ? () => move(step, -1) : undefined}
            later={
              mayPlan && step.doneAt === null && open.indexOf(step) < open.length - 1
                ? () => move(step, 1)
                : undefined
            }
          />
        ))}
      </ol>
      {mayPlan && plan.state === 'drawn' && !paused && open.length > 1 && (
        <button
          type="button"
          className="act mt-2"
          disabled={busy}
          onClick={() => void carryOutAll()}
        >
          Carry out all {open.length}, one after another
        </button>
      )}
      {stopped && <p className="text-amber">{stopped}</p>}
      <ProblemNote problem={problem} />
    </>
  );
}
