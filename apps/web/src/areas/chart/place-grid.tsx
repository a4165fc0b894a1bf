/** Hosts by site and rack in the columns of one grid: a place takes as many as it has hosts, and places share a row. */
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';

/** Between columns, in pixels. */
const GAP = 16;

export function PlaceGrid<T>({
  groups,
  cell,
  draw,
}: {
  groups: readonly [string, readonly T[]][];
  /** Least width of a column, in pixels. */
  cell: number;
  draw: (one: T) => ReactNode;
}) {
  const grid = useRef<HTMLDivElement>(null);
  const [columns, setColumns] = useState(1);
  useLayoutEffect(() => {
    const element = grid.current!;
    const fit = () =>
      setColumns(Math.max(1, Math.floor((element.clientWidth + GAP) / (cell + GAP))));
    fit();
    const watch = new ResizeObserver(fit);
    watch.observe(element);
    return () => watch.disconnect();
  }, [cell]);
  return (
    <div
      ref={grid}
      className="grid"
      style={{ columnGap: GAP, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
    >
      {groups.map(([place, members]) => (
        <section
          key={place}
          aria-label={place}
          className="mt-3 grid grid-cols-subgrid items-end gap-y-2"
          style={{
            gridColumn: `span ${Math.min(columns, members.length)}`,
            // Beside a place with larger hosts the names of both stand in one line, and so do their hosts.
            gridTemplateRows: members.length > columns ? undefined : 'auto 1fr',
          }}
        >
          <h2
            className="col-span-full truncate border-b border-rule pb-0.5 text-[13px] font-bold"
            title={place}
          >
            {place}
          </h2>
          {members.map((one) => draw(one))}
        </section>
      ))}
    </div>
  );
}
