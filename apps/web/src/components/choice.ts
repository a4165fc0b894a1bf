import { useCallback, useState } from 'react';
import type { Seen } from '../frame/change.js';

/** Rows of a list that are chosen for a change to several, as they were read. */
export function useChoice() {
  const [rows, setRows] = useState<ReadonlyMap<string, Seen>>(new Map());
  const toggle = useCallback(
    (row: Seen) =>
      setRows((held) => {
        const next = new Map(held);
        if (!next.delete(row.id)) next.set(row.id, row);
        return next;
      }),
    [],
  );
  const clear = useCallback(() => setRows(new Map()), []);
  return { rows, toggle, clear };
}
