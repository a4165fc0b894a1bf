/** Tokens by which scripts act as their owner: shown once, stored hashed, listed and revoked by owner and administrator. */
import type { Account, ApiToken } from '@insel/contract';
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { v7 } from 'uuid';
import { ApiTokenEntity, PersonEntity } from '../database/entities.js';
import { Notices } from '../database/notices.js';
import { notFound } from '../problem-exception.js';
import { note } from './account-log.js';
import { newToken, tokenHash } from './passwords.js';

@Injectable()
export class ApiTokens {
  constructor(
    private readonly orm: MikroORM,
    private readonly notices: Notices,
  ) {}

  add(owner: Account, label: string): Promise<{ id: string; token: string }> {
    const token = newToken();
    return this.orm.em.fork().transactional(async (em) => {
      const row = em.create(ApiTokenEntity, {
        id: v7(),
        tokenHash: tokenHash(token),
        personId: owner.id,
        label,
        createdAt: new Date(),
        revokedAt: null,
      });
      await em.flush();
      await note(em, owner, owner, `made the token ${label}`);
      return { id: row.id, token };
    });
  }

  /** Those in force: one's own, for an administrator everybody's. */
  async all(by: Account): Promise<ApiToken[]> {
    const em = this.orm.em.fork();
    const mine = by.role === 'administrator' ? {} : { personId: by.id };
    const rows = await em.find(
      ApiTokenEntity,
      { ...mine, revokedAt: null },
      { orderBy: { createdAt: 'asc' } },
    );
    const owners = await em.find(PersonEntity, { id: rows.map(({ personId }) => personId) });
    const nameOf = new Map(owners.map(({ id, name }) => [id, name]));
    return rows.map(({ id, label, personId, createdAt }) => ({
      id,
      label,
      owner: nameOf.get(personId) ?? '',
      mine: personId === by.id,
      createdAt: createdAt.toISOString(),
    }));
  }

  /** @throws ProblemException 404 for one that is none, or is somebody else's */
  async revoke(by: Account, id: string): Promise<void> {
    const ownerId = await this.orm.em.fork().transactional(async (em) => {
      const row = await em.findOne(ApiTokenEntity, { id });
      const mine = row?.personId === by.id || by.role === 'administrator';
      if (!row || !mine || row.revokedAt) throw notFound('token');
      row.revokedAt = new Date();
      await em.flush();
      const owner = await em.findOneOrFail(PersonEntity, { id: row.personId });
      await note(em, by, owner, `revoked the token ${row.label}`);
      return owner.id;
    });
    this.notices.tellHere('account', ownerId);
  }
}
