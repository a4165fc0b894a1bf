/**
 * Whether the database is there. The keeper asks it four times a second anyway; what it hears is told here. While it is
 * away nothing waits for it: what was begun is given up with its connections, so that nothing of it is carried out later.
 */
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { safeText } from '../logging/safe-text.js';

/** A question is open for so many looks, a quarter of a second apart, before the database counts as away. */
const LOOKS = 12;

class DatabaseAway extends Error {
  constructor(readonly since: number) {
    super('The database is away.');
  }
}

@Injectable()
export class DatabaseWatch {
  /** When it last answered, in ms. */
  heardAt = Date.now();
  private goneAt: number | undefined;
  private looks = 0;
  private asking = false;
  private readonly listeners = new Set<() => void>();

  constructor(private readonly orm: MikroORM) {}

  get away(): boolean {
    return this.goneAt !== undefined;
  }

  /** Asks it, and waits for the answer however long that takes. */
  async ask<T>(question: () => Promise<T>): Promise<T> {
    this.asking = true;
    this.looks = 0;
    try {
      const answer = await question();
      this.heardAt = Date.now();
      this.goneAt = undefined;
      return answer;
    } catch (error) {
      if (isConnectionLost(error)) this.lost();
      throw error;
    } finally {
      this.asking = false;
    }
  }

  /** Called every quarter of a second. Looks are counted, not time: a busy process is no sign of a database that is away. */
  look(): void {
    if (!this.asking) return;
    this.looks += 1;
    if (this.looks >= LOOKS) this.lost();
  }

  /** Calls back each time it goes away. Gives the way to stop. */
  onAway(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** @throws DatabaseAway if it is, or goes while the work waits for it */
  async whileThere<T>(work: () => Promise<T>): Promise<T> {
    if (this.away) throw new DatabaseAway(this.heardAt);
    let stop = (): void => undefined;
    const gone = new Promise<never>((_, reject) => {
      stop = this.onAway(() => reject(new DatabaseAway(this.heardAt)));
    });
    try {
      const working = work();
      working.catch(() => undefined);
      return await Promise.race([working, gone]);
    } finally {
      stop();
    }
  }

  private lost(): void {
    if (this.away) return;
    this.goneAt = Date.now();
    for (const listener of [...this.listeners]) listener();
    this.dropConnections();
  }

  /** An open transaction ends with its connection: nothing of it is carried out when the database comes back. */
  private dropConnections(): void {
    const { pool } = this.orm.em.getConnection().getKnex().client as { pool?: Pool };
    for (const held of [...(pool?.used ?? []), ...(pool?.free ?? [])])
      held.resource?.connection?.stream?.destroy();
  }
}

interface Pool {
  used: Held[];
  free: Held[];
}
interface Held {
  resource?: { connection?: { stream?: { destroy: () => void } } };
}

const LOST =
  /^(08|57P0[123]|53300|57014|55P03|25P03)|ECONNREFUSED|ECONNRESET|ETIMEDOUT|EPIPE|ENOTFOUND/;
const SAYS_SO =
  /Connection terminated|Timeout acquiring a connection|read timeout|timeout expired|timeout exceeded when trying to connect|Client has encountered a connection error|Unable to acquire a connection/i;

/** Whether the database could not be asked, or was given up. */
export function isConnectionLost(error: unknown): boolean {
  if (error instanceof DatabaseAway) return true;
  const {
    code,
    message = '',
    errors,
  } = (error ?? {}) as {
    code?: unknown;
    message?: string;
    errors?: unknown[];
  };
  return (
    (typeof code === 'string' && LOST.test(code)) ||
    SAYS_SO.test(message) ||
    (errors ?? []).some(isConnectionLost)
  );
}

/** Where a connection leads, without its password. */
export function placeOf(databaseUrl: string): string {
  try {
    const { hostname, port, pathname } = new URL(databaseUrl);
    return `${hostname}:${port || 5432}${pathname}`;
  } catch {
    return safeText(databaseUrl);
  }
}
