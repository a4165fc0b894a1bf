import {
  draftOf,
  isRefusal,
  nameTaken,
  noSuch,
  refuse,
  type DeciderOf,
  type Description,
  type Refusal,
  type Row,
} from '../record/index.js';
import type { carryOutStep, copyPlan, drawStep, orderSteps } from './plan-changes.js';
import { decideStep, planFleet, stepsOf } from './plan-fleet.js';

const aboutPlan = (plan: Row<'plan'>) => ({ kind: 'plan' as const, id: plan.id, name: plan.name });

function closed(plan: Row<'plan'>): Refusal | undefined {
  if (plan.state === 'drawn') return undefined;
  return refuse({
    code: 'plan-closed',
    sentence: `The plan ${plan.name} is ${plan.state}.`,
    remedy: 'Draw it anew, or take it up again.',
  });
}

export const decideDrawStep: DeciderOf<typeof drawStep> = (fleet, input, context) => {
  const plan = fleet.get('plan', input.planId);
  if (!plan) return noSuch('plan');
  const description = context.others.descriptionOf(input.type);
  const fault = closed(plan) ?? notDrawable(description);
  if (fault) return fault;
  const draft = draftOf(fleet, context);
  const { would } = planFleet(fleet, plan.id, context, context.others.decide);
  const steps = stepsOf(fleet, plan.id);
  const row = {
    ...input,
    shape: description!.shape,
    seed: context.newId(),
    drawnAt: context.now,
    drawnBy: context.actor.name,
    position: Math.max(-1, ...steps.map(({ position }) => position)) + 1,
    remark: input.remark ?? '',
    day: input.day ?? null,
    person: input.person ?? '',
    doneAt: null,
  };
  const decision = decideStep(
    would,
    { ...row, id: '', revision: 0 },
    context,
    context.others.decide,
  );
  if (isRefusal(decision)) return decision;
  draft.create('planStep', row);
  return {
    draft,
    title: `drew in ${plan.name}: ${decision.title}`.slice(0, 400),
    subjects: [aboutPlan(plan)],
  };
};

/** Any planner may make it, and it can be planned. */
function notDrawable(description: Description | undefined): Refusal | undefined {
  if (description && description.carried !== 'only afterwards' && description.role === 'planner')
    return undefined;
  return refuse({
    code: 'not-drawable',
    field: 'type',
    sentence: description ? 'This can be done, but not be planned.' : 'There is no such change.',
  });
}

export const decideOrderSteps: DeciderOf<typeof orderSteps> = (fleet, { planId, ids }, context) => {
  const plan = fleet.get('plan', planId);
  if (!plan) return noSuch('plan');
  const open = stepsOf(fleet, planId).filter(({ doneAt }) => doneAt === null);
  if (open.length !== ids.length || !open.every(({ id }) => ids.includes(id)))
    return refuse({
      code: 'not-all',
      field: 'ids',
      sentence: `Name each open step of ${plan.name} once.`,
      remedy: 'Read the plan anew: it may have been altered.',
    });
  const draft = draftOf(fleet, context);
  const positions = open.map(({ position }) => position);
  for (const [i, id] of ids.entries()) draft.update('planStep', id, { position: positions[i]! });
  return {
    draft,
    title: `put the steps of ${plan.name} in another order`,
    subjects: [aboutPlan(plan)],
  };
};

/** With seeds of their own: what the copy makes is not what the plan makes. */
export const decideCopyPlan: DeciderOf<typeof copyPlan> = (fleet, { id, name }, context) => {
  const plan = fleet.get('plan', id);
  if (!plan) return noSuch('plan');
  const taken = nameTaken(fleet, 'plan', 'plan', name);
  if (taken) return taken;
  const draft = draftOf(fleet, context);
  const planId = draft.create('plan', {
    name: name.trim(),
    purpose: plan.purpose,
    owner: context.actor.name,
  });
  const open = stepsOf(fleet, id).filter(({ doneAt }) => doneAt === null);
  for (const [position, { type, shape, input, remark, day, person }] of open.entries())
    draft.create('planStep', {
      ...{ planId, position, type, shape, input, remark, day, person },
      seed: context.newId(),
      drawnAt: context.now,
      drawnBy: context.actor.name,
    });
  return {
    draft,
    title: `copied the plan ${plan.name} to ${name.trim()}`,
    subjects: [{ kind: 'plan', id: planId, name: name.trim() }, aboutPlan(plan)],
  };
};

/** One step at a time, the first one first: what stands below it is done. */
export const decideCarryOutStep: DeciderOf<typeof carryOutStep> = (fleet, { id }, context) => {
  const step = fleet.get('planStep', id);
  if (!step) return noSuch('planStep');
  const plan = fleet.need('plan', step.planId);
  const open = stepsOf(fleet, plan.id).filter(({ doneAt }) => doneAt === null);
  const fault = closed(plan) ?? notTheNext(step, open);
  if (fault) return fault;
  const number = stepsOf(fleet, plan.id).findIndex((one) => one.id === id) + 1;
  const decision = decideStep(fleet, step, context, context.others.decide);
  if (isRefusal(decision)) return decision;
  const draft = draftOf(fleet, context);
  for (const patch of decision.patches) draft.add(patch);
  draft.update('planStep', id, { doneAt: context.now });
  if (open.length === 1) draft.update('plan', plan.id, { state: 'carried out' });
  return {
    draft,
    title: `${decision.title} (${plan.name}, step ${number})`,
    subjects: [...decision.subjects, aboutPlan(plan)],
    objections: decision.overridden,
  };
};

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
