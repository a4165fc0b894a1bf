import { counted } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  pasted,
  ref,
  refuse,
  said,
  type DeciderOf,
  type Fleet,
  type Row,
} from '../record/index.js';
import { compareReadings, PROVED_BY, type ReadingVerdict } from './compare-readings.js';
import { LONGEST_READING, readReading } from './reading-script.js';

/** What the guest printed of itself, before its move or after it. What both together prove is ticked. */
export const takeReading = change({
  type: 'migration.take-reading',
  title: 'Take in what the guest prints before or after its move',
  carried: 'only afterwards',
  alters: ['id'],
  input: {
    id: ref('migration'),
    when: said(fieldsOf('moveReading').when),
    text: pasted(LONGEST_READING),
  },
});

export const decideTakeReading: DeciderOf<typeof takeReading> = (
  fleet,
  { id, when, text },
  context,
) => {
  const migration = fleet.get('migration', id);
  if (!migration) return noSuch('migration');
  const read = readReading(text);
  if (!read.ok)
    return refuse({
      code: 'reading-not-read',
      field: 'text',
      sentence: read.sentence,
      remedy: 'Nothing was altered.',
    });
  const late = when === 'before' && migration.state !== 'planned' && migration.state !== 'started';
  const early = when === 'after' && migration.state !== 'switched';
  if (late || early)
    return refuse({
      code: 'reading-out-of-time',
      field: 'when',
      sentence: late
        ? `The migration is ${migration.state}: what was before it can no longer be read.`
        : `The migration is ${migration.state}: it is read after the switch, until it is accepted.`,
    });
  const draft = draftOf(fleet, context);
  for (const held of readingsOf(fleet, id, when)) draft.remove('moveReading', held.id);
  draft.create('moveReading', {
    migrationId: id,
    when,
    takenAt: context.happenedAt,
    by: context.actor.name,
    lines: read.lines,
  });
  const guest = fleet.need('guest', migration.guestId);
  const [before] = readingsOf(fleet, id, 'before');
  const verdicts =
    when === 'after' ? compareReadings(fleet, migration, before?.lines ?? [], read.lines) : [];
  const ticked = provedSteps(fleet, id, verdicts);
  for (const step of ticked)
    draft.update('moveStep', step.id, {
      state: 'done',
      at: context.happenedAt,
      by: context.actor.name,
      remark: 'proved by what it printed before and after',
    });
  const against = verdicts.filter(({ holds }) => holds === false);
  const found = against.length
    ? `, not as it was: ${against.map(({ what }) => what).join(', ')}`
    : when === 'after'
      ? ', as it was'
      : '';
  return {
    draft,
    title: `took in what ${guest.name} prints ${when} its move: ${counted(read.lines.length, 'line')}${found}`,
    subjects: [
      { kind: 'migration', id, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
  };
};

/** The one that counts; an earlier one is in the log. */
export const readingsOf = (
  fleet: Fleet,
  migrationId: string,
  when: Row<'moveReading'>['when'],
): Row<'moveReading'>[] =>
  fleet
    .referring('moveReading', 'migrationId', migrationId)
    .filter((reading) => reading.when === when);

/** Open steps of which all that they ask for holds; one of which nobody knows stays open. */
function provedSteps(
  fleet: Fleet,
  migrationId: string,
  verdicts: readonly ReadingVerdict[],
): Row<'moveStep'>[] {
  const holds = new Set(verdicts.flatMap(({ what, holds }) => (holds === true ? [what] : [])));
  return fleet
    .referring('moveStep', 'migrationId', migrationId)
    .filter(
      ({ key, state }) =>
        (state === 'open' || state === 'failed') &&
        PROVED_BY[key]?.every((what) => holds.has(what)),
    );
}
