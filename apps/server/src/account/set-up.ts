/**
 * One-time tokens from the console. One for nobody makes the first administrator; one for a person gives that person a new
 * password and lets them in, whatever has happened to the old one.
 */
import { MikroORM, type EntityManager } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { v7 } from 'uuid';
import { PersonEntity, SessionEntity } from '../database/entities.js';
import { ProblemException } from '../problem-exception.js';
import { CONSOLE, note } from './account-log.js';
import { hashPassword, newToken, tokenHash } from './passwords.js';

const FOR_A_PERSON_MINUTES = 30;

@Injectable()
export class SetUp {
  constructor(private readonly orm: MikroORM) {}

  /** For the first administrator; earlier unused ones lose their force. @param held one that was given out before */
  async tokenForFirst(held = ''): Promise<string> {
    const token = held || newToken();
    await this.orm.em.fork().transactional(async (em) => {
      await run(em, 'delete from set_up_token where used_at is null and person_id is null', []);
      await run(em, 'insert into set_up_token (token_hash, created_at) values (?, now())', [
        tokenHash(token),
      ]);
    });
    return token;
  }

  /** Lets somebody in from the console, as administrator where there is no other. */
  async tokenFor(name: string): Promise<{ token: string; name: string } | undefined> {
    const token = newToken();
    return this.orm.em.fork().transactional(async (em) => {
      const person = await em.findOne(PersonEntity, { name });
      if (!person) return undefined;
      await run(em, 'delete from set_up_token where used_at is null and person_id = ?', [
        person.id,
      ]);
      await run(
        em,
        `insert into set_up_token (token_hash, created_at, person_id, expires_at) values (?, now(), ?, now() + interval '${FOR_A_PERSON_MINUTES} minutes')`,
        [tokenHash(token), person.id],
      );
      await note(em, CONSOLE, person, 'let in from the console');
      return { token, name: person.name };
    });
  }

  /** Gives the name under which to sign in. The token is looked at before the password is hashed. */
  async use(token: string, name: string, password: string): Promise<string> {
    const hash = tokenHash(token);
    const [held] = await run(this.orm.em.fork(), `select 1 ${OPEN}`, [hash]);
    if (!held) throw bad();
    const passwordHash = await hashPassword(password);
    return this.orm.em.fork().transactional(async (em) => {
      const [used] = await run(
        em,
        `update set_up_token set used_at = now() where token_hash = ? and used_at is null returning person_id`,
        [hash],
      );
      if (!used) throw bad();
      const others = await em.count(PersonEntity, { role: 'administrator', active: true });
      if (used.person_id) {
        const person = await em.findOneOrFail(PersonEntity, { id: String(used.person_id) });
        Object.assign(person, { passwordHash, active: true });
        if (others === 0) person.role = 'administrator';
        await em.flush();
        await em.nativeDelete(SessionEntity, { personId: person.id });
        await note(em, CONSOLE, person, 'given a new password from the console');
        return person.name;
      }
      if (others > 0) throw bad();
      const person = { id: v7(), name, passwordHash, active: true, createdAt: new Date() };
      em.create(PersonEntity, { ...person, role: 'administrator' });
      await em.flush();
      await note(em, CONSOLE, person, 'added as the first administrator');
      return name;
    });
  }
}

const OPEN =
  'from set_up_token where token_hash = ? and used_at is null and (expires_at is null or expires_at > now())';

const run = (em: EntityManager, text: string, parameters: unknown[]) =>
  em
    .getConnection()
    .execute<Record<string, unknown>[]>(text, parameters, 'all', em.getTransactionContext());

const bad = (): ProblemException =>
  new ProblemException(403, {
    code: 'bad-set-up-token',
    sentence: 'This set-up token is not valid, or was used already.',
    remedy:
      'Restart Insel: it prints a new one while there is no administrator. For one who is locked out: npm run let-in -- NAME',
  });
