/**
 * Who still has what of its origin: clones down, items across, by tier. Arrows walk, Space ticks a cell; the head of a
 * column and the end of a row tick all that is open in them.
 */
import type { Lineage, LineClone } from '@insel/contract';
import { aboutItem, IDENTITY, isKnownItem, TIERS, type IdentityItem } from '@insel/core';
import { useRef, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';

/** Items that one of these clones has, by tier: ours in their order, then what roles add. */
function itemsOf(clones: readonly LineClone[]): string[] {
  const items = new Set(clones.flatMap(({ identity }) => identity.map(({ item }) => item)));
  const known = Object.keys(IDENTITY).filter((item) => items.has(item));
  const added = [...items].filter((item) => !isKnownItem(item)).sort();
  return TIERS.flatMap((tier) =>
    [...known, ...added].filter((item) => aboutItem(item).tier === tier),
  );
}
/** Heads of the columns, short enough to stand side by side. */
const SHORT: Record<IdentityItem, string> = {
  'computer name': 'name',
  'machine identifier': 'identifier',
  'MAC address': 'MAC',
  'static address': 'address',
  'interface binding': 'binding',
  'directory membership': 'directory',
  'SSH host keys': 'host keys',
  certificates: 'certs',
  'licence key': 'licence',
  'administrator password': 'password',
  'scheduled jobs': 'jobs',
  'enrolment with monitoring, backup and directory': 'enrolled',
};

const headOf = (item: string): string => (isKnownItem(item) ? SHORT[item] : item);

export function IdentityBoard({ line: { origin, clones } }: { line: Lineage }) {
  const board = useRef<HTMLTableElement>(null);
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const shown = itemsOf(clones);
  const begins = (i: number) =>
    i === 0 || aboutItem(shown[i - 1]!).tier !== aboutItem(shown[i]!).tier;
  const tick = (itemIds: string[], done = true) => {
    if (itemIds.length > 0) void make('clone.tick', { itemIds, done });
  };
  const openIn = (cells: LineClone['identity']) =>
    cells.filter(({ doneAt }) => doneAt === null).map(({ id }) => id);
  const column = (item: string) =>
    openIn(clones.flatMap(({ identity }) => identity.filter((cell) => cell.item === item)));
  const onKeyDown = (event: KeyboardEvent) => {
    const place = (event.target as HTMLElement).dataset.at;
    const step = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[
      event.key
    ];
    if (!place || !step) return;
    event.preventDefault();
    const [row, col] = place.split('.').map(Number) as [number, number];
    board.current
      ?.querySelector<HTMLElement>(`[data-at="${row + step[0]!}.${col + step[1]!}"]`)
      ?.focus();
  };
  return (
    <section aria-label={`Line of ${origin.name}`} className="mb-6">
      <h2 className="font-bold">
        <Link to={`/guests/${origin.id}`}>{origin.name}</Link>{' '}
        <span className="font-normal text-faint">
          {origin.template ? 'template, ' : ''}
          {origin.state}
        </span>
      </h2>
      <div className="overflow-x-auto">
        <table
          ref={board}
          className="w-full min-w-[620px] table-fixed text-[13px]"
          onKeyDown={onKeyDown}
        >
          <colgroup>
            {['w-[140px]', 'w-[84px]', 'w-[84px]', 'w-[92px]'].map((width, i) => (
              <col key={i} className={width} />
            ))}
            {shown.map((item) => (
              <col key={item} />
            ))}
            <col className="w-[96px]" />
          </colgroup>
          <thead className="text-left text-xs text-faint">
            <tr>
              <td colSpan={4} />
              {TIERS.map((tier) => {
                const across = shown.filter((item) => aboutItem(item).tier === tier).length;
                return across === 0 ? null : (
                  <th
                    key={tier}
                    scope="colgroup"
                    colSpan={across}
                    className="border-l border-rule px-1 font-normal text-pencil"
                  >
                    {tier}
                  </th>
                );
              })}
              <td />
            </tr>
            <tr className="border-b border-ink align-bottom">
              <th>Clone</th>
              <th>State</th>
              <th>Host</th>
              <th>Made</th>
              {shown.map((item, i) => (
                <th key={item} className={`px-1 ${begins(i) ? 'border-l border-rule' : ''}`}>
                  {mayPlan && column(item).length > 1 ? (
                    <button
                      type="button"
                      className="act text-left text-xs"
                      title={`${item}: tick what is open of ${column(item).length} clones`}
                      onClick={() => tick(column(item))}
                    >
                      {headOf(item)}
                    </button>
                  ) : (
                    <span title={item}>{headOf(item)}</span>
                  )}
                </th>
              ))}
              <th className="text-right">Open</th>
            </tr>
          </thead>
          <tbody>
            {clones.map((clone, row) => (
              <tr key={clone.id} className="h-8 border-b border-rule">
                <td className="truncate">
                  <Link
                    className="font-bold underline decoration-rule"
                    to={`/guests/${clone.guest.id}`}
                  >
                    {clone.guest.name}
                  </Link>
                </td>
                <td className={clone.state === 'planned' ? 'text-pencil' : ''}>{clone.state}</td>
                <td className="truncate">{clone.host.name}</td>
                <td className="mono text-faint">{clone.madeAt.slice(0, 10)}</td>
                {shown.map((item, col) => {
                  const cell = clone.identity.find((one) => one.item === item);
                  return (
                    <td key={item} className={`px-1 ${begins(col) ? 'border-l border-rule' : ''}`}>
                      {cell ? (
                        <input
                          type="checkbox"
                          data-at={`${row}.${col}`}
                          aria-label={`${item} of ${clone.guest.name}`}
                          title={
                            cell.doneAt
                              ? `${cell.doneAt.slice(0, 10)}, ${cell.doneBy}`
                              : `Forgotten, ${aboutItem(item).forgotten}. Proved when ${aboutItem(item).proof}.`
                          }
                          disabled={!mayPlan}
                          checked={cell.doneAt !== null}
                          onChange={(event) => tick([cell.id], event.target.checked)}
                        />
                      ) : (
                        <span className="text-faint" title="not asked of its role">
                          –
                        </span>
                      )}
                    </td>
                  );
                })}
                <td className="text-right whitespace-nowrap">
                  {clone.open.length === 0 ? (
                    <span className="text-faint">its own</span>
                  ) : (
                    <>
                      <span className={clone.state === 'in service' ? 'font-bold text-amber' : ''}>
                        {clone.state === 'in service' ? '◆ ' : ''}
                        {clone.open.length} of {clone.items}
                      </span>{' '}
                      {mayPlan && (
                        <button
                          type="button"
                          className="act"
                          aria-label={`Tick all open items of ${clone.guest.name}`}
                          onClick={() => tick(openIn(clone.identity))}
                        >
                          all
                        </button>
                      )}
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ProblemNote problem={problem} />
    </section>
  );
}
