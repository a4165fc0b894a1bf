/** Brings the schema of a database up to this version. Usage: node migrate.js, with INSEL_OWNER_URL set. */
import { openMigratingOrm } from '../database/migrating-orm.js';
import { endOnUncaught } from '../logging/redacting-logger.js';
import { StartProblem } from '../start-problem.js';
import { endWith } from '../why-not-started.js';

endOnUncaught();
const databaseUrl = process.env.INSEL_OWNER_URL;
try {
  if (!databaseUrl)
    throw new StartProblem('INSEL_OWNER_URL is not set.', 'Start Insel with "npm start".');
  const orm = await openMigratingOrm(databaseUrl);
  try {
    const migrator = orm.getMigrator();
    const known = new Set(
      [...(await migrator.getPendingMigrations()), ...(await migrator.getExecutedMigrations())].map(
        ({ name }) => name,
      ),
    );
    const ours = (orm.config.get('migrations').migrationsList ?? []) as { name: string }[];
    const [unknown] = [...known].filter((name) => !ours.some((one) => one.name === name));
    if (unknown)
      throw new StartProblem(
        `The database was brought to a newer version: it has ${unknown}, which this one does not know.`,
        'Start the version that wrote it, or put a backup of this one back.',
      );
    await migrator.up();
  } finally {
    await orm.close(true);
  }
} catch (error) {
  endWith(error, { databaseUrl }, (text) => console.error(text));
}
