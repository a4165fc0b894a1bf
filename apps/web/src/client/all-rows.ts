/** All rows of a list, window after window: for looking names up, not for showing. */
import type { ListWindow, Named } from '@insel/contract';
import { useQuery } from '@tanstack/react-query';
import { read } from './read.js';
import { standpoint, useStandpoint } from './standpoint.js';

const WINDOW = 200;

export function useAllNames(list: 'hosts' | 'networks'): Named[] | undefined {
  useStandpoint();
  return useQuery({
    queryKey: [list, 'all names', standpoint()],
    queryFn: async () => {
      const rows: Named[] = [];
      for (;;) {
        const window: ListWindow<Named> = await read(list, {
          sort: 'name',
          from: rows.length,
          take: WINDOW,
        });
        rows.push(...window.rows.map(({ id, name }) => ({ id, name })));
        if (window.rows.length === 0 || rows.length >= window.total) return rows;
      }
    },
  }).data;
}
