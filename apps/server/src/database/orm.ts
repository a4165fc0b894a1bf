import { MikroORM, type Options } from '@mikro-orm/postgresql';
import { askOnce, CONNECTION, POOL } from './connection.js';
import { ApiTokenEntity, PersonEntity, RECORD_ENTITIES, SessionEntity } from './entities.js';

/** Opens the mapper, with the run-time role's connection. @param more what only commands want */
export async function openOrm(databaseUrl: string, more: Partial<Options> = {}): Promise<MikroORM> {
  await askOnce(databaseUrl);
  return MikroORM.init({
    clientUrl: databaseUrl,
    entities: [...RECORD_ENTITIES, PersonEntity, SessionEntity, ApiTokenEntity],
    discovery: { disableDynamicFileAccess: true },
    pool: POOL,
    driverOptions: { connection: CONNECTION },
    // It is there, or the start says so.
    ensureDatabase: false,
    allowGlobalContext: false,
    ...more,
  });
}
