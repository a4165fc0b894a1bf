/** People, sessions and tokens: outside the record, never in its log but by id. */
import type { Account, Person } from '@insel/contract';
import type { Role } from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { v7 } from 'uuid';
import {
  ApiTokenEntity,
  PersonEntity,
  SessionEntity,
  type PersonRow,
} from '../database/entities.js';
import { ProblemException } from '../http/problem-exception.js';
import { hashPassword, newToken, tokenHash, verifyPassword } from './passwords.js';

const SESSION_HOURS = 12;
const MOST_FAILURES = 5;
const FAILURE_WINDOW_MINUTES = 15;
/** Compared where there is no such person, so that a wrong name takes as long as a wrong password. */
const NOBODY = hashPassword(newToken());

@Injectable()
export class Accounts {
  constructor(private readonly orm: MikroORM) {}

  private em() {
    return this.orm.em.fork();
  }

  private sql(text: string, parameters: unknown[] = []): Promise<Record<string, unknown>[]> {
    return this.orm.em.getConnection().execute(text, parameters, 'all');
  }

  /** Gives the token of a new session. */
  async signIn(name: string, password: string): Promise<{ token: string; account: Account }> {
    const since = new Date(Date.now() - FAILURE_WINDOW_MINUTES * 60_000).toISOString();
    const [failures] = await this.sql(
      'select count(*)::int as n from sign_in_attempt where name = ? and at > ?',
      [name, since],
    );
    if (Number(failures!.n) >= MOST_FAILURES) {
      throw new ProblemException(429, {
        code: 'too-many-attempts',
        sentence: `Too many failed attempts for ${name}.`,
        remedy: `Wait ${FAILURE_WINDOW_MINUTES} minutes.`,
      });
    }
    const em = this.em();
    const person = await em.findOne(PersonEntity, { name });
    const right = await verifyPassword(person?.passwordHash ?? (await NOBODY), password);
    if (!person || !right || !person.active) {
      await this.sql('insert into sign_in_attempt (name, at) values (?, ?)', [
        name,
        new Date().toISOString(),
      ]);
      throw new ProblemException(401, {
        code: 'wrong-password',
        sentence: 'Name and password do not go together.',
        field: 'password',
      });
    }
    await this.sql('delete from sign_in_attempt where name = ?', [name]);
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
    await this.em().nativeDelete(SessionEntity, { tokenHash: tokenHash(token) });
  }

  /** Who a session cookie belongs to. */
  async bySession(token: string): Promise<Account | undefined> {
    return this.byQuery(
      'select p.id, p.name, p.role from session s join person p on p.id = s.person_id where s.token_hash = ? and s.expires_at > now() and p.active',
      token,
    );
  }

  /** Who a script's token belongs to. */
  async byApiToken(token: string): Promise<Account | undefined> {
    return this.byQuery(
      'select p.id, p.name, p.role from api_token t join person p on p.id = t.person_id where t.token_hash = ? and t.revoked_at is null and p.active',
      token,
    );
  }

  private async byQuery(text: string, token: string): Promise<Account | undefined> {
    const [row] = await this.sql(text, [tokenHash(token)]);
    return row && { id: String(row.id), name: String(row.name), role: row.role as Role };
  }

  async anyAdministrator(): Promise<boolean> {
    return (await this.em().count(PersonEntity, { role: 'administrator', active: true })) > 0;
  }

  /** One-time token for the first administrator; earlier unused ones lose their force. */
  async newSetUpToken(): Promise<string> {
    const token = newToken();
    await this.sql('delete from set_up_token where used_at is null');
    await this.sql('insert into set_up_token (token_hash, created_at) values (?, now())', [
      tokenHash(token),
    ]);
    return token;
  }

  async setUp(token: string, name: string, password: string): Promise<void> {
    const passwordHash = await hashPassword(password);
    await this.orm.em.fork().transactional(async (em) => {
      const used = await em
        .getConnection()
        .execute(
          'update set_up_token set used_at = now() where token_hash = ? and used_at is null returning token_hash',
          [tokenHash(token)],
          'all',
          em.getTransactionContext(),
        );
      if (
        used.length === 0 ||
        (await em.count(PersonEntity, { role: 'administrator', active: true })) > 0
      ) {
        throw new ProblemException(403, {
          code: 'bad-set-up-token',
          sentence: 'This set-up token is not valid, or was used already.',
          remedy: 'Restart Insel: it prints a new one while there is no administrator.',
        });
      }
      em.create(PersonEntity, {
        id: v7(),
        name,
        role: 'administrator',
        passwordHash,
        active: true,
        createdAt: new Date(),
      });
    });
  }

  async people(): Promise<Person[]> {
    const rows = await this.em().find(PersonEntity, {}, { orderBy: { name: 'asc' } });
    return rows.map((row) => ({
      ...accountOf(row),
      active: row.active,
      createdAt: row.createdAt.toISOString(),
    }));
  }

  async add(name: string, role: Role, password: string): Promise<string> {
    const em = this.em();
    if (await em.findOne(PersonEntity, { name }))
      throw new ProblemException(422, {
        code: 'name-taken',
        field: 'name',
        sentence: `There is a person named ${name} already.`,
      });
    const person = em.create(PersonEntity, {
      id: v7(),
      name,
      role,
      passwordHash: await hashPassword(password),
      active: true,
      createdAt: new Date(),
    });
    await em.flush();
    return person.id;
  }

  async edit(
    id: string,
    wanted: { role?: Role; active?: boolean; password?: string },
  ): Promise<void> {
    const em = this.em();
    const person = await em.findOne(PersonEntity, { id });
    if (!person)
      throw new ProblemException(404, { code: 'not-found', sentence: 'There is no such person.' });
    // Asked before anything is set: the mapper writes what was set when it is asked for a count.
    const others = await em.count(PersonEntity, {
      role: 'administrator',
      active: true,
      id: { $ne: id },
    });
    const staysAdministrator =
      (wanted.role ?? person.role) === 'administrator' && (wanted.active ?? person.active);
    if (others === 0 && !staysAdministrator) {
      throw new ProblemException(409, {
        code: 'last-administrator',
        sentence: 'This is the last administrator.',
        remedy: 'Make somebody else administrator first.',
      });
    }
    if (wanted.role) person.role = wanted.role;
    if (wanted.active !== undefined) person.active = wanted.active;
    if (wanted.password) person.passwordHash = await hashPassword(wanted.password);
    if (wanted.active === false || wanted.password)
      await em.nativeDelete(SessionEntity, { personId: id });
    await em.flush();
  }

  /** Gives a script's token; it is shown once and stored hashed. */
  async addToken(personId: string, label: string): Promise<{ id: string; token: string }> {
    const em = this.em();
    const token = newToken();
    const row = em.create(ApiTokenEntity, {
      id: v7(),
      tokenHash: tokenHash(token),
      personId,
      label,
      createdAt: new Date(),
      revokedAt: null,
    });
    await em.flush();
    return { id: row.id, token };
  }

  async revokeToken(personId: string, id: string): Promise<void> {
    await this.em().nativeUpdate(ApiTokenEntity, { id, personId }, { revokedAt: new Date() });
  }
}

const accountOf = ({ id, name, role }: PersonRow): Account => ({ id, name, role });
