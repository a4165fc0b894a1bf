import { counted } from '../quantity/index.js';
import {
  change,
  draftOf,
  list,
  noSuch,
  refs,
  refuse,
  said,
  time,
  type DeciderOf,
} from '../record/index.js';
import { windowFault } from './window.js';

/** More at once would be a programme. */
const MOST = 500;

/** When each of several planned moves is: its guest may be down from then until then. */
export const setTimes = change({
  type: 'migration.set-times',
  title: 'Set times of moves',
  alters: ['ids'],
  input: {
    ids: refs('migration', MOST),
    /** In the order of the ids. */
    times: list({ from: said(time()), until: said(time()) }, MOST),
  },
});

export const decideSetTimes: DeciderOf<typeof setTimes> = (fleet, { ids, times }, context) => {
  if (ids.length === 0 || times.length !== ids.length)
    return refuse({
      code: 'times-unlike-moves',
      field: 'times',
      sentence: 'Say one time for each move.',
    });
  const draft = draftOf(fleet, context);
  const subjects = [];
  for (const [i, id] of ids.entries()) {
    const migration = fleet.get('migration', id);
    if (!migration) return noSuch('migration');
    const { name } = fleet.need('guest', migration.guestId);
    if (migration.state !== 'planned')
      return refuse({
        code: 'state-cannot-follow',
        field: `ids.${i}`,
        sentence: `The migration of ${name} is ${migration.state}: its time is what it was.`,
      });
    const { from: windowFrom, until: windowUntil } = times[i]!;
    const fault = windowFault({ windowFrom, windowUntil });
    if (fault) return { ...fault, field: `times.${i}.until` };
    draft.update('migration', id, { windowFrom, windowUntil });
    subjects.push({ kind: 'migration' as const, id, name });
  }
  return {
    draft,
    title: `set the times of ${counted(ids.length, 'move')}`,
    subjects: subjects.slice(0, 50),
  };
};
