/** Pencil becomes ink: approved, paused, one step after another, by hand where it is. */
import {
  draftOf,
  isRefusal,
  noSuch,
  objection,
  refuse,
  type ChangeContext,
  type Decision,
  type DeciderOf,
  type Fleet,
  type Outcome,
  type Refusal,
  type Row,
  type Values,
} from '../record/index.js';
import { basisOf, blockersSince, deedOf, overtaken, overtakenWords } from './basis.js';
import { aboutPlan, closed } from './decide-plan.js';
import type {
  approvePlan,
  carryOutStep,
  keepStep,
  pausePlan,
  resumePlan,
  tickPlanStep,
} from './plan-changes.js';
import { decideStep, openSteps, planFleet, plansBelow, stepsOf } from './plan-fleet.js';
import { digestOf } from './step-context.js';

export const decideApprovePlan: DeciderOf<typeof approvePlan> = (fleet, { id }, context) => {
  const plan = fleet.get('plan', id);
  if (!plan) return noSuch('plan');
  const fault = closed(plan);
  if (fault) return fault;
  const draft = draftOf(fleet, context);
  const { outcomes } = planFleet(fleet, id, context, context.others.decide);
  if (outcomes.length === 0)
    return refuse({ code: 'nothing-open', sentence: `${plan.name} has no step to be done.` });
  const own: number[] = [];
  for (const { step, decision } of outcomes) {
    const number = numberOf(fleet, step);
    if (isRefusal(decision))
      return refuse({
        code: 'step-refused',
        sentence: `Step ${number} can no longer be done: ${decision.sentence}`,
        remedy: 'Mend it or drop it first.',
      });
    if (step.drawnBy === context.actor.name) own.push(number);
    draft.update('planStep', step.id, { approved: digestOf(deedOf(step, decision)) });
  }
  draft.update('plan', id, { approvedAt: context.now, approvedBy: context.actor.name });
  return {
    draft,
    title: `approved the plan ${plan.name}`,
    subjects: [aboutPlan(plan)],
    objections:
      own.length === 0
        ? []
        : [
            objection({
              code: 'own-step',
              sentence: `You drew ${own.length === 1 ? `step ${own[0]}` : `steps ${own.join(', ')}`} yourself.`,
              remedy: 'Somebody else approves it. Where one person works, let the plan go without.',
            }),
          ],
  };
};

export const decidePausePlan: DeciderOf<typeof pausePlan> = (fleet, { id, why }, context) => {
  const plan = fleet.get('plan', id);
  if (!plan) return noSuch('plan');
  const fault = closed(plan);
  if (fault) return fault;
  const draft = draftOf(fleet, context);
  draft.update('plan', id, { pausedAt: plan.pausedAt ?? context.now, pausedWhy: why.trim() });
  return { draft, title: `paused the plan ${plan.name}`, subjects: [aboutPlan(plan)] };
};

export const decideResumePlan: DeciderOf<typeof resumePlan> = (fleet, { id }, context) => {
  const plan = fleet.get('plan', id);
  if (!plan) return noSuch('plan');
  const draft = draftOf(fleet, context);
  draft.update('plan', id, { pausedAt: null, pausedWhy: '' });
  return { draft, title: `went on with the plan ${plan.name}`, subjects: [aboutPlan(plan)] };
};

export const decideKeepStep: DeciderOf<typeof keepStep> = (fleet, { id }, context) => {
  const step = fleet.get('planStep', id);
  if (!step) return noSuch('planStep');
  const plan = fleet.need('plan', step.planId);
  let decision: Decision | Refusal | undefined;
  let basis = '';
  planFleet(fleet, plan.id, context, context.others.decide, undefined, (outcome, below) => {
    if (outcome.step.id !== id) return;
    ({ decision } = outcome);
    if (!isRefusal(decision)) basis = basisOf(fleet, below, decision, context.now);
  });
  if (!decision) return refuse({ code: 'step-done', sentence: 'This step has been carried out.' });
  if (isRefusal(decision)) return decision;
  const draft = draftOf(fleet, context);
  draft.update('planStep', id, { basis });
  return {
    draft,
    title: `kept step ${numberOf(fleet, step)} of ${plan.name} as it is now`,
    subjects: [aboutPlan(plan)],
  };
};

/** One step at a time, the first one first: what stands below it is done. */
export const decideCarryOutStep: DeciderOf<typeof carryOutStep> = (fleet, { id }, context) => {
  const step = fleet.get('planStep', id);
  if (step?.byHand && step.doneAt === null)
    return refuse({
      code: 'by-hand',
      sentence: `Step ${numberOf(fleet, step)} is done by hand.`,
      remedy: 'Tick it when it is done, with what was found.',
    });
  return carriedOut(fleet, id, {}, context);
};

export const decideTickPlanStep: DeciderOf<typeof tickPlanStep> = (
  fleet,
  { id, found },
  context,
) => {
  const step = fleet.get('planStep', id);
  if (step && !step.byHand)
    return refuse({
      code: 'not-by-hand',
      sentence: 'This step is not done by hand: carry it out.',
    });
  return carriedOut(fleet, id, { found: found.trim(), doneAt: context.happenedAt }, context);
};

function carriedOut(
  fleet: Fleet,
  id: string,
  more: Values,
  context: ChangeContext,
): Outcome | Refusal {
  const step = fleet.get('planStep', id);
  if (!step) return noSuch('planStep');
  const plan = fleet.need('plan', step.planId);
  const open = openSteps(fleet, plan.id);
  const fault = closed(plan) ?? waits(fleet, plan) ?? notTheNext(step, open);
  if (fault) return fault;
  const number = numberOf(fleet, step);
  const decision = decideStep(fleet, step, context, context.others.decide);
  if (isRefusal(decision)) return decision;
  const other = plan.needsApproval ? notApproved(plan, step, number, decision) : undefined;
  if (other) return other;
  const draft = draftOf(fleet, context);
  for (const patch of decision.patches) draft.add(patch);
  draft.update('planStep', id, { doneAt: context.now, doneBy: context.actor.name, ...more });
  if (open.length === 1) draft.update('plan', plan.id, { state: 'carried out' });
  return {
    draft,
    title: `${decision.title} (${plan.name}, step ${number})`,
    subjects: [...decision.subjects, aboutPlan(plan)],
    objections: [...decision.overridden, ...gotWorse(fleet, step, decision, context.now)],
  };
}

const numberOf = (fleet: Fleet, step: Row<'planStep'>): number =>
  stepsOf(fleet, step.planId).findIndex(({ id }) => id === step.id) + 1;

function notTheNext(step: Row<'planStep'>, open: readonly Row<'planStep'>[]): Refusal | undefined {
  if (step.doneAt !== null)
    return refuse({ code: 'step-done', sentence: 'This step has been carried out.' });
  if (open[0]!.id === step.id) return undefined;
  return refuse({
    code: 'not-the-next-step',
    sentence: 'An earlier step of the plan is still to be done.',
    remedy: 'Carry that one out first, or put this one before it.',
  });
}

/** Nothing of it is done while it is paused, or while what it stands on is not done. */
function waits(fleet: Fleet, plan: Row<'plan'>): Refusal | undefined {
  if (plan.pausedAt !== null)
    return refuse({
      code: 'plan-paused',
      sentence: `${plan.name} is paused${plan.pausedWhy && `: ${plan.pausedWhy}`}.`,
      remedy: 'Go on with it first.',
    });
  const lower = plansBelow(fleet, plan.id).find(
    ({ id, state }) => id !== plan.id && state === 'drawn' && openSteps(fleet, id).length > 0,
  );
  return (
    lower &&
    refuse({
      code: 'lower-plan-open',
      sentence: `${plan.name} stands on ${lower.name}, which is not carried out.`,
      remedy: `Carry ${lower.name} out first, or let this plan stand on the record.`,
    })
  );
}

function notApproved(
  plan: Row<'plan'>,
  step: Row<'planStep'>,
  number: number,
  decision: Decision,
): Refusal | undefined {
  if (step.approved === digestOf(deedOf(step, decision))) return undefined;
  return refuse({
    code: 'not-approved',
    sentence:
      step.approved === ''
        ? `Nobody has approved step ${number} of ${plan.name}.`
        : `Step ${number} is no longer what ${plan.approvedBy} approved: it, or what it alters, is another.`,
    remedy: 'Somebody who did not draw it approves the plan as it is now.',
  });
}

/** Asked again right before it is done: other values below it than when it was drawn, blockers that it did not bring then. */
function gotWorse(fleet: Fleet, step: Row<'planStep'>, decision: Decision, now: string): Refusal[] {
  const words = overtakenWords(overtaken(fleet, step, decision));
  return [
    ...(words === ''
      ? []
      : [
          objection({
            code: 'step-overtaken',
            sentence: words,
            remedy: 'Look whether it is still meant, and keep the step as it is now.',
          }),
        ]),
    ...blockersSince(fleet, step, decision, now).map(({ evidence, remedy }) =>
      objection({ code: 'step-got-worse', sentence: evidence, remedy }),
    ),
  ];
}
