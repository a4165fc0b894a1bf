import type { LogRow } from '@insel/contract';
import { toast } from 'sonner';
import { read } from './api.js';
import { undo } from './write.js';

/** Takes back my last change that can be taken back, if it is the last thing I did. */
export async function undoMine(): Promise<void> {
  const { rows } = await read<{ rows: LogRow[] }>('log?take=100');
  const undone = new Set<number>();
  for (const row of rows) {
    if (!row.mine) continue;
    if (row.type === 'undo') {
      const original = rows.find(
        (found) =>
          `undid: ${found.title}` === row.title &&
          found.revision < row.revision &&
          !undone.has(found.revision),
      );
      if (original) undone.add(original.revision);
      continue;
    }
    if (undone.has(row.revision)) continue;
    if (!row.undoable) break;
    return undo(row.revision);
  }
  toast('There is no change of yours to undo here; the log shows what can be corrected.');
}
