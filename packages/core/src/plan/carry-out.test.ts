/** From pencil to ink: approved by somebody else, paused, ticked by hand, asked again before each step; plans on plans. */
import { beforeEach, describe, expect, it } from 'vitest';
import { decide, type Change } from '../change/decide.js';
import { smallWorld, type World } from '../change/testing.js';
import { isRefusal, type Refusal } from '../record/index.js';
import { overtaken } from './basis.js';
import { lowerPlan, planFleet, stepsOf, type DecideDrawn } from './plan-fleet.js';

const decideDrawn: DecideDrawn = (fleet, change, context) =>
  decide(fleet, change as unknown as Change, context);

let world: World;
let planId: string;
let tide: string;
const begin = (name: string, more: object = {}): string => {
  world.make({ type: 'plan.record', input: { name, ...more } });
  return world.id('plan', name);
};
const draw = (type: string, input: object, more: object = {}, plan = planId) =>
  world.make({
    type: 'plan-step.draw',
    input: { planId: plan, type, input: JSON.stringify(input), ...more },
  });
const stepId = (n: number, plan = planId) => stepsOf(world.fleet, plan)[n - 1]!.id;
const carryOut = (n: number, plan = planId): Change => ({
  type: 'plan-step.carry-out',
  input: { id: stepId(n, plan) },
});
const refused = (change: Change): Refusal => {
  const answer = world.try(change);
  if (!isRefusal(answer)) throw new Error(`it decides: ${answer.title}`);
  return answer;
};
/** Another person than who draws. */
const approve = (plan = planId) => {
  const change: Change = { type: 'plan.approve', input: { id: plan } };
  const decision = decide(world.fleet, change, {
    ...world.context(),
    actor: { id: 'second', name: 'second', role: 'planner' },
  });
  if (isRefusal(decision)) throw new Error(`${decision.code}: ${decision.sentence}`);
  world.record(change, decision);
};
const memory = (MiB: number) => draw('guest.edit', { id: tide, memoryMiB: MiB });
const inInk = (fields: object) =>
  world.make({ type: 'guest.edit', input: { id: tide, ...fields } });

beforeEach(() => {
  world = smallWorld();
  world.make(world.found('tide', 'gannet', 1024, '192.0.2.10'));
  tide = world.id('guest', 'tide');
  planId = begin('autumn');
});

describe('a plan that needs approval', () => {
  beforeEach(() => {
    world.make({ type: 'plan.edit', input: { id: planId, needsApproval: true } });
    memory(2048);
    draw('guest.edit', { id: tide, vcpu: 3 });
  });
  it('is carried out as it was approved, and not before', () => {
    expect(refused(carryOut(1))).toMatchObject({
      code: 'not-approved',
      sentence: 'Nobody has approved step 1 of autumn.',
    });
    approve();
    expect(world.fleet.need('plan', planId).approvedBy).toBe('second');
    world.make(carryOut(1));
    world.make(carryOut(2));
    expect(world.fleet.need('guest', tide)).toMatchObject({ memoryMiB: 2048, vcpu: 3 });
  });
  it('approval lapses for a step that would do something else, and for no other', () => {
    approve();
    inInk({ vcpu: 4 });
    world.make(carryOut(1));
    expect(refused(carryOut(2))).toMatchObject({
      code: 'not-approved',
      sentence: 'Step 2 is no longer what second approved: it, or what it alters, is another.',
    });
    approve();
    // Who approves it has seen that the record moved; what was drawn is still asked about.
    expect(refused(carryOut(2)).code).toBe('step-overtaken');
    world.make({ ...carryOut(2), override: 'seen' });
    expect(world.fleet.need('guest', tide).vcpu).toBe(3);
  });
  it('a day, a person or a remark on a step take nothing from it', () => {
    approve();
    world.make({
      type: 'plan-step.edit',
      input: { id: stepId(1), day: '2026-12-01', person: 'second', remark: 'at night' },
    });
    world.make(carryOut(1));
  });
  it('is not approved by who drew it without a written reason, nor with a step that cannot be done', () => {
    const own: Change = { type: 'plan.approve', input: { id: planId } };
    expect(refused(own)).toMatchObject({
      code: 'own-step',
      sentence: 'You drew steps 1, 2 yourself.',
    });
    world.make({ ...own, override: 'alone tonight' });
    draw('guest.plan', world.plan('ebb', 'gannet', 256).input);
    world.make(world.plan('ebb', 'gannet', 256));
    const answer = refused(own);
    expect([answer.code, answer.sentence.slice(0, 30)]).toEqual([
      'step-refused',
      'Step 3 can no longer be done: ',
    ]);
  });
  it('cannot say of itself that it was approved', () => {
    expect(
      refused({
        type: 'plan.record',
        input: { name: 'own', approvedBy: 'second' },
      } as Change).code,
    ).toBe('unknown-field');
  });
  it('with nothing to be done is not approved', () => {
    const empty = begin('empty');
    const change: Change = { type: 'plan.approve', input: { id: empty } };
    expect(refused(change).code).toBe('nothing-open');
  });
});

describe('a step is asked again right before it is done', () => {
  it('stops where the value it replaces is another, until somebody keeps it', () => {
    memory(2048);
    memory(4096);
    inInk({ memoryMiB: 1536 });
    const [first] = planFleet(world.fleet, planId, world.context(), decideDrawn).outcomes;
    if (isRefusal(first!.decision)) throw new Error(first!.decision.sentence);
    expect(overtaken(world.fleet, first!.step, first!.decision)).toMatchObject([
      { name: 'tide', field: 'memoryMiB', was: 1024, is: 1536 },
    ]);
    expect(refused(carryOut(1))).toMatchObject({
      code: 'step-overtaken',
      sentence: 'Since it was drawn, memory of tide has been altered in the record.',
    });
    world.make({ type: 'plan-step.keep', input: { id: stepId(1) } });
    world.make(carryOut(1));
    // What the plan itself alters overtakes none of its steps.
    world.make(carryOut(2));
    expect(world.fleet.need('guest', tide).memoryMiB).toBe(4096);
    expect(refused({ type: 'plan-step.keep', input: { id: stepId(2) } }).code).toBe('step-done');
  });
  it('stops where it brings a blocker that it did not bring when it was drawn', () => {
    draw('address.set', {
      adapterId: world.fleet.referring('adapter', 'guestId', tide)[0]!.id,
      networkId: world.id('network', 'shore'),
      ip: '192.0.2.30',
      assigned: false,
    });
    world.make(world.found('ebb', 'tern', 256, '192.0.2.30'));
    const answer = refused(carryOut(1));
    expect(answer.code).toBe('step-got-worse');
    expect(answer.sentence).toContain('192.0.2.30');
  });
  it('a later step is kept on what the earlier ones do', () => {
    memory(2048);
    memory(4096);
    inInk({ memoryMiB: 1536, vcpu: 3 });
    world.make({ type: 'plan-step.keep', input: { id: stepId(1) } });
    world.make({ type: 'plan-step.keep', input: { id: stepId(2) } });
    expect(JSON.parse(stepsOf(world.fleet, planId)[1]!.basis)).toMatchObject({
      values: [['guest', tide, 'memoryMiB', 2048, 1536]],
    });
    world.make(carryOut(1));
    world.make(carryOut(2));
  });
  it('goes on where the record moved elsewhere', () => {
    memory(2048);
    inInk({ vcpu: 3 });
    world.make(carryOut(1));
  });
});

describe('a paused plan', () => {
  it('does nothing until somebody goes on with it', () => {
    memory(2048);
    world.make({ type: 'plan.pause', input: { id: planId, why: 'modules are late' } });
    expect(refused(carryOut(1))).toMatchObject({
      code: 'plan-paused',
      sentence: 'autumn is paused: modules are late.',
    });
    world.make({ type: 'plan.resume', input: { id: planId } });
    world.make(carryOut(1));
    expect(refused({ type: 'plan.pause', input: { id: planId, why: '' } }).code).toBe(
      'plan-closed',
    );
  });
});

describe('a step that is done by hand', () => {
  it('waits for a tick with what was found, and when', () => {
    draw('guest.edit', { id: tide, memoryMiB: 2048 }, { byHand: true });
    memory(4096);
    expect(refused(carryOut(1))).toMatchObject({
      code: 'by-hand',
      sentence: 'Step 1 is done by hand.',
    });
    expect(refused(carryOut(2)).code).toBe('not-the-next-step');
    world.make({
      type: 'plan-step.tick',
      input: { id: stepId(1), found: ' slot 3 was dusty ' },
      happenedAt: '2026-11-20T06:30:00Z',
    });
    expect(stepsOf(world.fleet, planId)[0]).toMatchObject({
      doneAt: '2026-11-20T06:30:00.000Z',
      doneBy: 'planner',
      found: 'slot 3 was dusty',
    });
    expect(refused({ type: 'plan-step.tick', input: { id: stepId(2), found: '' } }).code).toBe(
      'not-by-hand',
    );
    world.make(carryOut(2));
    expect(world.fleet.need('plan', planId).state).toBe('carried out');
  });
});

describe('a plan on top of another', () => {
  it('is decided on what the other does, and carried out after it', () => {
    memory(2048);
    const upper = begin('winter', { onPlanId: planId });
    draw('guest.edit', { id: tide, memoryMiB: 4096 }, {}, upper);
    const { would, outcomes } = planFleet(world.fleet, upper, world.context(), decideDrawn);
    expect(would.need('guest', tide).memoryMiB).toBe(4096);
    expect(outcomes).toHaveLength(1);
    expect(refused(carryOut(1, upper))).toMatchObject({
      code: 'lower-plan-open',
      sentence: 'winter stands on autumn, which is not carried out.',
    });
    world.make(carryOut(1));
    world.make(carryOut(1, upper));
    expect(world.fleet.need('guest', tide).memoryMiB).toBe(4096);
  });
  it('stands on nothing of one that was given up', () => {
    memory(2048);
    const upper = begin('winter', { onPlanId: planId });
    draw('guest.edit', { id: tide, vcpu: 3 }, {}, upper);
    world.make({ type: 'plan.edit', input: { id: planId, state: 'given up' } });
    expect(lowerPlan(world.fleet, upper)).toBeUndefined();
    const { would } = planFleet(world.fleet, upper, world.context(), decideDrawn);
    expect(would.need('guest', tide)).toMatchObject({ memoryMiB: 1024, vcpu: 3 });
    world.make(carryOut(1, upper));
  });
  it('does not stand on itself', () => {
    const upper = begin('winter', { onPlanId: planId });
    expect(refused({ type: 'plan.edit', input: { id: planId, onPlanId: upper } })).toMatchObject({
      code: 'stands-on-itself',
      field: 'onPlanId',
    });
  });
  it('comes of splitting: the last steps stand on the first', () => {
    memory(2048);
    memory(4096);
    const split = (ids: string[], name = 'winter'): Change => ({
      type: 'plan.split',
      input: { id: planId, name, ids },
    });
    expect(refused(split([])).code).toBe('not-some');
    expect(refused(split([stepId(1), stepId(2)])).code).toBe('not-some');
    expect(refused(split([stepId(2)], 'autumn')).code).toBe('name-taken');
    world.make({ type: 'plan.edit', input: { id: planId, needsApproval: true } });
    approve();
    world.make(split([stepId(2)]));
    const upper = world.id('plan', 'winter');
    expect(stepsOf(world.fleet, planId)).toHaveLength(1);
    expect(stepsOf(world.fleet, upper)).toHaveLength(1);
    expect(world.fleet.need('plan', upper)).toMatchObject({
      ...{ needsApproval: true, approvedBy: 'second', approvedAt: world.now },
    });
    expect(
      planFleet(world.fleet, upper, world.context(), decideDrawn).would.need('guest', tide)
        .memoryMiB,
    ).toBe(4096);
  });
});
