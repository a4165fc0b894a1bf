import {
  draftOf,
  nameTaken,
  type ChangeContext,
  type Draft,
  type Fleet,
  type Refusal,
} from '../record/index.js';

export interface DrawnStep {
  type: string;
  input: object;
  remark?: string;
}

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
  for (const [position, { type, input, remark = '' }] of steps.entries())
    draft.create('planStep', {
      planId,
      position,
      type,
      shape: context.others.descriptionOf(type)!.shape,
      input: JSON.stringify(input),
      seed: context.newId(),
      drawnAt: context.now,
      drawnBy: context.actor.name,
      remark,
    });
  return { draft, planId, name: name.trim() };
}
