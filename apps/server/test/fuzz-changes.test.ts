/** Every change is sent nearly right and broken bodies: none fails, none hangs, none is carried out in part. */
import { CHANGE_TYPES, type ChangeType } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeBody, randomOf } from './support/fuzz.js';
import { BODIES, FuzzWorld, SEEDS, type Sent } from './support/fuzz-world.js';

/** Changes whose bodies alter so much that the rest would find nothing left to alter come last. */
const LAST = new Set<ChangeType>(['undo']);
/** One body of so many is only previewed, which costs ten times as much. */
const PREVIEWED = 10;

const world = new FuzzWorld();
beforeAll(() => world.begin());
afterAll(() => world.here.end());

function* changes(): Generator<Sent> {
  const types = [...CHANGE_TYPES].sort((a, b) => Number(LAST.has(a)) - Number(LAST.has(b)));
  for (const seed of SEEDS) {
    const random = randomOf(seed);
    for (const type of types)
      for (let i = 0; i < BODIES / SEEDS.length; i += 1)
        yield {
          what: type,
          method: 'POST',
          path: `changes/${type}${i % PREVIEWED === 1 ? '/preview' : ''}`,
          body: changeBody(random, type, world.ids),
        };
  }
}

describe(`with the seeds ${SEEDS.join(' and ')}`, () => {
  it('no change fails, hangs, or is made in part', { timeout: 900_000 }, async () => {
    const memory = async () =>
      (await world.keeper.call<{ memoryMiB: number }>('GET', 'health')).body.memoryMiB;
    const before = await memory();
    const { failed, statuses } = await world.sendAll(changes());
    const answered = [...statuses].sort(([a], [b]) => a - b);
    console.log(
      `answered ${answered.map(([status, n]) => `${status}: ${n}`).join(', ')}; memory ${before} → ${await memory()} MiB`,
    );
    expect(failed.slice(0, 12)).toEqual([]);
    const sent = [...statuses.values()].reduce((sum, n) => sum + n, 0);
    expect(sent).toBe(CHANGE_TYPES.length * BODIES);
    // Some are right: otherwise nothing behind the door would be asked.
    expect(statuses.get(201) ?? 0).toBeGreaterThan(500);
    expect(world.here.checkRecord().stdout).toContain('The three agree.');
  });
});
