import { read } from '../client/read.js';
import { undo } from '../client/change.js';
import { say } from '../client/say.js';

/** Takes back my last change that can be taken back, if it is the last thing I did. */
export async function undoMine(): Promise<void> {
  const { rows } = await read('log', { take: 100 });
  const undone = new Set<number>();
  const mine = rows.filter((row) => row.mine);
  for (const { undoes } of mine) if (undoes !== null) undone.add(undoes);
  const last = mine.find((row) => row.undoes === null && !undone.has(row.revision));
  if (last?.undoable) return undo(last.revision);
  void say('There is no change of yours to undo here; the log shows what can be corrected.');
}
