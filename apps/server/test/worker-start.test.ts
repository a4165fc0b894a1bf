/** The computation worker reads the record by itself, beside the process or after it: what was recorded meanwhile it is told. */
import type { ReadAnswer, Written } from '@insel/contract';
import { Fleet, SHAPE, type LogEntry } from '@insel/core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Following } from '../src/computation/following.js';
import { guestBody, Installation, recordSmall, type Person, type Small } from './support/server.js';

let here: Installation;
let person: Person;
let small: Small;
beforeAll(async () => {
  here = new Installation();
  person = (await here.begin()).administrator;
  small = await recordSmall(person);
});
afterAll(() => here.end());

/** Records one guest after another until it is told to stop. */
function recording(): { stop: () => Promise<number> } {
  let [going, last] = [true, 0];
  const ended = (async () => {
    for (let n = 0; going; n += 1) {
      const name = `meanwhile-${Date.now()}-${n}`;
      const { status, body } = await person.make<Written>('guest.plan', {
        ...guestBody(small, name),
        override: 'there is room enough for a test',
      });
      expect([201, 409, 422]).toContain(status);
      if (status === 201) last = body.revision;
      else await person.make('site.record', { name });
    }
  })();
  return {
    stop: async () => {
      going = false;
      await ended;
      return last;
    },
  };
}

it('is told what it has not heard of, in whatever order', () => {
  const entry = (revision: number): LogEntry =>
    ({
      ...{ revision, shape: SHAPE },
      patches: [{ op: 'create', kind: 'site', id: `site-${revision}`, after: { name: 'a site' } }],
    }) as unknown as LogEntry;
  const following = new Following();
  following.hear([entry(7), entry(9)]);
  const fleet = new Fleet();
  fleet.revision = 6;
  following.begin(fleet);
  expect(fleet.revision).toBe(7);
  following.hear([entry(10)]);
  expect(fleet.revision).toBe(7);
  following.hear([entry(6), entry(7), entry(8)]);
  expect(fleet.revision).toBe(10);
  following.hear([entry(8), entry(11)]);
  expect([fleet.revision, fleet.count('site')]).toEqual([11, 5]);
});

it('reads beside the process while another server records, and answers for what was recorded', async () => {
  const { stop } = recording();
  // As many as it takes for both to read at once.
  const server = await here.startServer({ INSEL_CORES: '8' });
  const told = { 'X-Insel-Revision': String(await stop()) };
  const twin = person.at(server.base);
  const answer = await twin.call<ReadAnswer<'findings'>>('GET', 'findings', undefined, told);
  expect(answer.status).toBe(200);
});
