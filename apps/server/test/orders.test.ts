/** Orders that are kept are those that sorting would give, whatever alters. */
import { Fleet, type Patch } from '@insel/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { OrderCache, sortedRows } from '../src/views/orders.js';

const id = (n: number) => String(n).padStart(3, '0');
const namesOf = (rows: readonly { id: string }[]) => rows.map((row) => row.id);
const named = (n: number, name: string, there: boolean): Patch =>
  there
    ? { op: 'update', kind: 'site', id: id(n), seen: 0, before: {}, after: { name } }
    : { op: 'create', kind: 'site', id: id(n), after: { name } };

it('an order follows the record, of a fleet and of what is laid over it', () => {
  const step = fc.record({
    n: fc.integer({ min: 0, max: 30 }),
    name: fc.constantFrom('a', 'b', 'c', 'd'),
    goes: fc.boolean(),
    over: fc.boolean(),
  });
  fc.assert(
    fc.property(
      fc.array(step, { maxLength: 80 }),
      fc.constantFrom('up', 'down'),
      (steps, order) => {
        const fleet = new Fleet();
        const orders = new OrderCache();
        const ids = (one: Fleet, cache: OrderCache) =>
          namesOf(
            cache.sorted(
              one,
              'site',
              { order },
              () => one.all('site'),
              (site) => site.name,
            ),
          );
        const sorted = (one: Fleet) =>
          namesOf(sortedRows(one.all('site'), (site) => site.name, order));
        for (const { n, name, goes, over } of steps) {
          const there = fleet.get('site', id(n)) !== undefined;
          const patch: Patch =
            there && goes
              ? { op: 'delete', kind: 'site', id: id(n), seen: 0, before: {} }
              : named(n, name, there);
          if (over) {
            ids(fleet, orders);
            const would = fleet.overlay([patch]);
            expect(ids(would, new OrderCache(orders))).toEqual(sorted(would));
          } else fleet.apply([patch], fleet.revision + 1);
          expect(ids(fleet, orders)).toEqual(sorted(fleet));
        }
      },
    ),
    { numRuns: 200 },
  );
});
