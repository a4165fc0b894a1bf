/** Clones with where they came from; migrations, and the route of one that is being thought of. */
import { sortedIds, windowOf } from '../views/common.js';
import { lineages } from '../views/clones.js';
import { migrationRoute, migrationRow, migrationSheet } from '../views/migrations.js';
import { found, type Reads } from './read.js';

export const MOVING_READS: Reads<'clones' | 'migrations' | 'migration' | 'migrationRoute'> = {
  clones: (fleet) => lineages(fleet),

  migrations(fleet, query, { now }) {
    const rows = [...fleet.all('migration')].filter(
      (row) => !query.state || row.state === query.state,
    );
    const ids = sortedIds(rows, (row) => row.plannedAt, 'down');
    return windowOf(fleet, ids, query, (id) => migrationRow(fleet, id, now));
  },

  migration: (fleet, { id }, { now }) =>
    migrationSheet(fleet, found(fleet, 'migration', id).id, now),

  /** What must be so before it, and how long it takes. */
  migrationRoute: (fleet, query) => migrationRoute(fleet, query),
};
