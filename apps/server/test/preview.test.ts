/** A preview tells which findings appear and vanish: those that do, of all findings, whatever the change. */
import { allFindings, descriptionOf } from '@insel/core';
import { expect, it } from 'vitest';
import { everyChange } from '../../../packages/core/src/change/every-change.js';
import { World } from '../../../packages/core/src/change/testing.js';
import { preview } from '../src/views/preview.js';

it.each(['all', 'kept'] as const)(
  'findings that move are those of the whole record before and after, for every change of the history (%s)',
  (looking) => {
    const world = new World();
    const { fleet } = world;
    let told = 0;
    const wrong: string[] = [];
    const idsOf = () => new Set(allFindings(fleet, world.now).map(({ id }) => id));
    const notIn = (ids: ReadonlySet<string>, others: ReadonlySet<string>) =>
      [...ids].filter((id) => !others.has(id)).length;
    for (const change of everyChange(fleet)) {
      const found = preview(fleet, change, world.context(), looking);
      const before = idsOf();
      world.make(change);
      const after = idsOf();
      // What needs an entry of the log is not previewed.
      if (descriptionOf(change.type)!.needs !== 'nothing') continue;
      const [appear, vanish] = [notIn(after, before), notIn(before, after)];
      told += appear + vanish;
      if (found.appearing.length !== appear || found.vanishing.length !== vanish)
        wrong.push(
          `${change.type}: ${found.appearing.length} for ${appear} appear, ${found.vanishing.length} for ${vanish} vanish`,
        );
    }
    expect(wrong).toEqual([]);
    expect(told).toBeGreaterThan(30);
  },
);
