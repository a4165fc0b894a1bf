import { useCallback, useState } from 'react';
import type { Seen } from '../client/change.js';

/** Rows of a list that are chosen for a change to several, as they were read: they may be out of sight by now. */
export interface Choice {
  rows: ReadonlyMap<string, Seen>;
  choose: (rows: readonly Seen[]) => void;
  clear: () => void;
}

export function useChoice(): Choice {
  const [rows, setRows] = useState<ReadonlyMap<string, Seen>>(new Map());
  const choose = useCallback(
    (chosen: readonly Seen[]) => setRows(new Map(chosen.map((row) => [row.id, row]))),
    [],
  );
  const clear = useCallback(() => setRows(new Map()), []);
  return { rows, choose, clear };
}
