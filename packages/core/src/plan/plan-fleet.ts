/** A plan laid over the record: each step is decided on what stands below it. Costs what deciding its steps costs. */
import {
  isRefusal,
  refuse,
  type Context,
  type Decision,
  type Fleet,
  type Patch,
  type Refusal,
  type Row,
} from '../record/index.js';
import { contextOfStep } from './step-context.js';

/** A change whose type and input were kept as they were given. */
export interface DrawnChange {
  type: string;
  input: object;
  override?: string;
}
/** Decides what was drawn; handed in, since a plan knows every change and every change may be in a plan. */
export type DecideDrawn = (
  fleet: Fleet,
  change: DrawnChange,
  context: Context,
) => Decision | Refusal;

/** What a step comes to. */
export interface StepOutcome {
  step: Row<'planStep'>;
  /** What it would do; or why it no longer can. */
  decision: Decision | Refusal;
}

/** Steps of a plan, the first one first. */
export const stepsOf = (fleet: Fleet, planId: string): Row<'planStep'>[] =>
  fleet
    .referring('planStep', 'planId', planId)
    .sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));

/**
 * Objections are gone past and told with the outcome: a plan may be drawn against them, carrying it out asks again.
 * @returns a refusal as well where what was kept cannot be read any more
 */
export function decideStep(
  fleet: Fleet,
  step: Row<'planStep'>,
  context: Context,
  decide: DecideDrawn,
  override = 'in a plan',
): Decision | Refusal {
  try {
    const input = JSON.parse(step.input) as object;
    return decide(fleet, { type: step.type, input, override }, contextOfStep(step, context));
  } catch (error) {
    return refuse({
      code: 'step-unreadable',
      sentence: `What was drawn can no longer be decided: ${(error as Error).message}.`,
      remedy: 'Drop the step and draw it again.',
    });
  }
}

/** Plans that a plan stands on, the lowest one first, itself last. */
export function plansBelow(fleet: Fleet, planId: string): Row<'plan'>[] {
  const found: Row<'plan'>[] = [];
  for (let plan = fleet.get('plan', planId); plan; plan = fleet.get('plan', plan.onPlanId)) {
    if (found.includes(plan)) break;
    found.unshift(plan);
  }
  return found;
}

/** The next one below that is still to be carried out, itself on those below it. */
export const lowerPlan = (fleet: Fleet, planId: string): Row<'plan'> | undefined =>
  plansBelow(fleet, planId).findLast(({ id, state }) => id !== planId && state === 'drawn');

export const openSteps = (fleet: Fleet, planId: string): Row<'planStep'>[] =>
  stepsOf(fleet, planId).filter(({ doneAt }) => doneAt === null);

/**
 * The fleet with the steps that are still to be done, those of the plans below it first; what no longer decides is left
 * out and told.
 *
 * @param onStep hears of each step of the plan itself, with the fleet as it would be after it
 * @param onStepBelow the same, with the fleet as it is below it; what it keeps of that fleet it reads at once
 * @returns outcomes of its own steps; patches of all
 */
export function planFleet(
  fleet: Fleet,
  planId: string,
  context: Context,
  decide: DecideDrawn,
  onStep?: (outcome: StepOutcome, so: Fleet) => void,
  onStepBelow?: (outcome: StepOutcome, below: Fleet) => void,
): { would: Fleet; outcomes: StepOutcome[]; patches: Patch[] } {
  const would = fleet.overlay([]);
  const patches: Patch[] = [];
  const outcomes: StepOutcome[] = [];
  const steps = plansBelow(fleet, planId)
    .filter(({ id, state }) => id === planId || state === 'drawn')
    .flatMap(({ id }) => openSteps(fleet, id));
  for (const step of steps) {
    const decision = decideStep(would, step, context, decide);
    const outcome = { step, decision };
    if (step.planId === planId) {
      outcomes.push(outcome);
      onStepBelow?.(outcome, would);
    }
    if (!isRefusal(decision)) {
      would.apply(decision.patches, fleet.revision);
      patches.push(...decision.patches);
    }
    if (step.planId === planId) onStep?.(outcome, would);
  }
  return { would, outcomes, patches };
}
