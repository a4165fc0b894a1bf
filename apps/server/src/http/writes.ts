/** From a request to the write path and back: who asks, what they had read, whether they asked before. */
import { createHash } from 'node:crypto';
import { EXTRA_FIELDS, type Written } from '@insel/contract';
import type { Change, ChangeBase, Kind, StandAlone, Values } from '@insel/core';
import { Injectable } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { FleetKeeper } from '../record/keeper.js';
import { WritePath } from '../record/write-path.js';
import { ProblemException, refused } from './problem.js';

@Injectable()
export class Writes {
  constructor(
    private readonly path: WritePath,
    private readonly keeper: FleetKeeper,
  ) {}

  /** Makes a change that adds something. */
  make(
    request: SignedIn,
    change: Change,
    attachment?: { sha256: string; text: string },
  ): Promise<Written> {
    return this.commit(request, change, undefined, attachment);
  }

  /** Makes a change to a record that the client has read: needs If-Match with its ETag. */
  edit(request: SignedIn, kind: Kind, id: string, change: Change): Promise<Written> {
    const tag = /^(?:W\/)?"(\d+)"$/.exec(request.headers['if-match'] ?? '');
    if (!tag)
      throw new ProblemException(428, {
        code: 'if-match-missing',
        sentence: 'Send If-Match with the ETag of the record you read.',
      });
    return this.commit(request, change, { kind, id, revision: Number(tag[1]) });
  }

  /** Records one of a kind that stands alone: the body's fields and what the path says of it. */
  recordOne(
    request: SignedIn,
    kind: StandAlone,
    body: ChangeBase,
    more: Values = {},
  ): Promise<Written> {
    return this.make(request, {
      type: 'one.record',
      kind,
      fields: { ...fieldsIn(body), ...more },
      ...extrasOf(body),
    });
  }

  /** Alters the fields that the body has. */
  editOne(
    request: SignedIn,
    kind: StandAlone,
    id: string,
    body: ChangeBase,
    more: Values = {},
  ): Promise<Written> {
    return this.edit(request, kind, id, {
      type: 'one.edit',
      kind,
      id,
      fields: { ...fieldsIn(body), ...more },
      ...extrasOf(body),
    });
  }

  removeOne(request: SignedIn, kind: StandAlone, id: string): Promise<Written> {
    return this.make(request, { type: 'one.remove', kind, id });
  }

  private async commit(
    request: SignedIn,
    change: Change,
    expect?: { kind: Kind; id: string; revision: number },
    attachment?: { sha256: string; text: string },
  ): Promise<Written> {
    const key = request.headers['idempotency-key'];
    const result = await this.path.commit({
      change,
      actor: request.account,
      expect,
      attachment,
      idempotency: typeof key === 'string' ? { key, bodyHash: hashOf(request) } : undefined,
    });
    switch (result.kind) {
      case 'written':
        return result.written;
      case 'refused':
        throw refused(result.refusal);
      case 'forbidden':
        throw new ProblemException(403, {
          code: 'not-your-role',
          sentence: `As ${request.account.role} you may read, not alter.`,
          remedy: 'Ask an administrator for the role of planner.',
        });
      case 'key-reused':
        throw new ProblemException(422, {
          code: 'key-reused',
          sentence: 'This idempotency key was used for another request.',
        });
      case 'stale':
        throw new ProblemException(412, {
          code: 'stale',
          sentence: 'Somebody altered this record after you read it.',
          remedy: 'Look at both versions, then keep one.',
          current: this.keeper.fleet.get(expect!.kind, expect!.id) ?? null,
        });
    }
  }
}

function hashOf(request: SignedIn): string {
  return createHash('sha256')
    .update(`${request.method} ${request.path}\n${JSON.stringify(request.body ?? null)}`)
    .digest('hex');
}

/** Reason, override and time of a body. */
export function extrasOf(body: ChangeBase): ChangeBase {
  return { reason: body.reason, override: body.override, happenedAt: body.happenedAt };
}

/** The body's own fields, without those every change may carry and those left out. */
export function fieldsIn<T extends ChangeBase>(
  body: T,
  ...without: (keyof T)[]
): Omit<T, keyof ChangeBase> {
  const skip = new Set<PropertyKey>([...EXTRA_FIELDS, ...without]);
  return Object.fromEntries(
    Object.entries(body).filter(([name, value]) => !skip.has(name) && value !== undefined),
  ) as Omit<T, keyof ChangeBase>;
}
