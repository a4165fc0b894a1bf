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
import { basisOf } from './basis.js';
import type { copyPlan, drawStep, orderSteps, splitPlan } from './plan-changes.js';
import { decideStep, openSteps, planFleet, stepsOf } from './plan-fleet.js';

export const aboutPlan = (plan: Row<'plan'>) => ({
  kind: 'plan' as const,
  id: plan.id,
  name: plan.name,
});

export function closed(plan: Row<'plan'>): Refusal | undefined {
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
    byHand: input.byHand ?? false,
    ...{ doneAt: null, doneBy: '', found: '', approved: '', basis: '' },
  };
  const decision = decideStep(
    would,
    { ...row, id: '', revision: 0 },
    context,
    context.others.decide,
  );
  if (isRefusal(decision)) return decision;
  draft.create('planStep', { ...row, basis: basisOf(fleet, would, decision, context.now) });
  return {
    draft,
    title: `drew in ${plan.name}: ${decision.title}`.slice(0, 400),
    subjects: [aboutPlan(plan)],
  };
};

/**
 * Any planner may make it, and it can be planned. Pasted texts lie beside the log, where they can be taken out for good; a
 * step would keep them within.
 */
function notDrawable(description: Description | undefined): Refusal | undefined {
  if (description && Object.values(description.input).some(({ type }) => type === 'pasted'))
    return refuse({
      code: 'not-drawable',
      field: 'type',
      sentence: 'What was read off a machine or a list is a fact: it is taken in, not planned.',
    });
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
  const open = openSteps(fleet, planId);
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
    ...{ onPlanId: plan.onPlanId, needsApproval: plan.needsApproval },
  });
  for (const [position, step] of openSteps(fleet, id).entries()) {
    const { type, shape, input, remark, day, person, byHand, basis } = step;
    draft.create('planStep', {
      ...{ planId, position, type, shape, input, remark, day, person, byHand, basis },
      seed: context.newId(),
      drawnAt: context.now,
      drawnBy: context.actor.name,
    });
  }
  return {
    draft,
    title: `copied the plan ${plan.name} to ${name.trim()}`,
    subjects: [{ kind: 'plan', id: planId, name: name.trim() }, aboutPlan(plan)],
  };
};

/** What stands behind stays what it was: the new plan stands on the rest of this one. */
export const decideSplitPlan: DeciderOf<typeof splitPlan> = (fleet, { id, name, ids }, context) => {
  const plan = fleet.get('plan', id);
  if (!plan) return noSuch('plan');
  const fault = closed(plan) ?? nameTaken(fleet, 'plan', 'plan', name);
  if (fault) return fault;
  const open = openSteps(fleet, id);
  if (
    ids.length === 0 ||
    ids.length === open.length ||
    ids.some((one) => !open.some((step) => step.id === one))
  )
    return refuse({
      code: 'not-some',
      field: 'ids',
      sentence: `Name some of the open steps of ${plan.name}, and leave at least one.`,
    });
  const draft = draftOf(fleet, context);
  const planId = draft.create('plan', {
    name: name.trim(),
    purpose: plan.purpose,
    owner: context.actor.name,
    // What was approved of its steps was approved by the same person.
    ...{ onPlanId: id, needsApproval: plan.needsApproval },
    ...{ approvedAt: plan.approvedAt, approvedBy: plan.approvedBy },
  });
  const moved = open.filter((step) => ids.includes(step.id));
  for (const [position, step] of moved.entries())
    draft.update('planStep', step.id, { planId, position });
  return {
    draft,
    title: `split ${name.trim()} off the plan ${plan.name}`,
    subjects: [{ kind: 'plan', id: planId, name: name.trim() }, aboutPlan(plan)],
  };
};
