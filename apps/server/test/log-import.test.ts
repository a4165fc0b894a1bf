/** Parts of one import stand together in the log, and are taken back one after another. */
import type { LogRow, Written } from '@insel/contract';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { guestBody, Installation, Person, recordSmall, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
});
afterAll(() => here.end());

it('all parts are found by the id of their import, whatever was recorded between them', async () => {
  const part = (number: number, name: string) =>
    keeper.make<Written>('guest.record-many', {
      guests: [guestBody(small, name, { state: 'in service', adapters: [] })],
      part: { importId: 'spring', number, of: 2 },
    });
  expect((await part(1, 'one')).status).toBe(201);
  await keeper.make('log.note', { text: 'in between' });
  expect((await part(2, 'Zwei_ü')).status).toBe(201);
  const parts = async () =>
    (await keeper.call<{ rows: LogRow[] }>('GET', 'log?importId=spring')).body.rows;
  const found = await parts();
  expect(found.map(({ title, importId }) => [title, importId])).toEqual([
    ['recorded 1 guest from a table, part 2 of 2', 'spring'],
    ['recorded 1 guest from a table, part 1 of 2', 'spring'],
  ]);
  for (const { revision } of found)
    expect((await keeper.make('undo', { revision })).status).toBe(201);
  const { body } = await keeper.call<{ total: number }>('GET', 'guests');
  expect(body.total).toBe(0);
  expect((await keeper.call<{ rows: LogRow[] }>('GET', 'log?importId=other')).body.rows).toEqual(
    [],
  );
});
