/** What an overlay moves, found from what it alters alone, against all findings of both fleets. */
import { describe, expect, it } from 'vitest';
import { everyChange } from '../change/every-change.js';
import { smallWorld, World } from '../change/testing.js';
import { isRefusal, type Fleet, type Patch } from '../record/index.js';
import {
  allFindings,
  findingsBetween,
  findingsMoved,
  lightFindings,
  type Finding,
} from './index.js';

const ids = (findings: readonly Finding[]) => findings.map(({ id }) => id).sort();

function byAll(before: readonly Finding[], after: readonly Finding[]) {
  const [had, has] = [new Set(ids(before)), new Set(ids(after))];
  return {
    appearing: [...has].filter((id) => !had.has(id)).sort(),
    vanishing: [...had].filter((id) => !has.has(id)).sort(),
  };
}

function moved(before: Fleet, after: Fleet, now: string, heavy: boolean) {
  const { appearing, vanishing } = findingsBetween(
    after,
    findingsMoved(before, now, heavy),
    findingsMoved(after, now, heavy),
    now,
  );
  return { appearing: ids(appearing), vanishing: ids(vanishing) };
}

describe('findings that move', () => {
  it('are those of all findings before and after, for every change of the history, and three on each other', () => {
    const world = new World();
    let three: { would: Fleet; steps: number } = { would: world.fleet, steps: 0 };
    let some = 0;
    for (const change of everyChange(world.fleet)) {
      const { fleet, now } = world;
      const decision = world.try(change);
      if (isRefusal(decision)) throw new Error(decision.sentence);
      const would = fleet.overlay(decision.patches);
      const all = byAll(allFindings(fleet, now), allFindings(would, now));
      expect([change.type, moved(fleet, would, now, true)]).toEqual([change.type, all]);
      expect([change.type, moved(fleet, would, now, false)]).toEqual([
        change.type,
        byAll(lightFindings(fleet, now), lightFindings(would, now)),
      ]);
      some += all.appearing.length + all.vanishing.length;
      world.record(change, decision);
    }
    expect(some).toBeGreaterThan(40);
    three = { would: world.fleet, steps: 0 };
    // One overlay on another: each step against the one below it, the record below both.
    const hosts = [...world.fleet.all('host')].filter(({ state }) => state !== 'retired');
    for (const { id } of hosts.slice(0, 3)) {
      const next = three.would.overlay([]);
      const row = next.need('host', id);
      next.apply(
        [
          {
            ...{ op: 'update', kind: 'host', id, seen: row.revision },
            before: { warrantyUntil: row.warrantyUntil },
            after: { warrantyUntil: '2020-01-01' },
          },
        ],
        next.revision,
      );
      expect(moved(three.would, next, world.now, true)).toEqual(
        byAll(allFindings(three.would, world.now), allFindings(next, world.now)),
      );
      three = { would: next, steps: three.steps + 1 };
    }
    expect(three.steps).toBe(3);
  });
  it('a fleet that lies on nothing moves nothing; what goes and comes back is told of each step', () => {
    const world = smallWorld();
    expect(findingsMoved(world.fleet, world.now, true).size).toBe(0);
    const id = world.id('host', 'gannet');
    const seen = world.fleet.need('host', id).revision;
    const set = (before: string | null, after: string | null): Patch => ({
      ...{ op: 'update', kind: 'host', id, seen },
      before: { warrantyUntil: before },
      after: { warrantyUntil: after },
    });
    const ended = world.fleet.overlay([set(null, '2020-01-01')]);
    const renewed = ended.overlay([set('2020-01-01', null)]);
    const there = moved(world.fleet, ended, world.now, true);
    expect(there.appearing).toHaveLength(1);
    expect(moved(ended, renewed, world.now, true)).toEqual({
      ...{ appearing: [], vanishing: there.appearing },
    });
    expect(moved(world.fleet, renewed, world.now, true)).toEqual({ appearing: [], vanishing: [] });
  });
});
