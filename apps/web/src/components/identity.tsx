import { aboutItem, waysOf, type Row } from '@insel/core';
import { useMayPlan } from '../frame/session.js';
import { useChange } from '../frame/change.js';
import { ProblemNote } from './problem.js';

/** What a clone must be given anew, to be ticked off one by one. */
export function IdentityList({
  items,
  family,
}: {
  items: Row<'identityItem'>[];
  family: Row<'guest'>['family'];
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const open = items.filter((item) => item.doneAt === null);
  return (
    <div>
      <ul className="grid grid-cols-1 gap-x-6 lg:grid-cols-2">
        {items.map((item) => (
          <li key={item.id}>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                disabled={!mayPlan}
                checked={item.doneAt !== null}
                onChange={(event) =>
                  void make('clone.tick', { itemIds: [item.id], done: event.target.checked })
                }
              />
              <span>{item.item}</span>
              {item.doneAt && (
                <span className="text-xs text-faint">
                  {item.doneAt.slice(0, 10)}, {item.doneBy}
                </span>
              )}
            </label>
            {item.doneAt ? (
              item.remark && <p className="pl-5 text-xs text-faint">{item.remark}</p>
            ) : (
              <p className="pl-5 text-xs text-faint">
                {aboutItem(item.item).how[waysOf(family)]} Proved when {aboutItem(item.item).proof}.
              </p>
            )}
          </li>
        ))}
      </ul>
      {mayPlan && open.length > 1 && (
        <button
          type="button"
          className="act"
          onClick={() =>
            void make('clone.tick', { itemIds: open.map((item) => item.id), done: true })
          }
        >
          Tick all {open.length}
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
