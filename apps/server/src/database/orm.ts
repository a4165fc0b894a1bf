import { MikroORM } from '@mikro-orm/postgresql';
import { Migrator } from '@mikro-orm/migrations';
import pg from 'pg';
import { ApiTokenEntity, PersonEntity, RECORD_ENTITIES, SessionEntity } from './entities.js';
import { Migration0001Record } from './migrations/migration-0001-record.js';
import { Migration0002Attachment } from './migrations/migration-0002-attachment.js';
import { Migration0003Hosts } from './migrations/migration-0003-hosts.js';
import { Migration0004Networks } from './migrations/migration-0004-networks.js';
import { Migration0005Starts } from './migrations/migration-0005-starts.js';
import { Migration0006Guests } from './migrations/migration-0006-guests.js';
import { Migration0007Times } from './migrations/migration-0007-times.js';
import { Migration0008Inputs } from './migrations/migration-0008-inputs.js';
import { Migration0009Maintenance } from './migrations/migration-0009-maintenance.js';
import { Migration0010Acceptance } from './migrations/migration-0010-acceptance.js';
import { Migration0011StartsAtOnce } from './migrations/migration-0011-starts-at-once.js';
import { Migration0012Templates } from './migrations/migration-0012-templates.js';
import { Migration0013Moves } from './migrations/migration-0013-moves.js';
import { Migration0014Roles } from './migrations/migration-0014-roles.js';
import { Migration0015Accounts } from './migrations/migration-0015-accounts.js';
import { Migration0016Trunks } from './migrations/migration-0016-trunks.js';
import { Migration0017Plans } from './migrations/migration-0017-plans.js';
import { Migration0018HabitsAndApproval } from './migrations/migration-0018-habits-and-approval.js';
import { Migration0019Computers } from './migrations/migration-0019-computers.js';
import { Migration0020WorkWindows } from './migrations/migration-0020-work-windows.js';
import { Migration0021ForwardedPorts } from './migrations/migration-0021-forwarded-ports.js';
import { Migration0022PowerFeeds } from './migrations/migration-0022-power-feeds.js';

const MIGRATIONS = [
  { name: 'migration-0001-record', class: Migration0001Record },
  { name: 'migration-0002-attachment', class: Migration0002Attachment },
  { name: 'migration-0003-hosts', class: Migration0003Hosts },
  { name: 'migration-0004-networks', class: Migration0004Networks },
  { name: 'migration-0005-starts', class: Migration0005Starts },
  { name: 'migration-0006-guests', class: Migration0006Guests },
  { name: 'migration-0007-times', class: Migration0007Times },
  { name: 'migration-0008-inputs', class: Migration0008Inputs },
  { name: 'migration-0009-maintenance', class: Migration0009Maintenance },
  { name: 'migration-0010-acceptance', class: Migration0010Acceptance },
  { name: 'migration-0011-starts-at-once', class: Migration0011StartsAtOnce },
  { name: 'migration-0012-templates', class: Migration0012Templates },
  { name: 'migration-0013-moves', class: Migration0013Moves },
  { name: 'migration-0014-roles', class: Migration0014Roles },
  { name: 'migration-0015-accounts', class: Migration0015Accounts },
  { name: 'migration-0016-trunks', class: Migration0016Trunks },
  { name: 'migration-0017-plans', class: Migration0017Plans },
  { name: 'migration-0018-habits-and-approval', class: Migration0018HabitsAndApproval },
  { name: 'migration-0019-computers', class: Migration0019Computers },
  { name: 'migration-0020-work-windows', class: Migration0020WorkWindows },
  { name: 'migration-0021-forwarded-ports', class: Migration0021ForwardedPorts },
  { name: 'migration-0022-power-feeds', class: Migration0022PowerFeeds },
];

/** Nobody waits longer than this for the database, and it does not work longer than this for somebody who has gone. */
const LIMITS = {
  connectMs: 4000,
  statementMs: 60_000,
  lockMs: 10_000,
  idleInTransactionMs: 30_000,
};

/** Settings of every connection of this process. */
export const CONNECTION = {
  connectionTimeoutMillis: LIMITS.connectMs,
  statement_timeout: LIMITS.statementMs,
  lock_timeout: LIMITS.lockMs,
  idle_in_transaction_session_timeout: LIMITS.idleInTransactionMs,
  keepAlive: true,
} as const;

/** Opens the mapper; migrations run with the owner's connection, everything else with the run-time role's. */
export async function openOrm(databaseUrl: string): Promise<MikroORM> {
  await askOnce(databaseUrl);
  return MikroORM.init({
    clientUrl: databaseUrl,
    entities: [...RECORD_ENTITIES, PersonEntity, SessionEntity, ApiTokenEntity],
    extensions: [Migrator],
    discovery: { disableDynamicFileAccess: true },
    migrations: { migrationsList: MIGRATIONS, snapshot: false, tableName: 'schema_migration' },
    pool: { min: 0, max: 10, acquireTimeoutMillis: LIMITS.connectMs },
    driverOptions: { connection: CONNECTION },
    // It is there, or the start says so.
    ensureDatabase: false,
    allowGlobalContext: false,
  });
}

/** Whether it answers at all, asked once and not for long. @throws the driver's error */
async function askOnce(databaseUrl: string): Promise<void> {
  const client = new pg.Client({
    connectionString: databaseUrl,
    connectionTimeoutMillis: LIMITS.connectMs,
    query_timeout: LIMITS.connectMs,
  });
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.query('select 1');
  } finally {
    await client.end().catch(() => undefined);
  }
}
