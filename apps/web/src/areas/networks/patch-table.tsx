/** Patched ports as a table, those alike in one line. */
import type { PatchTableView, PatchCell } from '@insel/contract';
import { useState, useRef, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { NamedSelect } from '../../components/named-select.js';

export const SHORT: Record<string, string> = {
  bridged: 'br',
  NAT: 'nat',
  'host and guests': 'h+g',
  'guests only': 'gst',
  routed: 'rtd',
};

export function Table({ networks, rows }: Pick<PatchTableView, 'networks' | 'rows'>) {
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const grid = useRef<HTMLTableElement>(null);
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [row, column] = at;
  const cell = rows[row]?.cells[column];
  const move = (event: KeyboardEvent) => {
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[
      event.key
    ];
    if (!step) return;
    event.preventDefault();
    const next: [number, number] = [
      Math.max(0, Math.min(rows.length - 1, row + step[0]!)),
      Math.max(0, Math.min(networks.length - 1, column + step[1]!)),
    ];
    setAt(next);
    grid.current?.querySelector<HTMLElement>(`[data-cell="${next[0]},${next[1]}"]`)?.focus();
  };
  return (
    <>
      <table
        ref={grid}
        role="grid"
        aria-label="Patch table: hosts down, networks across; arrows move"
        className="mt-2 text-[13px]"
        onKeyDown={move}
      >
        <thead>
          <tr className="border-b border-ink align-bottom">
            <th className="pr-3 text-left">Host</th>
            {networks.map((network) => (
              <th key={network.id} scope="col" className="h-[150px] w-[46px] px-0 font-normal">
                <Link
                  to={`/networks/${network.id}`}
                  className="inline-block max-h-[146px] truncate [writing-mode:vertical-rl] rotate-180 underline decoration-rule"
                  title={`${network.name}, ${network.site}`}
                >
                  {network.name}
                  {network.vlanId !== null && (
                    <span className="mono text-faint"> {network.vlanId}</span>
                  )}
                </Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((host, i) => (
            <tr key={host.id} className="border-b border-rule">
              <th scope="row" className="pr-3 text-left font-normal whitespace-nowrap">
                <Link to={host.path} className="font-bold underline decoration-rule">
                  {host.name}
                </Link>{' '}
                <span className="text-faint">
                  {i === 0 || rows[i - 1]!.site !== host.site ? host.site : ''}
                </span>
              </th>
              {host.cells.map((found, j) => (
                <td
                  key={networks[j]!.id}
                  role="gridcell"
                  tabIndex={i === row && j === column ? 0 : -1}
                  data-cell={`${i},${j}`}
                  aria-label={`${host.name}, ${networks[j]!.name}: ${words(found)}`}
                  title={words(found)}
                  onFocus={() => setAt([i, j])}
                  className={`h-[28px] cursor-default text-center ${found.mode ? 'bg-water' : ''} ${found.fault ? 'shadow-[inset_0_-3px_0_var(--signal)]' : found.single ? 'shadow-[inset_0_-3px_0_var(--amber)]' : ''}`}
                >
                  {found.mode ? (
                    <span className="mono text-[12px]">
                      {SHORT[found.mode]}
                      {found.fault ? (
                        <span className="text-signal">■</span>
                      ) : found.single ? (
                        <span className="text-amber">◆</span>
                      ) : (
                        ''
                      )}
                    </span>
                  ) : (
                    <span className="text-faint">·</span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {cell && (
        <p
          className="mt-2 min-h-[48px] max-w-[900px] border-l-4 border-rule pl-3"
          aria-live="polite"
        >
          <b>
            {rows[row]!.name}, {networks[column]!.name}:
          </b>{' '}
          {words(cell)}{' '}
          {mayPlan && !cell.mode && (
            <button
              type="button"
              className="act"
              onClick={() =>
                void make('host.carry', {
                  hostId: rows[row]!.id,
                  networkId: networks[column]!.id,
                  mode: 'bridged',
                })
              }
            >
              Carry {networks[column]!.name} on {rows[row]!.name}, bridged
            </button>
          )}
        </p>
      )}
      <ProblemNote problem={problem} />
    </>
  );
}

function words({ mode, ports, fault, single }: PatchCell): string {
  if (!mode) return 'not carried.';
  const by = ports ? ` by ${ports}` : mode === 'bridged' ? ', ports not recorded' : '';
  return `${mode}${by}${single ? ', one path only' : ''}. ${fault}`.trim();
}

/** Gives all hosts shown the switches of one of them. */
export function Alike({ rows }: Pick<PatchTableView, 'rows'>) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const fullest = [...rows].sort(
    (a, b) =>
      b.cells.filter((cell) => cell.mode === 'bridged').length -
      a.cells.filter((cell) => cell.mode === 'bridged').length,
  )[0]!;
  const [likeId, setLikeId] = useState(fullest.id);
  const model = rows.find((row) => row.id === likeId) ?? fullest;
  const lacking = rows
    .filter((row) => row.id !== model.id)
    .reduce(
      (sum, row) =>
        sum +
        row.cells.filter((cell, i) => !cell.mode && model.cells[i]!.mode === 'bridged').length,
      0,
    );
  if (!mayPlan) return null;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2 border-t border-rule pt-2">
      Give all hosts of this site the same switches as
      <NamedSelect
        aria-label="Host to take as the model"
        value={model.id}
        onChange={(event) => setLikeId(event.target.value)}
        rows={rows}
      />
      <button
        type="button"
        className="act"
        disabled={lacking === 0}
        onClick={() =>
          void make('host.switches-alike', {
            likeId: model.id,
            hostIds: rows.map((row) => row.id),
          })
        }
      >
        {lacking === 0 ? 'nothing is missing' : `Add the ${lacking} that are missing`}
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}
