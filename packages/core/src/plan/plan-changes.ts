import { change, fieldsOf, omittable, ref, refs, said } from '../record/index.js';

const step = fieldsOf('planStep');

/** A change in pencil: kept with the plan, decided whenever the plan is looked at. */
export const drawStep = change({
  type: 'plan-step.draw',
  title: 'Draw this instead of doing it',
  carried: 'only afterwards',
  input: {
    planId: ref('plan'),
    type: said(step.type),
    /** JSON of its input. */
    input: said(step.input),
    remark: omittable(step.remark),
    day: omittable(step.day),
    person: omittable(step.person),
    byHand: omittable(step.byHand),
  },
});

export const orderSteps = change({
  type: 'plan.order',
  title: 'Put the steps in another order',
  carried: 'only afterwards',
  alters: ['ids'],
  input: {
    planId: ref('plan'),
    /** Of those that are still to be done, the first one first. */
    ids: refs('planStep', 500),
  },
});

/** The steps that are still to be done, in a plan of their own: to try something else beside it. */
export const copyPlan = change({
  type: 'plan.copy',
  title: 'Copy the plan',
  carried: 'only afterwards',
  input: { id: ref('plan'), name: fieldsOf('plan').name },
});

/** Some of the open steps in a plan of their own that stands on this one. */
export const splitPlan = change({
  type: 'plan.split',
  title: 'Split the plan',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('plan'), name: fieldsOf('plan').name, ids: refs('planStep', 500) },
});

/** By somebody who drew none of its open steps; holds for each of them as it is and as what it does. */
export const approvePlan = change({
  type: 'plan.approve',
  title: 'Approve the plan',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('plan') },
});

export const pausePlan = change({
  type: 'plan.pause',
  title: 'Pause the plan',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('plan'), why: fieldsOf('plan').pausedWhy },
});

export const resumePlan = change({
  type: 'plan.resume',
  title: 'Go on with the plan',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('plan') },
});

/** What has been altered below it since it was drawn is seen and does not matter. */
export const keepStep = change({
  type: 'plan-step.keep',
  title: 'Keep the step as it is now',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('planStep') },
});

/** It was done by hand: with what was found, and when, where that was not now. */
export const tickPlanStep = change({
  type: 'plan-step.tick',
  title: 'Tick the step',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('planStep'), found: step.found },
});

/** Does in ink what was drawn in pencil. Objections are raised again. */
export const carryOutStep = change({
  type: 'plan-step.carry-out',
  title: 'Carry the step out',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('planStep') },
});
