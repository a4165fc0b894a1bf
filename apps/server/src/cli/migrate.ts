/** Brings the schema of a database up to this version. Usage: node migrate.js, with INSEL_OWNER_URL set. */
import { openOrm } from '../database/orm.js';
import { endOnUncaught } from '../logging/redacting-logger.js';

endOnUncaught();
const orm = await openOrm(process.env.INSEL_OWNER_URL!);
try {
  await orm.getMigrator().up();
} finally {
  await orm.close(true);
}
