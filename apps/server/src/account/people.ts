/** People and what they may do: outside the record, in its log only by id. */
import type { Account, Person } from '@insel/contract';
import type { Role } from '@insel/core';
import { UniqueConstraintViolationException } from '@mikro-orm/core';
import { MikroORM, type EntityManager } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { v7 } from 'uuid';
import {
  ApiTokenEntity,
  PersonEntity,
  SessionEntity,
  type PersonRow,
} from '../database/entities.js';
import { Notices } from '../database/notices.js';
import { notFound, ProblemException } from '../problem-exception.js';
import { note, type Doer } from './account-log.js';
import { hashPassword, tokenHash, verifyPassword } from './passwords.js';
import { SessionEndings } from './session-endings.js';

export interface PersonEdit {
  role?: Role;
  active?: boolean;
  password?: string;
}

@Injectable()
export class People {
  constructor(
    private readonly orm: MikroORM,
    private readonly endings: SessionEndings,
    private readonly notices: Notices,
  ) {}

  async anyAdministrator(): Promise<boolean> {
    return (await this.orm.em.fork().count(PersonEntity, LIVING)) > 0;
  }

  async all(): Promise<Person[]> {
    const rows = await this.orm.em.fork().find(PersonEntity, {}, { orderBy: { name: 'asc' } });
    return rows.map((row) => ({
      ...accountOf(row),
      active: row.active,
      createdAt: row.createdAt.toISOString(),
    }));
  }

  async add(name: string, role: Role, password: string, by: Doer): Promise<string> {
    const passwordHash = await hashPassword(password);
    const person = { id: v7(), name, role, passwordHash, active: true, createdAt: new Date() };
    try {
      await this.orm.em.fork().transactional(async (em) => {
        em.create(PersonEntity, person);
        await em.flush();
        await note(em, by, person, `added as ${role}`);
      });
    } catch (error) {
      if (!(error instanceof UniqueConstraintViolationException)) throw error;
      throw new ProblemException(422, {
        code: 'name-taken',
        field: 'name',
        sentence: `There is a person named ${name} already.`,
      });
    }
    return person.id;
  }

  /** A new password, or being switched off, ends what this person has open; tokens of somebody switched off are gone for good. */
  async edit(id: string, wanted: PersonEdit, by: Doer): Promise<void> {
    const passwordHash = wanted.password && (await hashPassword(wanted.password));
    await this.orm.em.fork().transactional(async (em) => {
      await lockAdministrators(em);
      const person = await em.findOne(PersonEntity, { id });
      if (!person) throw notFound('person');
      const stays =
        (wanted.role ?? person.role) === 'administrator' && (wanted.active ?? person.active);
      if (!stays && (await em.count(PersonEntity, { ...LIVING, id: { $ne: id } })) === 0) {
        throw new ProblemException(409, {
          code: 'last-administrator',
          sentence: 'This is the last administrator.',
          remedy: 'Make somebody else administrator first.',
        });
      }
      const changes: string[] = [];
      if (wanted.role && wanted.role !== person.role)
        changes.push(`${person.role} became ${wanted.role}`);
      if (wanted.active !== undefined && wanted.active !== person.active)
        changes.push(
          wanted.active ? 'may sign in again' : 'switched off; sessions and tokens ended',
        );
      if (passwordHash) changes.push('given a new password; sessions ended');
      Object.assign(person, {
        ...(wanted.role ? { role: wanted.role } : {}),
        ...(wanted.active === undefined ? {} : { active: wanted.active }),
        ...(passwordHash ? { passwordHash } : {}),
      });
      await em.flush();
      if (wanted.active === false || passwordHash)
        await em.nativeDelete(SessionEntity, { personId: id });
      if (wanted.active === false) await revokeAll(em, id);
      for (const what of changes) await note(em, by, person, what);
    });
    this.notices.tellHere('account', id);
    if (wanted.active === false || passwordHash) this.endings.tell({ personId: id });
  }

  /** One's own: all other sessions end, tokens by choice. */
  async changePassword(
    own: Account,
    { old, password, tokens }: { old: string; password: string; tokens: boolean },
    sessionToken: string,
  ): Promise<void> {
    const held = await this.orm.em.fork().findOneOrFail(PersonEntity, { id: own.id });
    if (!(await verifyPassword(held.passwordHash, old)))
      throw new ProblemException(422, {
        code: 'wrong-password',
        field: 'old',
        sentence: 'This is not your password.',
      });
    const passwordHash = await hashPassword(password);
    await this.orm.em.fork().transactional(async (em) => {
      await em.nativeUpdate(PersonEntity, { id: own.id }, { passwordHash });
      await em.nativeDelete(SessionEntity, {
        personId: own.id,
        tokenHash: { $ne: tokenHash(sessionToken) },
      });
      if (tokens) await revokeAll(em, own.id);
      await note(
        em,
        own,
        own,
        `changed the password; other sessions ended${tokens ? ', and all tokens' : ''}`,
      );
    });
    this.notices.tellHere('account', own.id);
    this.endings.tell({ personId: own.id, but: sessionToken });
  }
}

const LIVING = { role: 'administrator', active: true } as const;

/** Two who demote each other at the same moment take turns. */
async function lockAdministrators(em: EntityManager): Promise<void> {
  await em
    .getConnection()
    .execute(
      `select id from person where role = 'administrator' order by id for update`,
      [],
      'all',
      em.getTransactionContext(),
    );
}

const revokeAll = (em: EntityManager, personId: string) =>
  em.nativeUpdate(ApiTokenEntity, { personId, revokedAt: null }, { revokedAt: new Date() });

export const accountOf = ({ id, name, role }: PersonRow): Account => ({ id, name, role });
