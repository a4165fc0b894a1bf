import { fewNames } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  refs,
  refuse,
  some,
  type DeciderOf,
  type Subject,
} from '../record/index.js';

/** How long the copies really took, and when they were ready: the next estimate learns from it. */
export const recordCloneTimes = change({
  type: 'clone.record-times',
  title: 'Record how long it took',
  carried: 'only afterwards',
  input: {
    guestIds: refs('guest', 500),
    /** Of each copy, by the tool that made it. */
    ...some(fieldsOf('clone'), 'copySeconds', 'readyAt'),
  },
});

export const decideRecordCloneTimes: DeciderOf<typeof recordCloneTimes> = (
  fleet,
  { guestIds, ...times },
  context,
) => {
  const draft = draftOf(fleet, context);
  const subjects: Subject[] = [];
  for (const id of guestIds) {
    const [clone] = fleet.referring('clone', 'guestId', id);
    if (!clone) return noSuch('clone');
    if (times.readyAt && Date.parse(times.readyAt) < Date.parse(clone.madeAt))
      return refuse({
        code: 'ready-before-made',
        field: 'readyAt',
        sentence: `${fleet.need('guest', id).name} was planned on ${clone.madeAt.slice(0, 16).replace('T', ' ')}: it was not ready before.`,
      });
    draft.update('clone', clone.id, times);
    subjects.push({ kind: 'guest', id, name: fleet.need('guest', id).name });
  }
  if (subjects.length === 0)
    return refuse({ code: 'none-chosen', field: 'guestIds', sentence: 'Choose the clones.' });
  return {
    draft,
    title: `recorded the times of ${fewNames(subjects.map(({ name }) => name))}`,
    subjects,
  };
};
