/** Plans: changes in pencil over the record, decided anew whenever they are looked at, carried out one by one. */
import { beforeEach, describe, expect, it } from 'vitest';
import { decide, type Change } from '../change/decide.js';
import { smallWorld, type World } from '../change/testing.js';
import { digestLines, isRefusal, type Fleet } from '../record/index.js';
import { planFleet, stepsOf, type DecideDrawn } from './plan-fleet.js';
import { contextOfStep, stepId } from './step-context.js';

const decideDrawn: DecideDrawn = (fleet, change, context) =>
  decide(fleet, change as unknown as Change, context);

let world: World;
let planId: string;
const begin = (name: string): string => {
  world.make({ type: 'plan.record', input: { name } });
  return [...world.fleet.all('plan')].find((row) => row.name === name)!.id;
};
const drawing = (type: string, input: object): Change => ({
  type: 'plan-step.draw',
  input: { planId, type, input: JSON.stringify(input) },
});
const draw = (type: string, input: object) => world.make(drawing(type, input));
const looked = () => planFleet(world.fleet, planId, world.context(), decideDrawn);
const steps = () => stepsOf(world.fleet, planId);
const code = (change: Change) => {
  const answer = world.try(change);
  return isRefusal(answer) ? answer.code : undefined;
};
const guestPlan = (name: string) => {
  const { input } = world.plan(name, 'gannet', 1024);
  return input;
};
const guestsOf = (fleet: Fleet) => [...fleet.all('guest')].map(({ name }) => name);
/** Rows without those of the plan itself, and without revisions: those of the record count its changes. */
const rowsOf = (fleet: Fleet) =>
  digestLines(fleet)
    .map((line) => JSON.parse(line) as unknown[])
    .filter(([kind]) => kind !== 'plan' && kind !== 'planStep')
    .map(([kind, id, , ...values]) => JSON.stringify([kind, id, ...values]));

beforeEach(() => {
  world = smallWorld();
  planId = begin('autumn');
});

describe('a plan', () => {
  it('shows the record as it would be, and alters nothing', () => {
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    expect(guestsOf(looked().would)).toEqual(['tide', 'ebb']);
    expect(guestsOf(world.fleet)).toEqual([]);
    expect(steps().map(({ type, drawnBy }) => [type, drawnBy])).toEqual([
      ['guest.plan', 'planner'],
      ['guest.plan', 'planner'],
    ]);
  });
  it('gives the same ids, MACs and addresses however often it is decided', () => {
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    expect(looked().patches).toEqual(looked().patches);
    const [tide, ebb] = [...looked().would.all('adapter')];
    expect(tide!.mac).not.toBe(ebb!.mac);
  });
  it('decides each step on what stands below it', () => {
    draw('guest.plan', guestPlan('tide'));
    const [tide] = [...looked().would.all('guest')];
    draw('guest.edit', { id: tide!.id, memoryMiB: 2048 });
    expect(looked().would.need('guest', tide!.id).memoryMiB).toBe(2048);
    expect(code(drawing('guest.plan', guestPlan('tide')))).toBe('name-taken');
  });
  it('keeps a step that the record has overtaken, with its refusal, and goes on with the others', () => {
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    world.make(world.plan('tide', 'gannet', 512));
    const { outcomes, would } = looked();
    expect(outcomes.map(({ decision }) => isRefusal(decision) && decision.code)).toEqual([
      'name-taken',
      false,
    ]);
    expect(guestsOf(would)).toContain('ebb');
  });
  it('tells the objections that it goes past, and raises them again when it is carried out', () => {
    draw('guest.plan', { ...guestPlan('whale'), memoryMiB: 900_000 });
    const [{ decision }] = looked().outcomes as [ReturnType<typeof looked>['outcomes'][number]];
    if (isRefusal(decision)) throw new Error(decision.sentence);
    expect(decision.overridden.map((one) => one.code)).toContain('no-memory');
    const carryOut: Change = { type: 'plan-step.carry-out', input: { id: steps()[0]!.id } };
    expect(code(carryOut)).toBe('no-memory');
    world.make({ ...carryOut, override: 'memory is ordered' });
    expect(guestsOf(world.fleet)).toEqual(['whale']);
  });
  it('carried out gives exactly what it showed, step by step, and closes with the last one', () => {
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    const [tide] = [...looked().would.all('guest')];
    draw('guest.edit', { id: tide!.id, name: 'flood', vcpu: 1 });
    const shown = rowsOf(looked().would);
    for (const { id } of steps()) world.make({ type: 'plan-step.carry-out', input: { id } });
    // What was done at a time has another one.
    const withoutTimes = (rows: string[]) =>
      rows.map((row) => row.replace(/"20\d\d-[^"]*Z"/g, '""'));
    expect(withoutTimes(rowsOf(world.fleet))).toEqual(withoutTimes(shown));
    expect(world.fleet.need('plan', planId).state).toBe('carried out');
    expect(world.log.at(-1)!.title).toContain('(autumn, step 3)');
  });
  it('a step that was carried out can be taken back, like what it did', () => {
    draw('guest.plan', guestPlan('tide'));
    world.make({ type: 'plan-step.carry-out', input: { id: steps()[0]!.id } });
    world.make({ type: 'undo', input: { revision: world.fleet.revision } });
    expect([guestsOf(world.fleet), steps()[0]!.doneAt]).toEqual([[], null]);
  });
  it('is put in another order', () => {
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    const [first, second] = steps().map(({ id }) => id);
    world.make({ type: 'plan.order', input: { planId, ids: [second!, first!] } });
    expect(steps().map(({ id }) => id)).toEqual([second, first]);
    expect(code({ type: 'plan.order', input: { planId, ids: [first!] } })).toBe('not-all');
  });
});

describe('what a plan refuses', () => {
  it('not-drawable: pasted texts, which must be able to be taken out of the log for good', () => {
    for (const type of ['names.take', 'list.take', 'host.take-facts', 'computer.take-facts'])
      expect(world.try(drawing(type, { text: 'a' }))).toMatchObject({
        code: 'not-drawable',
        sentence: expect.stringContaining('taken in, not planned') as string,
      });
  });
  it('not-drawable: what can only be told afterwards, and what is no change', () => {
    for (const type of ['undo', 'plan-step.draw', 'plan-step.carry-out', 'nonsense'])
      expect([type, code(drawing(type, {}))]).toEqual([type, 'not-drawable']);
  });
  it('step-unreadable: what is no JSON, or decides no more', () => {
    const input = { planId, type: 'guest.plan', input: '{' };
    expect(code({ type: 'plan-step.draw', input })).toBe('step-unreadable');
    expect(code(drawing('guest.plan', { ...guestPlan('tide'), adapters: null }))).toBe(
      'step-unreadable',
    );
  });
  it('plan-closed, step-done, not-the-next-step', () => {
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    const [first, second] = steps().map(({ id }) => id);
    const carryOut = (id: string): Change => ({ type: 'plan-step.carry-out', input: { id } });
    expect(code(carryOut(second!))).toBe('not-the-next-step');
    world.make(carryOut(first!));
    expect(code(carryOut(first!))).toBe('step-done');
    world.make({ type: 'plan.edit', input: { id: planId, state: 'given up' } });
    expect(code(carryOut(second!))).toBe('plan-closed');
    expect(code(drawing('guest.plan', guestPlan('flood')))).toBe('plan-closed');
  });
});

describe('ids of a step', () => {
  it('have the layout of UUID version 7 (RFC 9562, section 5.7), with the time of drawing', () => {
    const id = stepId('seed', '2026-11-20T08:00:00.000Z', 1);
    expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
    expect(Number.parseInt(id.replaceAll('-', '').slice(0, 12), 16)).toBe(
      Date.parse('2026-11-20T08:00:00.000Z'),
    );
  });
  it('differ by seed and number', () => {
    const ids = new Set<string>();
    for (let seed = 0; seed < 100; seed += 1)
      for (let n = 0; n < 100; n += 1) ids.add(stepId(`s${seed}`, '2026-11-20T08:00:00.000Z', n));
    expect(ids.size).toBe(10_000);
  });
  it('and its chance are spread', () => {
    const { randomByte } = contextOfStep(
      { seed: 'x', drawnAt: '2026-11-20T08:00:00.000Z' },
      world.context(),
    );
    const bytes = Array.from({ length: 4096 }, randomByte);
    expect(new Set(bytes).size).toBe(256);
    const mean = bytes.reduce((sum, byte) => sum + byte, 0) / bytes.length;
    expect(Math.abs(mean - 127.5)).toBeLessThan(6);
  });
});

describe('a copy', () => {
  it('has the steps that are still to be done, decides on its own, and leaves the plan as it is', () => {
    planId = begin('first');
    draw('guest.plan', guestPlan('tide'));
    draw('guest.plan', guestPlan('ebb'));
    world.make({ type: 'plan-step.carry-out', input: { id: steps()[0]!.id } });
    world.make({ type: 'plan.copy', input: { id: planId, name: 'second' } });
    const copy = [...world.fleet.all('plan')].find(({ name }) => name === 'second')!;
    expect(stepsOf(world.fleet, copy.id).map(({ type, position }) => [type, position])).toEqual([
      ['guest.plan', 0],
    ]);
    const madeBy = (id: string) =>
      planFleet(world.fleet, id, world.context(), decideDrawn).patches.find(
        ({ kind }) => kind === 'guest',
      )!.id;
    expect(madeBy(copy.id)).not.toBe(madeBy(planId));
    expect(steps()).toHaveLength(2);
  });
  it('has a name of its own', () => {
    planId = begin('first');
    expect(code({ type: 'plan.copy', input: { id: planId, name: ' FIRST ' } })).toBe('name-taken');
  });
  it('of no plan is refused', () =>
    expect(code({ type: 'plan.copy', input: { id: 'nothing', name: 'x' } })).toBe('not-found'));
});
