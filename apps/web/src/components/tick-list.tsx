/** Things to see to, ticked one by one or all at once, with who ticked each and when. */
import { useMayPlan } from '../client/session.js';
import type { ReactNode } from 'react';

export interface Tickable {
  id: string;
  item: string;
  doneAt: string | null;
  doneBy: string;
}

export function TickList<T extends Tickable>({
  items,
  tick,
  columns = 1,
  beneath,
}: {
  items: readonly T[];
  tick: (items: readonly T[], done: boolean) => void;
  columns?: 1 | 2;
  /** What stands beneath an item. */
  beneath?: (item: T) => ReactNode;
}) {
  const mayPlan = useMayPlan();
  const open = items.filter(({ doneAt }) => doneAt === null);
  return (
    <>
      <ul className={columns === 2 ? 'grid grid-cols-1 gap-x-6 lg:grid-cols-2' : ''}>
        {items.map((item) => (
          <li key={item.id}>
            <label className="flex min-h-6 items-baseline gap-2">
              <input
                type="checkbox"
                disabled={!mayPlan}
                checked={item.doneAt !== null}
                onChange={(event) => tick([item], event.target.checked)}
              />
              <span>{item.item}</span>
              {item.doneAt && (
                <span className="text-xs text-faint">
                  {item.doneAt.slice(0, 10)}, {item.doneBy}
                </span>
              )}
            </label>
            {beneath?.(item)}
          </li>
        ))}
      </ul>
      {mayPlan && open.length > 1 && (
        <button type="button" className="act" onClick={() => tick(open, true)}>
          Tick all {open.length}
        </button>
      )}
    </>
  );
}
