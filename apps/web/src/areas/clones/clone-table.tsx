/** The table of what will be made: real values, every cell to be altered, a block pasted from a spreadsheet fills it. */
import type { HostListRow, Preview } from '@insel/contract';
import { counted, formatMemory } from '@insel/core';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { Choose } from '../../components/choose.js';
import type { Errors } from '../../components/field.js';
import { useRead } from '../../client/read.js';
import {
  written,
  hostCalled,
  columnOf,
  Cell,
  COLUMNS,
  type Column,
  CHOSEN,
  type Cells,
} from './clone-cell.js';

interface Props {
  count: number;
  made: Preview['made'];
  cells: Cells;
  onCells: (cells: Cells) => void;
  /** By field of the input, such as "clones.3.ip". */
  faults: Errors;
}

export function CloneTable({ count, made, cells, onCells, faults }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const [past, setPast] = useState<Cells[]>([]);
  const [unknown, setUnknown] = useState('');
  const pools = useRead('pools').data ?? [];
  const alter = (next: Cells, step = true) => {
    if (step) setPast([...past.slice(-49), cells]);
    onCells(next);
  };
  const cellAt = (row: number, column: Column) =>
    table.current?.querySelector<HTMLElement>(`[data-cell="${row}.${column}"] :is(input, select)`);
  const set = (row: number, column: Column, value: string) =>
    alter({ ...cells, [row]: written(cells[row], column, value) });

  const paste = async (event: ClipboardEvent, row: number, column: Column) => {
    const text = event.clipboardData.getData('text/plain').replace(/\r?\n$/, '');
    if (!/[\t\n]/.test(text)) return;
    event.preventDefault();
    const block = text.split(/\r?\n/).map((line) => line.split('\t'));
    const next = { ...cells };
    const missing: string[] = [];
    for (const [i, line] of block.entries()) {
      for (const [j, raw] of line.entries()) {
        const into = COLUMNS[COLUMNS.indexOf(column) + j];
        const value = raw.trim();
        if (!into || row + i >= count || value === '') continue;
        const held =
          into === 'hostId'
            ? await hostCalled(value)
            : into === 'poolId'
              ? (pools.find(({ name }) => name.toLowerCase() === value.toLowerCase())?.id ?? null)
              : value;
        if (held === null) missing.push(value);
        else next[row + i] = written(next[row + i], into, held);
      }
    }
    setUnknown(missing.length ? `Nothing is called ${missing.join(', ')}.` : '');
    alter(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const place = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset.cell;
    const [row, column] = (place ?? '').split('.');
    const step = { ArrowDown: 1, Enter: 1, ArrowUp: -1 }[event.key];
    if (!step || !column || CHOSEN.includes(column as Column)) return;
    event.preventDefault();
    cellAt(Number(row) + step, column as Column)?.focus();
  };
  const wrong = Object.entries(faults).flatMap(([field, sentence]) => {
    const [, row, rest] = /^clones\.(\d+)\.(.*)$/.exec(field) ?? [];
    return row ? [{ row: Number(row), column: columnOf(rest!), sentence }] : [];
  });
  const jump = () => cellAt(wrong[0]!.row, wrong[0]!.column)?.focus();
  return (
    <section aria-label="What will be made" className="mt-4 max-w-[1060px]">
      <div className="flex items-baseline gap-4 text-xs">
        <h2 className="font-bold text-pencil">What will be made</h2>
        {wrong.length > 0 && (
          <button type="button" className="act font-bold text-signal" onClick={jump}>
            ■ {counted(wrong.length, 'problem')}: to the first
          </button>
        )}
        {unknown && <span className="font-bold text-signal">{unknown}</span>}
        {past.length > 0 && (
          <button
            type="button"
            className="act ml-auto"
            onClick={() => {
              onCells(past.at(-1)!);
              setPast(past.slice(0, -1));
            }}
          >
            Take the last alteration back
          </button>
        )}
      </div>
      <table ref={table} className="w-full table-fixed text-left text-[13px]" onKeyDown={onKeyDown}>
        <thead className="text-xs text-faint">
          <tr>
            <th className="w-[34px]">
              <span className="sr-only">Number</span>
            </th>
            <th>Name</th>
            <th>Host</th>
            <th>Pool</th>
            <th>Address</th>
            <th className="w-[158px]">MAC</th>
            <th className="w-[48px]">vCPU</th>
            <th className="w-[74px]">Memory</th>
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: count }, (_, i) => {
            const row = made[i];
            const own = cells[i] ?? {};
            const fault = wrong.filter((one) => one.row === i);
            const bad = (column: Column) =>
              fault.some((one) => one.column === column) ? true : undefined;
            return [
              <tr key={i} className="border-b border-dashed border-pencil">
                <td className="text-right text-faint">{i + 1}&nbsp;</td>
                <td data-cell={`${i}.name`}>
                  <Cell
                    label={`Name of clone ${i + 1}`}
                    own={own.name}
                    follows={row?.name ?? ''}
                    invalid={bad('name')}
                    onValue={(value) => set(i, 'name', value)}
                    onPaste={(event) => void paste(event, i, 'name')}
                  />
                </td>
                <td data-cell={`${i}.hostId`} onPaste={(event) => void paste(event, i, 'hostId')}>
                  <Choose<HostListRow>
                    list="hosts"
                    label={`Host of clone ${i + 1}`}
                    aria-invalid={bad('hostId')}
                    value={own.hostId ?? row?.host.id ?? ''}
                    onChange={(id) => set(i, 'hostId', id)}
                    detail={(host) => `${formatMemory(host.memoryLeftMiB, 'down')} left`}
                  />
                </td>
                <td data-cell={`${i}.poolId`} onPaste={(event) => void paste(event, i, 'poolId')}>
                  <select
                    aria-label={`Pool of clone ${i + 1}`}
                    aria-invalid={bad('poolId')}
                    className={`w-full ${own.poolId === undefined ? 'text-pencil' : 'font-bold'}`}
                    value={own.poolId ?? ''}
                    onChange={(event) => set(i, 'poolId', event.target.value)}
                  >
                    <option value="">{row?.pools.join(', ') ?? ''}</option>
                    {pools
                      .filter(({ hosts }) =>
                        hosts.some(({ id }) => id === (own.hostId ?? row?.host.id)),
                      )
                      .map(({ id, name }) => (
                        <option key={id} value={id}>
                          {name}
                        </option>
                      ))}
                  </select>
                </td>
                {(
                  [
                    ['ip', 'Address', row?.ip],
                    ['mac', 'MAC', row?.mac],
                    ['vcpu', 'vCPU', row && String(row.vcpu)],
                    ['memory', 'Memory', row && formatMemory(row.memoryMiB)],
                  ] as const
                ).map(([column, words, follows]) => (
                  <td key={column} data-cell={`${i}.${column}`}>
                    <Cell
                      mono
                      label={`${words} of clone ${i + 1}`}
                      own={own[column]}
                      follows={follows ?? ''}
                      invalid={bad(column)}
                      onValue={(value) => set(i, column, value)}
                      onPaste={(event) => void paste(event, i, column)}
                    />
                  </td>
                ))}
              </tr>,
              fault.length > 0 && (
                <tr key={`${i} fault`}>
                  <td />
                  <td colSpan={7} className="text-xs font-bold text-signal">
                    {[...new Set(fault.map(({ sentence }) => sentence))].join(' ')}
                  </td>
                </tr>
              ),
            ];
          })}
        </tbody>
      </table>
    </section>
  );
}
