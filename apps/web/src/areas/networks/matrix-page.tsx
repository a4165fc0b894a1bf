/** Guests against guests: who of a group reaches whom, with the reason on every cell. */
import { counted, FAILURE_WORDS } from '@insel/core';
import type { ReadQuery, GuestListRow, MatrixView } from '@insel/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import { useUrlState } from '../../client/url-state.js';
import { read, useRead } from '../../client/read.js';
import { useStandpoint } from '../../client/standpoint.js';
import { NamedSelect } from '../../components/named-select.js';

/** More columns than fit a screen are no table any more; the figures count all. */
const MOST_SHOWN = 60;
const MOST_ASKED = 2000;

const SIGN: Record<string, { sign: string; tone: string; word: string }> = {
  yes: { sign: '✓', tone: 'text-teal', word: 'yes' },
  no: { sign: '■', tone: 'text-signal', word: 'no' },
  'one way': { sign: '◆', tone: 'text-amber', word: 'one way' },
  'somebody else answered': { sign: '◇', tone: 'text-amber', word: 'somebody else answered' },
  refused: { sign: '▢', tone: 'text-signal', word: 'refused' },
};

export function MatrixPage() {
  const [search, set] = useUrlState();
  const [networkId, hostId, state] = [
    search.get('network') ?? '',
    search.get('host') ?? '',
    search.get('state') ?? 'in service',
  ];
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const hosts = useRead('hosts', { take: 200 }).data?.rows ?? [];
  const guests =
    useQuery({
      queryKey: ['list', 'guests', 'matrix', hostId, networkId, state, useStandpoint()],
      queryFn: () => everyGuest({ hostId, networkId, state }),
      placeholderData: keepPreviousData,
    }).data ?? [];
  const ids = guests.slice(0, MOST_ASKED).map((guest) => guest.id);
  const matrix = useRead('matrix', ids.length > 0 ? { ids } : null, { keep: true });
  return (
    <div className="h-full overflow-auto px-6 py-3">
      <div className="flex flex-wrap items-center gap-x-4">
        <h1>Who reaches whom</h1>
        <label className="flex items-center gap-1">
          Network{' '}
          <NamedSelect
            aria-label="Network"
            value={networkId}
            onChange={(event) => set({ network: event.target.value })}
            rows={networks}
            none="any"
          />
        </label>
        <label className="flex items-center gap-1">
          Host{' '}
          <NamedSelect
            aria-label="Host"
            value={hostId}
            onChange={(event) => set({ host: event.target.value })}
            rows={hosts}
            none="any"
          />
        </label>
        <label className="flex items-center gap-1">
          State{' '}
          <select
            aria-label="State"
            value={state}
            onChange={(event) => set({ state: event.target.value })}
          >
            <option>in service</option>
            <option>stopped</option>
            <option>planned</option>
          </select>
        </label>
      </div>
      <p className="text-[13px] text-faint">
        From the rows to the columns.{' '}
        {Object.values(SIGN).map(({ sign, word, tone }) => (
          <span key={word} className="mr-3">
            <span className={tone}>{sign}</span> {word}
          </span>
        ))}{' '}
        A yes means: addressing and routing permit it; filters are not recorded.
      </p>
      {ids.length === 0 && <p className="py-4 text-faint">No guest matches.</p>}
      {matrix.error && <p className="text-signal">{matrix.error.message}</p>}
      {matrix.data && ids.length > 0 && <Table matrix={matrix.data} />}
    </div>
  );
}

async function everyGuest(filter: ReadQuery<'guests'>): Promise<GuestListRow[]> {
  const rows: GuestListRow[] = [];
  for (let from = 0; from < MOST_ASKED; from += 200) {
    const page = await read('guests', { ...filter, from, take: 200 });
    rows.push(...page.rows);
    if (rows.length >= page.total) break;
  }
  return rows;
}

function Table({ matrix }: { matrix: MatrixView }) {
  const { machines, classOf, cells } = matrix;
  const shown = machines.slice(0, MOST_SHOWN);
  // By the machines themselves: when the group changes under it, a place in the table would be another pair.
  const [pair, setPair] = useState<readonly [string, string] | null>(null);
  const placeOf = (id: string | undefined, otherwise: number) => {
    const found = shown.findIndex((machine) => machine.id === id);
    return found < 0 ? Math.min(otherwise, shown.length - 1) : found;
  };
  const [i, j] = [placeOf(pair?.[0], 0), placeOf(pair?.[1], 1)];
  const setAt = (row: number, column: number) => setPair([shown[row]!.id, shown[column]!.id]);
  const cell = (i: number, j: number) => cells[classOf[i]!]![classOf[j]!]!;
  const counts = new Map<string, number>();
  machines.forEach((_, i) =>
    machines.forEach(
      (__, j) =>
        i !== j && counts.set(cell(i, j).verdict, (counts.get(cell(i, j).verdict) ?? 0) + 1),
    ),
  );
  const move = (event: KeyboardEvent<HTMLTableElement>) => {
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[
      event.key
    ];
    if (!step) return;
    event.preventDefault();
    const next: [number, number] = [
      Math.max(0, Math.min(shown.length - 1, i + step[0]!)),
      Math.max(0, Math.min(shown.length - 1, j + step[1]!)),
    ];
    setAt(...next);
    event.currentTarget.querySelector<HTMLElement>(`[data-cell="${next[0]},${next[1]}"]`)?.focus();
  };
  const focused = cell(i, j);
  return (
    <>
      <p className="my-1">
        {counted(machines.length, 'machine')},{' '}
        {[...counts]
          .map(([verdict, count]) => `${count.toLocaleString('en-GB')} ${SIGN[verdict]!.word}`)
          .join(', ')}
        ; {matrix.simulated} echoes worked out in{' '}
        <span className="mono">{matrix.milliseconds} ms</span>.
        {machines.length > MOST_SHOWN &&
          ` The first ${MOST_SHOWN} are shown: narrow the group to see others.`}
      </p>
      <p className="min-h-[44px] max-w-[900px] border-l-4 border-rule pl-3" aria-live="polite">
        <b>
          {shown[i]!.name} → {shown[j]!.name}:
        </b>{' '}
        {i === j
          ? 'itself.'
          : `${SIGN[focused.verdict]!.word}${focused.code ? `; ${FAILURE_WORDS[focused.code]}` : ''}.`}{' '}
        {i !== j && (
          <Link className="act" to={`/networks/reach?from=${shown[i]!.id}&to=${shown[j]!.id}`}>
            Why, and the way
          </Link>
        )}
      </p>
      <table
        role="grid"
        aria-label="Matrix: from rows to columns; arrows move"
        className="text-[12px]"
        onKeyDown={move}
      >
        <thead>
          <tr className="align-bottom">
            <th />
            {shown.map((machine) => (
              <th key={machine.id} scope="col" className="h-[104px] w-[21px] p-0 font-normal">
                <span className="inline-block max-h-[100px] truncate [writing-mode:vertical-rl] rotate-180">
                  {machine.name}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((machine, row) => (
            <tr key={machine.id} className="border-b border-rule">
              <th scope="row" className="pr-2 text-right font-normal whitespace-nowrap">
                {machine.name}
              </th>
              {shown.map((other, column) => {
                const { verdict, code } = cell(row, column);
                const { sign, tone, word } = SIGN[verdict]!;
                return (
                  <td
                    key={other.id}
                    role="gridcell"
                    tabIndex={row === i && column === j ? 0 : -1}
                    data-cell={`${row},${column}`}
                    aria-label={`${machine.name} to ${other.name}: ${row === column ? 'itself' : word}`}
                    title={
                      row === column
                        ? ''
                        : `${machine.name} → ${other.name}: ${word}${code ? `; ${FAILURE_WORDS[code]}` : ''}`
                    }
                    onFocus={() => setAt(row, column)}
                    onClick={() => setAt(row, column)}
                    className={`h-[21px] w-[21px] text-center ${row === column ? 'bg-rule' : tone} ${row === i && column === j ? 'outline outline-2 outline-teal' : ''}`}
                  >
                    {row === column ? '' : sign}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
