/**
 * What servers on one database tell each other at once, by NOTIFY: that an entry was recorded, that an account was altered. A
 * notice is sent in the transaction of what it tells and heard when that commits. Who is not connected hears nothing, and
 * knows it: then everything is asked again.
 */
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { CONFIG, type Config } from '../config.js';
import { CONNECTION } from './connection.js';

/** Channels: revision of an entry; id of a person. */
export const NOTICES = { entry: 'insel_entry', account: 'insel_account' } as const;
export type Notice = keyof typeof NOTICES;

const AGAIN_MS = 1000;

@Injectable()
export class Notices implements OnApplicationShutdown {
  private client: pg.Client | undefined;
  private since: number | null = null;
  private again: NodeJS.Timeout | undefined;
  private ended = false;
  private readonly listeners: Record<Notice, Set<(said: string) => void>> = {
    entry: new Set(),
    account: new Set(),
  };

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** Whether all that others did since then was heard as it was done, in ms. */
  heardSince(time: number): boolean {
    return this.since !== null && time > this.since;
  }

  on(notice: Notice, listener: (said: string) => void): void {
    this.listeners[notice].add(listener);
  }

  /** To this process alone, which need not wait until the database says it. */
  tellHere(notice: Notice, said: string): void {
    for (const listener of this.listeners[notice]) listener(said);
  }

  /** Begins to hear; goes on trying where it cannot. */
  async start(): Promise<void> {
    if (this.ended) return;
    const client = new pg.Client({ ...CONNECTION, connectionString: this.config.databaseUrl });
    this.client = client;
    const lost = () => {
      if (this.client !== client) return;
      this.since = null;
      this.client = undefined;
      client.end().catch(() => undefined);
      if (!this.ended) this.again = setTimeout(() => void this.start(), AGAIN_MS);
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ channel, payload = '' }) => {
      for (const [notice, name] of Object.entries(NOTICES))
        if (name === channel) this.tellHere(notice as Notice, payload);
    });
    try {
      await client.connect();
      for (const name of Object.values(NOTICES)) await client.query(`listen ${name}`);
      this.since = Date.now();
    } catch {
      lost();
    }
  }

  async onApplicationShutdown(): Promise<void> {
    this.ended = true;
    clearTimeout(this.again);
    await this.client?.end().catch(() => undefined);
  }
}
