/**
 * What was done to accounts, roles and tokens, and by whom: only ever added to, in the transaction of what it tells. Every server
 * hears of it when that commits.
 */
import type { AccountEntry } from '@insel/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { NOTICES } from '../database/notices.js';

export interface Doer {
  id: string | null;
  name: string;
}
/** At the console, where nobody is signed in. */
export const CONSOLE: Doer = { id: null, name: 'the console' };

export async function note(
  em: EntityManager,
  actor: Doer,
  about: { id: string; name: string },
  what: string,
): Promise<void> {
  await em.getConnection().execute(
    `with noted as (insert into account_log (at, actor_id, actor_name, about_id, about_name, what) values (now(), ?, ?, ?, ?, ?))
       select pg_notify('${NOTICES.account}', ?)`,
    [actor.id, actor.name, about.id, about.name, what, about.id],
    'all',
    em.getTransactionContext(),
  );
}

/** The latest, newest first. */
export async function accountEntries(em: EntityManager, take = 100): Promise<AccountEntry[]> {
  const rows = await em
    .getConnection()
    .execute<Record<string, unknown>[]>(
      `select at, actor_name, about_name, what from account_log order by id desc limit ${take}`,
      [],
      'all',
    );
  return rows.map((row) => ({
    at: new Date(row.at as string).toISOString(),
    actor: String(row.actor_name),
    about: String(row.about_name),
    what: String(row.what),
  }));
}
