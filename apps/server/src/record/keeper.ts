/**
 * Holds the fleet of this process and keeps it at the last committed revision: entries are applied in order and exactly
 * once, whether this process wrote them or another one did.
 */
import { Fleet, upcast, type LogEntry } from '@insel/core';
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { CONFIG, type Config } from '../config.js';
import { loadFleet, RECORD_TYPES } from './load.js';
import { entryOf, LOG_COLUMNS } from './log-rows.js';

const POLL_MS = 250;
type Listener = (entries: LogEntry[]) => void;

@Injectable()
export class FleetKeeper implements OnApplicationShutdown {
  private held: Fleet | undefined;
  private readonly pool: pg.Pool;
  private readonly listeners = new Set<Listener>();
  private timer: NodeJS.Timeout | undefined;
  private failure: Error | undefined;
  private loadedInMs = 0;

  constructor(@Inject(CONFIG) private readonly config: Config) {
    this.pool = new pg.Pool({ connectionString: config.databaseUrl, max: 2, types: RECORD_TYPES });
    this.pool.on('error', () => undefined);
  }

  /** Reads the record; until then the state is "loading". */
  async start(): Promise<void> {
    const began = performance.now();
    try {
      this.held = await loadFleet(this.config.databaseUrl);
    } catch (error) {
      this.failure = error as Error;
      throw error;
    }
    this.loadedInMs = Math.round(performance.now() - began);
    this.schedule();
  }

  state(): { state: 'loading' | 'ready' | 'failed'; revision: number; loadedInMs: number } {
    const state = this.failure ? 'failed' : this.held ? 'ready' : 'loading';
    return { state, revision: this.held?.revision ?? 0, loadedInMs: this.loadedInMs };
  }

  /** @throws Error while the record is being read */
  get fleet(): Fleet {
    if (!this.held) throw new StillLoading();
    return this.held;
  }

  /** Calls back after entries were applied. Returns the way to stop. */
  follow(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Applies committed entries that are next in line; earlier ones are known already, later ones wait for the poll. */
  apply(entries: readonly LogEntry[]): void {
    const fresh: LogEntry[] = [];
    for (const entry of entries) {
      if (entry.revision !== this.fleet.revision + 1) continue;
      this.fleet.apply(upcast(entry), entry.revision);
      fresh.push(entry);
    }
    if (fresh.length) for (const listener of this.listeners) listener(fresh);
  }

  /** Waits until the fleet holds that revision. Gives false after the time limit. */
  async reached(revision: number, limitMs = 5000): Promise<boolean> {
    const until = Date.now() + limitMs;
    while (this.fleet.revision < revision) {
      if (Date.now() > until) return false;
      await this.catchUp();
      if (this.fleet.revision < revision) await new Promise((resolve) => setTimeout(resolve, 20));
    }
    return true;
  }

  async catchUp(): Promise<void> {
    const { rows } = await this.pool.query<Record<string, unknown>>(
      `select ${LOG_COLUMNS} from log where revision > $1 order by revision limit 1000`,
      [this.fleet.revision],
    );
    if (rows.length) this.apply(rows.map(entryOf));
  }

  private schedule(): void {
    this.timer = setTimeout(() => {
      this.catchUp()
        .catch(() => undefined)
        .finally(() => this.timer && this.schedule());
    }, POLL_MS);
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    await this.pool.end();
  }
}

export class StillLoading extends Error {
  constructor() {
    super('The record is still being read.');
  }
}
