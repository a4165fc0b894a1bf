/** What a plan comes to: each step on what stands below it, findings that appear and vanish, what it touches. */
import { differenceLine, valueWords } from './log.js';
import type { PlanMark, PlanOutcome, PlanRow, PlanSheet } from '@insel/contract';
import {
  allFindings,
  decide,
  deedOf,
  descriptionOf,
  digestOf,
  fieldWords,
  isRefusal,
  lowerPlan,
  openSteps,
  overtaken,
  planFleet,
  stepsOf,
  waterline,
  type Change,
  type Context,
  type DecideDrawn,
  type Finding,
  type Fleet,
  type Patch,
  type StepOutcome,
} from '@insel/core';

export const decideDrawn: DecideDrawn = (fleet, change, context) =>
  decide(fleet, change as unknown as Change, context);

export function planRow(fleet: Fleet, id: string): PlanRow {
  const steps = stepsOf(fleet, id);
  return {
    ...fleet.need('plan', id),
    steps: steps.length,
    done: steps.filter(({ doneAt }) => doneAt !== null).length,
  };
}

/** Costs what deciding the steps costs, and a look at what each of them touches. */
export function planSheet(fleet: Fleet, id: string, context: Context): PlanSheet {
  const findingsIn = (one: Fleet) =>
    new Map(allFindings(one, context.now).map((finding) => [finding.id, finding]));
  const plan = fleet.need('plan', id);
  const lower = lowerPlan(fleet, id);
  const start = lower ? planFleet(fleet, lower.id, context, decideDrawn).would : fleet;
  const before = findingsIn(start);
  let below = before;
  const outcomes = new Map<string, PlanOutcome>();
  const { would, patches } = planFleet(fleet, id, context, decideDrawn, (outcome, so) => {
    const now = isRefusal(outcome.decision) ? below : findingsIn(so);
    outcomes.set(outcome.step.id, outcomeView(fleet, so, outcome, below, now));
    below = now;
  });
  return {
    plan,
    standsOn: lower
      ? { id: lower.id, name: lower.name, open: openSteps(fleet, lower.id).length }
      : null,
    steps: stepsOf(fleet, id).map((step) => ({
      ...step,
      change: descriptionOf(step.type)?.title ?? step.type,
      outcome: outcomes.get(step.id) ?? null,
    })),
    before: waterline(start),
    after: waterline(would),
    ...difference(before, below),
    marks: marksOf(fleet, would, patches),
  };
}

function outcomeView(
  fleet: Fleet,
  so: Fleet,
  { step, decision }: StepOutcome,
  before: ReadonlyMap<string, Finding>,
  after: ReadonlyMap<string, Finding>,
): PlanOutcome {
  if (isRefusal(decision))
    return {
      title: '',
      difference: '',
      objections: [],
      refusal: { sentence: decision.sentence, remedy: decision.remedy ?? '' },
      appearing: [],
      vanishing: [],
      overtaken: [],
      approval: approvalOf(fleet, step, null),
    };
  return {
    title: decision.title,
    difference: differenceLine(so, decision),
    objections: decision.overridden.map(({ sentence }) => sentence),
    refusal: null,
    ...difference(before, after),
    overtaken: overtaken(fleet, step, decision).map(({ name, field, was, is }) => ({
      name,
      field: fieldWords(field),
      was: valueWords(fleet, was, field),
      is: valueWords(fleet, is, field),
    })),
    approval: approvalOf(fleet, step, digestOf(deedOf(step, decision))),
  };
}

const approvalOf = (
  fleet: Fleet,
  { planId, approved }: StepOutcome['step'],
  digest: string | null,
): PlanOutcome['approval'] =>
  !fleet.need('plan', planId).needsApproval
    ? 'not needed'
    : approved === ''
      ? 'never'
      : approved === digest
        ? 'approved'
        : 'no longer';

const difference = (
  before: ReadonlyMap<string, Finding>,
  after: ReadonlyMap<string, Finding>,
): Pick<PlanOutcome, 'appearing' | 'vanishing'> => ({
  appearing: [...after.values()].filter(({ id }) => !before.has(id)),
  vanishing: [...before.values()].filter(({ id }) => !after.has(id)),
});

/** Records of their own that it touches: what is a part counts for what it is a part of, whose revision follows it. */
function marksOf(fleet: Fleet, would: Fleet, patches: readonly Patch[]): PlanMark[] {
  const marks = new Map<string, PlanMark>();
  for (const { kind, id } of patches) {
    const [was, is] = [fleet.get(kind, id), would.get(kind, id)];
    const row = is ?? was;
    if (!row || !('name' in row) || kind === 'planStep') continue;
    const how = !was ? 'new' : is ? 'altered' : 'gone';
    marks.set(id, { kind, id, name: String(row.name), how });
  }
  return [...marks.values()];
}
