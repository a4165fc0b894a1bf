import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  ref,
  refuse,
  some,
  type DeciderOf,
} from '../record/index.js';
import { methodFault } from './physical-faults.js';
import { windowFault } from './window.js';

/** When it may be down, how it travels: until it has begun. Notes at any time. */
export const editMigration = change({
  type: 'migration.edit',
  title: 'Edit the migration',
  alters: ['id'],
  input: {
    id: ref('migration'),
    ...some(
      fieldsOf('migration'),
      'windowFrom',
      'windowUntil',
      'method',
      'linkBitsPerSecond',
      'dirtyBytesPerSecond',
      'bytesDone',
      'copyFromIp',
      'copyToIp',
      'notes',
      'owner',
    ),
  },
});

export const decideEditMigration: DeciderOf<typeof editMigration> = (
  fleet,
  { id, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const migration = editFields(fleet, draft, 'migration', id, fields);
  if (isRefusal(migration)) return migration;
  const settled = migration.state === 'accepted' || migration.state === 'rolled back';
  const [planning] = Object.keys(fields).filter((name) => name !== 'notes' && name !== 'owner');
  if (settled && planning)
    return refuse({
      code: 'state-cannot-follow',
      field: planning,
      sentence: `The migration is ${migration.state}: when it was and how it went stays as it is.`,
    });
  const side =
    migration.sourceHostId === null ? 'source' : migration.targetHostId === null ? 'target' : null;
  const fault =
    windowFault({ ...migration, ...fields }) ??
    (side && fields.method ? methodFault(fields.method, side) : undefined);
  if (fault) return fault;
  if (fields.bytesDone !== undefined) {
    if (migration.state !== 'started')
      return refuse({
        code: 'state-cannot-follow',
        field: 'bytesDone',
        sentence: `The migration is ${migration.state}: how far its copy is is said while it runs.`,
      });
    draft.update('migration', id, {
      bytesDoneAt: fields.bytesDone === null ? null : context.happenedAt,
    });
  }
  const guest = fleet.need('guest', migration.guestId);
  return {
    draft,
    title: `edited the migration of ${guest.name}: ${givenWords(fields)}`,
    subjects: [
      { kind: 'migration', id: migration.id, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
  };
};
