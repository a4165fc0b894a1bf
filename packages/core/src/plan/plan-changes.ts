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

/** Does in ink what was drawn in pencil. Objections are raised again. */
export const carryOutStep = change({
  type: 'plan-step.carry-out',
  title: 'Carry the step out',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('planStep') },
});
