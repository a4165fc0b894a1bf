/**
 * Attempts to sign in: each is written down before its password is compared, under locks of its name and its source, so
 * that a hundred at once count as a hundred. After a few wrong ones the next has to wait, twice as long each time, a minute
 * at most: nobody can lock a name for everybody. A name that is tried from many places makes strangers wait, never those
 * who have signed in from where they are before.
 */
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { ProblemException } from '../problem-exception.js';

/** Wrong attempts that cost no waiting. */
const FREE = { here: 5, source: 30, name: 30 } as const;
const WINDOW_MINUTES = 15;
const MOST_WAIT_SECONDS = 60;
/** A source from which somebody has signed in is remembered for so long. */
const KNOWN_DAYS = 30;

export interface Attempt {
  id: string;
  /** This name has signed in from this source before. */
  known: boolean;
}

/** Seconds after the last attempt before which the next is not compared. @example waitAfter(5, 5) // 1 */
const waitAfter = (wrong: number, free: number): number =>
  wrong < free ? 0 : Math.min(MOST_WAIT_SECONDS, 2 ** Math.min(wrong - free, 10));

@Injectable()
export class SignInAttempts {
  constructor(private readonly orm: MikroORM) {}

  /** Whether this name has signed in from this source lately: asked without a lock. */
  async isKnown(name: string, source: string): Promise<boolean> {
    const rows = await this.execute(
      `select 1 from sign_in_attempt where name = ? and source = ? and outcome = 'right' and at > now() - interval '${KNOWN_DAYS} days' limit 1`,
      [name, source],
    );
    return rows.length > 0;
  }

  /** @throws ProblemException 429 where it has to wait */
  reserve(name: string, source: string): Promise<Attempt> {
    return this.orm.em.fork().transactional(async (em) => {
      const sql = (text: string, parameters: unknown[]): Promise<Record<string, unknown>[]> =>
        em.getConnection().execute(text, parameters, 'all', em.getTransactionContext());
      // Always the name before the source: two of them never wait for each other.
      await sql('select pg_advisory_xact_lock(1, hashtext(lower(?)))', [name]);
      await sql('select pg_advisory_xact_lock(2, hashtext(?))', [source]);
      const [row] = await sql(
        `select ${counted('here', 'name = ? and source = ?')}, ${counted('source', 'source = ?')}, ${counted('name', 'name = ?')},
           coalesce(bool_or(name = ? and source = ? and outcome = 'right'), false) as known
         from sign_in_attempt where (name = ? or source = ?) and at > now() - interval '${KNOWN_DAYS} days'`,
        [
          ...[name, source, name, source],
          ...[source, source],
          ...[name, name],
          ...[name, source],
          ...[name, source],
        ],
      );
      const known = row!.known === true;
      const wait = Math.max(
        ...(['here', 'source', 'name'] as const).map((what) =>
          what === 'name' && known
            ? 0
            : waitAfter(Number(row![what]), FREE[what]) - Number(row![`${what}_ago`]),
        ),
      );
      if (wait > 0) throw tooMany(name, Math.ceil(wait));
      const [made] = await sql(
        `insert into sign_in_attempt (name, source, at, outcome) values (?, ?, now(), 'open') returning id`,
        [name, source],
      );
      return { id: String(made!.id), known };
    });
  }

  async wrong({ id }: Attempt): Promise<void> {
    await this.execute(`update sign_in_attempt set outcome = 'wrong' where id = ?`, [id]);
  }

  /** What went wrong before is forgotten, that somebody signed in from there is kept. */
  async right({ id }: Attempt, name: string, source: string): Promise<void> {
    await this.execute(
      `with kept as (update sign_in_attempt set outcome = 'right' where id = ?)
       delete from sign_in_attempt where name = ? and source = ? and id <> ?`,
      [id, name, source, id],
    );
  }

  /** From the console: whoever was made to wait waits no longer. */
  async forget(name: string): Promise<void> {
    await this.execute(`delete from sign_in_attempt where name = ? and outcome <> 'right'`, [name]);
  }

  async clear(): Promise<void> {
    await this.execute(
      `delete from sign_in_attempt where at < now() - interval '${KNOWN_DAYS} days' or (outcome <> 'right' and at < now() - interval '1 day')`,
      [],
    );
  }

  private execute(text: string, parameters: unknown[]): Promise<unknown[]> {
    return this.orm.em.getConnection().execute(text, parameters, 'all');
  }
}

/** How many did not sign in lately, and how many seconds ago the last of them was. */
const counted = (as: string, which: string): string => {
  const lately = `(${which}) and outcome <> 'right' and at > now() - interval '${WINDOW_MINUTES} minutes'`;
  return `count(*) filter (where ${lately})::int as ${as},
    coalesce(extract(epoch from clock_timestamp() - max(at) filter (where ${lately})), 1e9)::float as ${as}_ago`;
};

const tooMany = (name: string, seconds: number): ProblemException =>
  new ProblemException(429, {
    code: 'too-many-attempts',
    sentence: `Too many failed attempts for ${name}, or from where you are.`,
    remedy: `Wait ${seconds} s. An administrator at the console is let in by: npm run let-in -- NAME`,
    retryAfterSeconds: seconds,
  });
