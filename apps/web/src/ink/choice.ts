import { useCallback, useState } from 'react';

/** Rows of a list that are chosen for a change to several. */
export function useChoice() {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  const toggle = useCallback(
    (id: string) =>
      setIds((held) => {
        const next = new Set(held);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
    [],
  );
  const clear = useCallback(() => setIds(new Set()), []);
  return { ids, toggle, clear };
}
