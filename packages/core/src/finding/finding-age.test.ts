/** Since when: told entry by entry, and of every finding of a long history against the states on both sides of the answer. */
import { expect, it } from 'vitest';
import { everyChange } from '../change/every-change.js';
import { smallWorld, World } from '../change/testing.js';
import { fleetAsOf } from '../record/index.js';
import { allFindings, findingAge } from './index.js';

const newestFirst = (world: World) => [...world.log].reverse();

it('is since the entry that brought it; gone and come again, since it came again', () => {
  const world = smallWorld();
  const id = world.id('host', 'gannet');
  const edit = (more: object) => world.make({ type: 'host.edit', input: { id, ...more } });
  const age = (back?: number) =>
    findingAge(world.fleet, found.id, newestFirst(world).slice(0, back), world.now);
  edit({ warrantyUntil: '2020-01-01' });
  const brought = world.fleet.revision;
  const found = allFindings(world.fleet, world.now).find(({ evidence }) =>
    /warranty/i.test(evidence),
  )!;
  edit({ notes: 'seen' });
  expect(age()).toEqual({
    since: world.now,
    by: { revision: brought, title: expect.any(String) as string, actorName: expect.any(String) as string }, // prettier-ignore
    lookedBackTo: world.log[0]!.at,
  });
  // One entry is not enough to see where it came from.
  expect(age(1)).toMatchObject({ since: null, by: null });
  expect(age(0)).toEqual({ since: null, by: null, lookedBackTo: null });
  edit({ warrantyUntil: null });
  expect(age()).toBeNull();
  edit({ warrantyUntil: '2020-01-01' });
  expect(age()!.by!.revision).toBe(world.fleet.revision);
  expect(findingAge(world.fleet, 'no-rule|no-row', newestFirst(world), world.now)).toBeNull();
});

it('what came with a day is said to have come with it', () => {
  const world = smallWorld();
  const id = world.id('host', 'gannet');
  world.make({ type: 'host.edit', input: { id, warrantyUntil: '2027-06-30' } });
  world.now = '2028-01-01T00:00:00.000Z';
  world.make({ type: 'host.edit', input: { id, notes: 'still here' } });
  const found = allFindings(world.fleet, world.now).find(({ evidence }) =>
    /warranty/i.test(evidence),
  )!;
  expect(findingAge(world.fleet, found.id, newestFirst(world), world.now)).toMatchObject({
    since: world.now,
    by: null,
  });
});

it('of every finding of a long history: not there before that entry, there after it', () => {
  const world = new World();
  for (const change of everyChange(world.fleet)) world.make(change);
  const { fleet, now } = world;
  const log = newestFirst(world);
  const there = (back: number, id: string) =>
    allFindings(fleetAsOf(fleet, fleet.revision - back, log.slice(0, back)).was, now).some(
      (finding) => finding.id === id,
    );
  const findings = allFindings(fleet, now);
  expect(findings.length).toBeGreaterThan(10);
  let known = 0;
  for (const { id } of findings) {
    const age = findingAge(fleet, id, log, now)!;
    if (!age.by) continue;
    known += 1;
    const after = fleet.revision - age.by.revision;
    expect([there(after, id), there(after + 1, id)]).toEqual([true, false]);
  }
  expect(known).toBeGreaterThan(findings.length / 2);
});
