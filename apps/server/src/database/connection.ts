/** How this process talks to the database. */
import pg from 'pg';

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

/** Connections that the mapper holds at most, and how long one is waited for. */
export const POOL = { min: 0, max: 10, acquireTimeoutMillis: LIMITS.connectMs } as const;

/** Whether it answers at all, asked once and not for long. @throws the driver's error */
export async function askOnce(databaseUrl: string): Promise<void> {
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
