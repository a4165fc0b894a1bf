/** A move that waits: nothing of it is ticked meanwhile, and its time goes on. */
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  ref,
  refuse,
  type DeciderOf,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';

export const pauseMigration = change({
  type: 'migration.pause',
  title: 'Pause the migration',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('migration'), why: fieldsOf('migration').pausedWhy },
});

export const resumeMigration = change({
  type: 'migration.resume',
  title: 'Go on with the migration',
  carried: 'only afterwards',
  alters: ['id'],
  input: { id: ref('migration') },
});

export const decidePauseMigration: DeciderOf<typeof pauseMigration> = (
  fleet,
  { id, why },
  context,
) => {
  const migration = fleet.get('migration', id);
  if (!migration) return noSuch('migration');
  if (migration.state === 'accepted' || migration.state === 'rolled back')
    return refuse({
      code: 'state-cannot-follow',
      sentence: `The migration is ${migration.state}: there is nothing to wait with.`,
    });
  if (why.trim() === '')
    return refuse({ code: 'reason-wanted', field: 'why', sentence: 'Write why it waits.' });
  const draft = draftOf(fleet, context);
  draft.update('migration', id, {
    pausedAt: migration.pausedAt ?? context.now,
    pausedWhy: why.trim(),
  });
  return { draft, ...about(fleet, migration, 'paused') };
};

export const decideResumeMigration: DeciderOf<typeof resumeMigration> = (
  fleet,
  { id },
  context,
) => {
  const migration = fleet.get('migration', id);
  if (!migration) return noSuch('migration');
  const draft = draftOf(fleet, context);
  draft.update('migration', id, { pausedAt: null, pausedWhy: '' });
  return { draft, ...about(fleet, migration, 'went on with') };
};

function about(fleet: Fleet, migration: Row<'migration'>, what: string) {
  const { id, name } = fleet.need('guest', migration.guestId);
  return {
    title: `${what} the move of ${name}`,
    subjects: [
      { kind: 'migration' as const, id: migration.id, name },
      { kind: 'guest' as const, id, name },
    ],
  };
}

/** While it waits only its way back is open. */
export const pausedFault = ({ pausedAt, pausedWhy }: Row<'migration'>): Refusal | undefined =>
  pausedAt === null
    ? undefined
    : refuse({
        code: 'migration-paused',
        sentence: `The migration is paused: ${pausedWhy}.`,
        remedy: 'Go on with it first, or roll it back.',
      });
