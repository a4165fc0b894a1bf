/** What a plan comes to: each step on what stands below it, findings that appear and vanish, what it touches. */
import { differenceLine, valueWords } from './log.js';
import { lookingIn } from './preview.js';
import type { PlanMark, PlanMove, PlanOutcome, PlanRow, PlanSheet, Taking } from '@insel/contract';
import {
  countsOnHost,
  decide,
  deedOf,
  descriptionOf,
  digestOf,
  fieldWords,
  findingsBetween,
  findingsMoved,
  findingsNear,
  isRefusal,
  lowerPlan,
  memoryDemand,
  openSteps,
  overtaken,
  planFleet,
  stepsOf,
  waterline,
  type Change,
  type Context,
  type Finding,
  type DecideDrawn,
  type Fleet,
  type Patch,
  type Row,
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
  const heavy = lookingIn(fleet, true) === 'all';
  const movedIn = (one: Fleet) => findingsMoved(one, context.now, heavy);
  const plan = fleet.need('plan', id);
  const lower = lowerPlan(fleet, id);
  const start = lower ? planFleet(fleet, lower.id, context, decideDrawn).would : fleet;
  const before = movedIn(start);
  let below = before;
  // In a large fleet a step is asked near what it touches, and the plan as a whole for all that it moves.
  let near: Finding[] = [];
  const nearIn = (one: Fleet, { decision }: StepOutcome) =>
    isRefusal(decision) ? [] : findingsNear(one, decision.patches, context.now, false);
  const outcomes = new Map<string, PlanOutcome>();
  const keepOutcome = (outcome: StepOutcome, so: Fleet) => {
    if (!heavy) {
      const moved = difference(near, nearIn(so, outcome));
      outcomes.set(outcome.step.id, outcomeView(fleet, so, outcome, moved));
      return;
    }
    const now = isRefusal(outcome.decision) ? below : movedIn(so);
    const moved = findingsBetween(so, below, now, context.now);
    outcomes.set(outcome.step.id, outcomeView(fleet, so, outcome, moved));
    below = now;
  };
  const { would, patches } = planFleet(
    ...([fleet, id, context, decideDrawn, keepOutcome] as const),
    (outcome, so) => {
      if (!heavy) near = nearIn(so, outcome);
    },
  );
  if (!heavy) below = movedIn(would);
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
    ...findingsBetween(would, before, below, context.now),
    wholeFleet: heavy,
    marks: marksOf(fleet, would, patches),
    moves: movesOf(start, would, patches),
    addresses: addressesOf(start, would, patches),
  };
}

function outcomeView(
  fleet: Fleet,
  so: Fleet,
  { step, decision }: StepOutcome,
  moved: Pick<PlanOutcome, 'appearing' | 'vanishing'>,
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
    ...moved,
    overtaken: overtaken(fleet, step, decision).map(({ name, field, was, is }) => ({
      name,
      field: fieldWords(field),
      was: valueWords(fleet, was, field),
      is: valueWords(fleet, is, field),
    })),
    approval: approvalOf(fleet, step, digestOf(deedOf(step, decision))),
  };
}

const difference = (
  before: readonly Finding[],
  after: readonly Finding[],
): Pick<PlanOutcome, 'appearing' | 'vanishing'> => {
  const without = (some: readonly Finding[], others: readonly Finding[]) => {
    const ids = new Set(others.map(({ id }) => id));
    return some.filter(({ id }) => !ids.has(id));
  };
  return { appearing: without(after, before), vanishing: without(before, after) };
};

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

/** Guests that take another room, or take it elsewhere. */
function movesOf(fleet: Fleet, would: Fleet, patches: readonly Patch[]): PlanMove[] {
  const targets = new Map<string, string>();
  const touched = new Set<string>();
  for (const { kind, id } of patches) {
    if (kind === 'guest') touched.add(id);
    const migration = kind === 'migration' ? would.get('migration', id) : undefined;
    if (!migration?.guestId || !migration.targetHostId || fleet.get('migration', id)) continue;
    targets.set(migration.guestId, migration.targetHostId);
    touched.add(migration.guestId);
  }
  return [...touched].flatMap((id): PlanMove[] => {
    const [before, after] = [fleet.get('guest', id), would.get('guest', id)];
    const [was, is] = [taking(fleet, before), taking(would, after)];
    const target = targets.get(id);
    const goesTo = target && after ? taking(would, after, target) : null;
    const same = was && is && JSON.stringify(was) === JSON.stringify(is);
    if ((same || (!was && !is)) && !goesTo) return [];
    return [{ guestId: id, name: (after ?? before)!.name, was, is, goesTo }];
  });
}

function taking(
  fleet: Fleet,
  guest: Row<'guest'> | undefined,
  hostId = guest?.hostId ?? '',
): Taking | null {
  if (!guest || !countsOnHost(guest)) return null;
  const { vcpu, memoryMiB } = guest;
  return { hostId, vcpu, memoryMiB: memoryDemand(fleet, hostId, vcpu, memoryMiB) };
}

function addressesOf(
  fleet: Fleet,
  would: Fleet,
  patches: readonly Patch[],
): PlanSheet['addresses'] {
  const found = new Map<string, PlanSheet['addresses'][number]>();
  const note = (row: Row<'address'> | undefined, how: 'new' | 'gone') => {
    if (row?.subnetId) found.set(`${row.ip} ${how}`, { subnetId: row.subnetId, ip: row.ip, how });
  };
  for (const { kind, id } of patches) {
    if (kind !== 'address') continue;
    const [was, is] = [fleet.get('address', id), would.get('address', id)];
    if (was && is && was.ip === is.ip) continue;
    note(was, 'gone');
    note(is, 'new');
  }
  return [...found.values()];
}
