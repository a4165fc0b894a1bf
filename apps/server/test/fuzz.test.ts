/** Every change and every read is sent nearly right and broken bodies: none fails, none hangs, none is carried out in part. */
import { CHANGE_TYPES, type ChangeType } from '@insel/core';
import { READ_PATHS, type ReadName } from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeBody, randomOf, readRequest } from './support/fuzz.js';
import { guestBody, Installation, recordSmall, recordTern, type Person } from './support/server.js';

/** Bodies for each change and read, half from a seed that stays, half from one of the day. */
const BODIES = 300;
const SEEDS = [20_261_126, Math.floor(Date.now() / 1000)];
const AT_ONCE = 8;
/** What takes longer than this hangs. */
const HANGS_MS = 20_000;
/** Changes whose bodies alter so much that the rest finds nothing left to alter come last. */
const LAST = new Set<ChangeType>(['undo']);

let here: Installation;
let keeper: Person;
let ids: string[];

beforeAll(async () => {
  here = new Installation();
  keeper = (await here.begin()).administrator;
  const small = await recordSmall(keeper);
  await recordTern(keeper, small);
  for (const name of ['mist', 'haar']) await keeper.make('guest.plan', guestBody(small, name));
  const client = await here.connect();
  const { rows } = await client.query<{ id: string }>(
    'select distinct unnest(record_ids)::text as id from log order by 1',
  );
  await client.end();
  ids = rows.map(({ id }) => id);
});
afterAll(() => here.end());

interface Failed {
  what: string;
  status: number | 'hangs';
  body: string;
  answer: string;
}

/** @returns what answered 500, or not at all */
async function sendAll(
  requests: Iterable<{ what: string; method: string; path: string; body?: string }>,
): Promise<{ failed: Failed[]; statuses: Map<number, number> }> {
  const failed: Failed[] = [];
  const statuses = new Map<number, number>();
  const left = requests[Symbol.iterator]();
  const one = async () => {
    for (let next = left.next(); !next.done; next = left.next()) {
      const { what, method, path, body } = next.value;
      let answer = await keeper.raw(method, path, body, HANGS_MS).catch(() => null);
      // Sent again with what was read, as the door asks: what lies behind it is reached.
      if (answer?.status === 428) {
        const { current } = JSON.parse(answer.text) as { current: unknown };
        const again = JSON.stringify({ ...(JSON.parse(body!) as object), expects: current });
        answer = await keeper.raw(method, path, again, HANGS_MS).catch(() => null);
      }
      const status = answer?.status ?? 'hangs';
      if (status !== 'hangs') statuses.set(status, (statuses.get(status) ?? 0) + 1);
      const missing = answer?.text.includes('program-missing');
      if (status === 'hangs' || (status >= 500 && !missing))
        failed.push({
          what,
          status,
          body: `${path} ${body ?? ''}`.slice(0, 700),
          answer: answer?.text.slice(0, 300) ?? '',
        });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, one));
  return { failed, statuses };
}

function* changes() {
  const types = [...CHANGE_TYPES].sort((a, b) => Number(LAST.has(a)) - Number(LAST.has(b)));
  for (const seed of SEEDS) {
    const random = randomOf(seed);
    for (const type of types)
      for (let i = 0; i < BODIES / SEEDS.length; i += 1)
        yield {
          what: type,
          method: 'POST',
          path: `changes/${type}${i % 3 === 2 ? '/preview' : ''}`,
          body: changeBody(random, type, ids),
        };
  }
}

function* reads() {
  for (const seed of SEEDS) {
    const random = randomOf(seed + 1);
    for (const name of Object.keys(READ_PATHS) as ReadName[])
      for (let i = 0; i < BODIES / SEEDS.length; i += 1)
        yield { what: name, ...readRequest(random, name, ids) };
  }
}

describe(`with the seeds ${SEEDS.join(' and ')}`, () => {
  it('no change fails, hangs, or is made in part', { timeout: 900_000 }, async () => {
    const { failed, statuses } = await sendAll(changes());
    expect(failed.slice(0, 12)).toEqual([]);
    const sent = [...statuses.values()].reduce((sum, n) => sum + n, 0);
    expect(sent).toBe(CHANGE_TYPES.length * BODIES);
    // Some are right: otherwise nothing behind the door would be asked.
    expect(statuses.get(201) ?? 0).toBeGreaterThan(300);
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
  it('no read fails or hangs', { timeout: 600_000 }, async () => {
    const { failed } = await sendAll(reads());
    expect(failed.slice(0, 12)).toEqual([]);
  });
});
