/** A list leaves as it stands on screen: its columns, narrowed and ordered as it is, as CSV (RFC 4180), JSON, or copied. */
import type { ListWindow } from '@insel/contract';
import { counted } from '@insel/core';
import { useRef, useState } from 'react';
import type { TakenColumn } from './list-text.js';

/** What is read at once. */
const PAGE = 200;

export function TakeList<T>({
  name,
  total,
  columns,
  page,
}: {
  /** Of the file. */
  name: string;
  total: number;
  columns: readonly TakenColumn<T>[];
  page: (from: number, take: number) => Promise<ListWindow<T>>;
}) {
  const [busy, setBusy] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const stopped = useRef(false);
  const rows = async (): Promise<T[] | null> => {
    stopped.current = false;
    setSaid('');
    const all: T[] = [];
    for (let from = 0; from < total && !stopped.current; from += PAGE) {
      setBusy(from);
      all.push(...(await page(from, PAGE)).rows);
    }
    setBusy(null);
    return stopped.current ? null : all;
  };
  const take = async (how: 'csv' | 'json' | 'copy') => {
    try {
      const found = await rows();
      if (!found) return setSaid('Stopped: nothing was taken.');
      // The library that writes tables comes when one is taken.
      const { asCsv, asJson, asTsv, cellsOf } = await import('./list-text.js');
      const cells = cellsOf(found, columns);
      if (how === 'copy') {
        const { text, defused } = asTsv(cells);
        await navigator.clipboard.writeText(text);
        return setSaid(`${counted(found.length, 'row')} copied.${warned(defused)}`);
      }
      const { text, defused } = how === 'csv' ? asCsv(cells) : { text: asJson(cells), defused: 0 };
      save(`${name}.${how}`, text, how === 'csv' ? 'text/csv' : 'application/json');
      setSaid(`${counted(found.length, 'row')} taken.${warned(defused)}`);
    } catch (error) {
      setBusy(null);
      setSaid(`It could not be read: ${(error as Error).message}`);
    }
  };
  if (total === 0) return null;
  if (busy !== null)
    return (
      <span className="flex gap-3" role="status">
        {busy.toLocaleString('en-GB')} of {total.toLocaleString('en-GB')} read{' '}
        <button type="button" className="act" onClick={() => (stopped.current = true)}>
          Stop
        </button>
      </span>
    );
  return (
    <span className="flex flex-wrap gap-x-3">
      <span role="status">{said}</span>
      <span>Take it as</span>
      <button type="button" className="act" onClick={() => void take('csv')}>
        CSV
      </button>
      <button type="button" className="act" onClick={() => void take('json')}>
        JSON
      </button>
      <button type="button" className="act" onClick={() => void take('copy')}>
        Copy
      </button>
    </span>
  );
}

const warned = (defused: number): string =>
  defused === 0
    ? ''
    : ` ${counted(defused, 'cell')} that a spreadsheet would run as a formula ${defused === 1 ? 'begins' : 'begin'} with an apostrophe.`;

function save(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: `${type};charset=utf-8` }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
