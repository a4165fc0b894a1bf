/** Who is signed in: by a session's cookie or by a script's token. */
import type { Account } from '@insel/contract';
import type { Role } from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { PersonEntity, SessionEntity } from '../database/entities.js';
import { NOTICES, Notices } from '../database/notices.js';
import { DatabaseWatch } from '../database/watch.js';
import { ProblemException } from '../problem-exception.js';
import { accountOf } from './people.js';
import { amongStrangers, hashPassword, newToken, tokenHash, verifyPassword } from './passwords.js';
import { SessionEndings } from './session-endings.js';
import { SignInAttempts } from './sign-in-attempts.js';

const SESSION_HOURS = 12;
/** Who was asked for so long ago is known still, unless something was done to the account since. */
const FRESH_MS = 5000;
/** While the database is away, who was known so long ago may go on reading. */
const KNOWN_MS = 15 * 60_000;
/** Accounts that are remembered for that. */
const MOST_KNOWN = 5000;
/** Compared where there is no such person, so that a wrong name takes as long as a wrong password. */
const NOBODY = hashPassword(newToken());

@Injectable()
export class Sessions {
  /** With the time at which they were asked for, in ms. */
  private readonly known = new Map<string, { account: Account; at: number }>();
  /** How often somebody was forgotten: what was asked before that is not remembered after it. */
  private forgotten = 0;

  constructor(
    private readonly orm: MikroORM,
    private readonly attempts: SignInAttempts,
    private readonly database: DatabaseWatch,
    private readonly endings: SessionEndings,
    private readonly notices: Notices,
  ) {
    // Whoever was switched off, has another role or password, has signed out elsewhere, or has a token less.
    notices.on('account', (personId) => this.forget(personId));
  }

  private forget(personId: string): void {
    this.forgotten += 1;
    for (const [hash, { account }] of this.known)
      if (account.id === personId) this.known.delete(hash);
  }

  /** Gives the token of a new session. */
  async signIn(
    name: string,
    password: string,
    source: string,
  ): Promise<{ token: string; account: Account }> {
    const compare = () => this.compare(name, password, source);
    return (await this.attempts.isKnown(name, source)) ? compare() : amongStrangers(compare);
  }

  private async compare(
    name: string,
    password: string,
    source: string,
  ): Promise<{ token: string; account: Account }> {
    const attempt = await this.attempts.reserve(name, source);
    const em = this.orm.em.fork();
    const person = await em.findOne(PersonEntity, { name });
    const stored = person?.passwordHash ?? (await NOBODY);
    const right = await verifyPassword(stored, password, attempt.known);
    if (!person || !right || !person.active) {
      await this.attempts.wrong(attempt);
      throw new ProblemException(401, {
        code: 'wrong-password',
        sentence: 'Name and password do not go together.',
        field: 'password',
      });
    }
    await this.attempts.right(attempt, name, source);
    const token = newToken();
    em.create(SessionEntity, {
      tokenHash: tokenHash(token),
      personId: person.id,
      createdAt: new Date(),
      expiresAt: new Date(Date.now() + SESSION_HOURS * 3_600_000),
    });
    await em.flush();
    return { token, account: accountOf(person) };
  }

  async signOut(token: string): Promise<void> {
    const hash = tokenHash(token);
    this.endings.tell({ token });
    const rows = await this.orm.em.getConnection().execute<{ person_id: string }[]>(
      `with gone as (delete from session where token_hash = ? returning person_id)
         select person_id, pg_notify('${NOTICES.account}', person_id::text) from gone`,
      [hash],
      'all',
    );
    this.known.delete(hash);
    for (const row of rows) this.forget(row.person_id);
  }

  /** Who a session cookie belongs to. */
  bySession(token: string): Promise<Account | undefined> {
    return this.byQuery(
      'select p.id, p.name, p.role from session s join person p on p.id = s.person_id where s.token_hash = ? and s.expires_at > now() and p.active',
      token,
    );
  }

  /** Who a script's token belongs to. */
  byApiToken(token: string): Promise<Account | undefined> {
    return this.byQuery(
      'select p.id, p.name, p.role from api_token t join person p on p.id = t.person_id where t.token_hash = ? and t.revoked_at is null and p.active',
      token,
    );
  }

  /** Sessions that have ended, answers that nobody asks for any more. */
  async clear(): Promise<void> {
    const connection = this.orm.em.getConnection();
    await connection.execute('delete from session where expires_at < now()', [], 'all');
    await connection.execute(
      `delete from idempotency where at < now() - interval '7 days'`,
      [],
      'all',
    );
  }

  /** @throws ProblemException 503 while the database is away and it was not known a while ago */
  private async byQuery(text: string, token: string): Promise<Account | undefined> {
    const hash = tokenHash(token);
    const held = this.known.get(hash);
    const now = Date.now();
    if (held && now - held.at < FRESH_MS && this.notices.heardSince(held.at)) return held.account;
    const { forgotten } = this;
    try {
      const [row] = await this.database.whileThere(() =>
        this.orm.em.getConnection().execute<Record<string, unknown>[]>(text, [hash], 'all'),
      );
      if (!row) {
        this.known.delete(hash);
        return undefined;
      }
      const account = { id: String(row.id), name: String(row.name), role: row.role as Role };
      if (forgotten === this.forgotten) this.remember(hash, account, now);
      return account;
    } catch (error) {
      // Asked again: somebody may have been forgotten meanwhile.
      const kept = this.known.get(hash);
      if (this.database.away && kept && Date.now() - kept.at < KNOWN_MS) return kept.account;
      throw error;
    }
  }

  private remember(hash: string, account: Account, at: number): void {
    this.known.delete(hash);
    this.known.set(hash, { account, at });
    if (this.known.size > MOST_KNOWN) this.known.delete(this.known.keys().next().value!);
  }
}
