import { describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { isRefusal } from '../record/index.js';
import { allFindings, findingsOn, markOn } from './index.js';

const UNTIL = '2027-01-31';
const due = (world: World, day: string) =>
  world.make({
    type: 'host.edit',
    input: { id: world.id('host', 'gannet'), nextMaintenanceOn: day },
  });
const accept = (world: World, until = UNTIL, reason = 'The crane is free in January.') =>
  world.try({
    type: 'finding.accept',
    input: { findingId: `maintenance-due|${world.id('host', 'gannet')}`, until },
    reason,
  });
const apply = (world: World) =>
  world.make({
    type: 'finding.accept',
    input: { findingId: `maintenance-due|${world.id('host', 'gannet')}`, until: UNTIL },
    reason: 'The crane is free in January.',
  });
const told = (world: World) =>
  allFindings(world.fleet, world.now).find(({ rule }) => rule === 'maintenance-due');
const code = (decision: ReturnType<World['try']>) =>
  isRefusal(decision) ? decision.code : 'decided';

describe('a finding that is accepted', () => {
  it('wants a reason, a day to come, and a finding that stands', () => {
    const world = smallWorld();
    expect(code(accept(world))).toBe('no-such-finding');
    due(world, '2026-10-01');
    expect(code(accept(world, UNTIL, ' '))).toBe('reason-missing');
    expect(code(accept(world, '2026-01-01'))).toBe('day-has-passed');
    expect(code(accept(world))).toBe('decided');
  });
  it('is still told, with who lives with it and why, after the others; its host is not marked', () => {
    const world = smallWorld();
    due(world, '2026-10-01');
    const host = world.id('host', 'gannet');
    expect(markOn(world.fleet, 'host', host, world.now)).toMatchObject({ severity: 'caution' });
    apply(world);
    expect(told(world)!.accepted).toMatchObject({
      until: UNTIL,
      reason: 'The crane is free in January.',
      by: 'planner',
    });
    expect(findingsOn(world.fleet, 'host', host, world.now)).toHaveLength(1);
    expect(markOn(world.fleet, 'host', host, world.now)).toBeNull();
  });
  it('comes back when its day has passed', () => {
    const world = smallWorld();
    due(world, '2026-10-01');
    apply(world);
    world.now = `${UNTIL}T23:00:00.000Z`;
    expect(told(world)!.accepted).toBeDefined();
    world.now = '2027-02-01T00:00:00.000Z';
    expect(told(world)!.accepted).toBeUndefined();
  });
  it('comes back when its evidence alters, and can be accepted anew', () => {
    const world = smallWorld();
    due(world, '2026-10-01');
    apply(world);
    due(world, '2026-10-02');
    expect(told(world)!.accepted).toBeUndefined();
    apply(world);
    expect(told(world)!.accepted).toBeDefined();
    expect([...world.fleet.all('acceptance')]).toHaveLength(1);
  });
  it('stays accepted while only time passes', () => {
    const world = smallWorld();
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'gannet'), certificateUntil: '2026-12-15' },
    });
    const ending = () =>
      allFindings(world.fleet, world.now).find(({ rule }) => rule === 'ending-soon')!;
    world.make({
      type: 'finding.accept',
      input: { findingId: ending().id, until: UNTIL },
      reason: 'It is replaced with the host.',
    });
    const [before] = [ending().evidence];
    world.now = '2026-12-01T08:00:00.000Z';
    expect(ending().evidence).not.toBe(before);
    expect(ending().accepted).toBeDefined();
  });
  it('is told again when somebody wants it', () => {
    const world = smallWorld();
    due(world, '2026-10-01');
    apply(world);
    const { id } = told(world)!.accepted!;
    world.make({ type: 'finding.end-acceptance', input: { id } });
    expect(told(world)!.accepted).toBeUndefined();
    expect(code(world.try({ type: 'finding.end-acceptance', input: { id } }))).toBe('not-found');
  });
});
