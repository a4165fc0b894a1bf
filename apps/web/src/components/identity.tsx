import { aboutItem, waysOf, type Row } from '@insel/core';
import { useChange } from '../client/change.js';
import { ProblemNote } from './problem.js';
import { TickList } from './tick-list.js';

/** What a clone must be given anew: how each is done, and what was seen. */
export function IdentityList({
  items,
  family,
}: {
  items: Row<'identityItem'>[];
  family: Row<'guest'>['family'];
}) {
  const { make, problem } = useChange();
  const way = waysOf(family);
  return (
    <div>
      <TickList
        items={items}
        columns={2}
        tick={(some, done) => void make('clone.tick', { itemIds: some.map(({ id }) => id), done })}
        beneath={({ item, doneAt, remark }) => (
          <p className="pl-5 text-xs text-faint">
            {doneAt === null
              ? `${aboutItem(item).how[way]} Proved when ${aboutItem(item).proof}.`
              : remark}
          </p>
        )}
      />
      <ProblemNote problem={problem} />
    </div>
  );
}
