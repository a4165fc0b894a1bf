import {
  draftOf,
  nameTaken,
  type ChangeContext,
  type Draft,
  type Fleet,
  type Refusal,
} from '../record/index.js';
import { stepId } from './step-context.js';

export interface DrawnStep {
  type: string;
  input: object;
  remark?: string;
  /** Where ids of what it makes are said by a later step: `idOfStep` gives them. */
  seed?: string;
}

/** Id of the first row that a step makes. */
export const idOfStep = (seed: string, { now }: Pick<ChangeContext, 'now'>): string =>
  stepId(seed, now, 1);

/** A new plan of these steps, the first one first. */
export function planOfSteps(
  fleet: Fleet,
  context: ChangeContext,
  { name, purpose = '' }: { name: string; purpose?: string },
  steps: readonly DrawnStep[],
): Refusal | { draft: Draft; planId: string; name: string } {
  const taken = nameTaken(fleet, 'plan', 'plan', name);
  if (taken) return taken;
  const draft = draftOf(fleet, context);
  const planId = draft.create('plan', { name: name.trim(), purpose, owner: context.actor.name });
  for (const [position, { type, input, remark = '', seed = context.newId() }] of steps.entries())
    draft.create('planStep', {
      planId,
      position,
      type,
      shape: context.others.descriptionOf(type)!.shape,
      input: JSON.stringify(input),
      seed,
      drawnAt: context.now,
      drawnBy: context.actor.name,
      remark,
    });
  return { draft, planId, name: name.trim() };
}
