/** A long table is recorded in parts under one id, one after another, with progress; it can be stopped, what is recorded stays. */
import type { Input } from '@insel/core';
import { useRef, useState } from 'react';
import { useChange } from '../../client/change.js';

/** Rows of one change. */
export const ROWS_A_PART = 500;

export interface PartsProgress {
  importId: string;
  done: number;
  of: number;
  rows: number;
}

export function useRecordParts(one: 'host' | 'guest', many: 'hosts' | 'guests') {
  const change = useChange();
  const [progress, setProgress] = useState<PartsProgress | null>(null);
  const stopped = useRef(false);
  const type = `${one}.record-many` as const;

  /** @returns numbers of the rows that were recorded, in the order of the bodies */
  const record = async (
    bodies: readonly object[],
    extras: { reason: string; override: string },
  ): Promise<number> => {
    stopped.current = false;
    const of = Math.ceil(bodies.length / ROWS_A_PART);
    const importId = crypto.randomUUID();
    const input = (from: number, number: number) =>
      ({
        [many]: bodies.slice(from, from + ROWS_A_PART),
        ...(of > 1 ? { part: { importId, number, of } } : {}),
      }) as unknown as Input<typeof type>;
    let rows = 0;
    for (let number = 1; number <= of && !stopped.current; number += 1) {
      if (of > 1) setProgress({ importId, done: number - 1, of, rows });
      const quiet = of > 1 && number < of;
      if (!(await change.make(type, input(rows, number), { ...extras, quiet }))) break;
      rows = Math.min(bodies.length, rows + ROWS_A_PART);
    }
    setProgress(
      rows < bodies.length && of > 1
        ? { importId, done: Math.ceil(rows / ROWS_A_PART), of, rows }
        : null,
    );
    return rows;
  };
  return { ...change, record, progress, stop: () => (stopped.current = true) };
}
