/** Every read is asked nearly right and broken questions: none fails, none hangs. */
import { READ_PATHS, type ReadName } from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { randomOf, readRequest } from './support/fuzz.js';
import { BODIES, FuzzWorld, SEEDS, type Sent } from './support/fuzz-world.js';

const world = new FuzzWorld();
beforeAll(() => world.begin());
afterAll(() => world.here.end());

function* reads(): Generator<Sent> {
  for (const seed of SEEDS) {
    const random = randomOf(seed);
    for (const name of Object.keys(READ_PATHS) as ReadName[])
      for (let i = 0; i < BODIES / SEEDS.length; i += 1)
        yield { what: name, ...readRequest(random, name, world.ids) };
  }
}

describe(`with the seeds ${SEEDS.join(' and ')}`, () => {
  it('no read fails or hangs', { timeout: 600_000 }, async () => {
    const { failed, statuses } = await world.sendAll(reads());
    expect(failed.slice(0, 12)).toEqual([]);
    expect(statuses.get(200) ?? 0).toBeGreaterThan(1000);
  });
});
