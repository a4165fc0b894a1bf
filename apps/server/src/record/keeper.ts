/**
 * Holds the fleet of this process and keeps it at the last committed revision: entries are applied in order and exactly
 * once, whether this process wrote them or another one did. Where an older state was put back under it, it reads anew.
 */
import { Fleet, upcast, type LogEntry } from '@insel/core';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { CONFIG, type Config } from '../config.js';
import { CONNECTION } from '../database/connection.js';
import { Notices } from '../database/notices.js';
import { DatabaseWatch } from '../database/watch.js';
import { ProblemException } from '../problem-exception.js';
import { loadFleet, RECORD_TYPES, type Loaded } from './load.js';
import { entryOf, LOG_COLUMNS } from './log-rows.js';
import { miscountedRows } from './row-counts.js';

const POLL_MS = 250;
/** A write that comes while the database is away waits so long to hear that it is back. */
const LOOK_AGAIN_MS = 400;
/** An own entry is heard of about when its commit is answered. */
const OWN_MS = 5;
type Listener = (entries: LogEntry[]) => void;

@Injectable()
export class FleetKeeper implements OnApplicationShutdown {
  private held: Loaded | undefined;
  private readonly pool: pg.Pool;
  private readonly listeners = new Set<Listener>();
  private readonly rereadListeners = new Set<() => void>();
  private timer: NodeJS.Timeout | undefined;
  private polling = false;
  private looking: NodeJS.Timeout | undefined;
  private rereading: Promise<void> | undefined;
  private failure: Error | undefined;
  private loadedInMs = 0;
  private sayLoaded = (): void => undefined;
  /** That the record has been read once. */
  readonly loaded = new Promise<void>((resolve) => (this.sayLoaded = resolve));
  private readonly logger = new Logger('keeper');

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    readonly database: DatabaseWatch,
    private readonly notices: Notices,
  ) {
    this.pool = new pg.Pool({
      ...CONNECTION,
      connectionString: config.databaseUrl,
      max: 2,
      types: RECORD_TYPES,
    });
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
    if (this.held.fault) this.logger.error(`${this.held.fault} It can only be read.`);
    this.sayLoaded();
    this.schedule();
    this.notices.on('entry', (revision) => this.heardOf(Number(revision)));
    this.looking = setInterval(() => this.database.look(), POLL_MS);
  }

  /** Compares the number of rows with what the log has made; for after the start, since it takes as long as the log is. */
  async countRows(): Promise<void> {
    const { held } = this;
    if (!held || held.fault) return;
    const client = await this.pool.connect();
    client.on('error', () => undefined);
    try {
      await client.query('begin isolation level repeatable read read only');
      const fault = await miscountedRows(async (text) => {
        const { rows } = await client.query<Record<string, unknown>>(text);
        return rows;
      });
      await client.query('commit');
      if (!fault) return;
      this.held = { ...this.held!, fault };
      this.logger.error(`${fault} It can only be read.`);
    } catch (error) {
      await client.query('rollback').catch(() => undefined);
      throw error;
    } finally {
      client.release();
    }
  }

  state(): {
    state: 'loading' | 'ready' | 'reading only' | 'failed';
    revision: number;
    loadedInMs: number;
    fault: string | null;
  } {
    const { fleet, fault = null } = this.held ?? {};
    const state = this.failure ? 'failed' : !fleet ? 'loading' : fault ? 'reading only' : 'ready';
    return { state, revision: fleet?.revision ?? 0, loadedInMs: this.loadedInMs, fault };
  }

  /** @throws Error while the record is being read */
  get fleet(): Fleet {
    if (!this.held) throw new StillLoading();
    return this.held.fleet;
  }

  /** @throws ProblemException 503 where the record is not whole */
  mayBeWritten(): void {
    const { fault } = this.state();
    if (fault)
      throw new ProblemException(503, {
        code: 'reading-only',
        sentence: `Nothing can be recorded: ${fault}`,
        remedy: 'Run npm run check-record; put a backup back with npm run restore.',
      });
  }

  /** Asks once more whether the database is back, where it was away a moment ago. */
  async lookAgain(): Promise<void> {
    if (!this.database.away) return;
    const answered = this.database.ask(() => this.catchUp()).catch(() => undefined);
    await Promise.race([answered, new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS))]);
  }

  /** Calls back after entries were applied. Returns the way to stop. */
  follow(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Calls back after the whole record was read anew. Returns the way to stop. */
  onReread(listener: () => void): () => void {
    this.rereadListeners.add(listener);
    return () => this.rereadListeners.delete(listener);
  }

  /** Applies committed entries that are next in line; earlier ones are known already, later ones wait for the poll. */
  apply(entries: readonly LogEntry[]): void {
    const fresh: LogEntry[] = [];
    for (const entry of entries) {
      if (entry.revision !== this.fleet.revision + 1) continue;
      this.fleet.apply(upcast(entry), entry.revision);
      this.held!.lastAt = entry.at;
      fresh.push(entry);
    }
    if (fresh.length) for (const listener of this.listeners) listener(fresh);
  }

  /**
   * Waits until the fleet holds that revision, or the database itself does not: then it was put back to an older state.
   * Gives false where neither could be found out within the time limit.
   */
  async reached(revision: number, limitMs = 5000): Promise<boolean> {
    const until = Date.now() + limitMs;
    while (this.fleet.revision < revision) {
      if (Date.now() > until) return false;
      if ((await this.database.whileThere(() => this.catchUp())) < revision) return true;
      if (this.fleet.revision < revision) await new Promise((resolve) => setTimeout(resolve, 20));
    }
    return true;
  }

  /** Entries after a revision, up to the one at which this fleet is. */
  async entriesSince(revision: number): Promise<LogEntry[]> {
    if (revision >= this.fleet.revision) return [];
    const { rows } = await this.pool.query<Record<string, unknown>>(
      `select ${LOG_COLUMNS} from log where revision > $1 and revision <= $2 order by revision`,
      [revision, this.fleet.revision],
    );
    return rows.map(entryOf);
  }

  /** Gives the revision at which the database is. */
  async catchUp(): Promise<number> {
    const { revision: mine } = this.fleet;
    const { rows: heads } = await this.pool.query<{ revision: number; at: string | null }>(
      'select coalesce((select revision from revision), (select max(revision) from log), 0) as revision, (select at from log where revision = $1) as at',
      [mine],
    );
    const { revision, at } = heads[0]!;
    const moved = mine !== this.fleet.revision || this.held!.fault !== null;
    if (!moved && this.isOther(revision, at)) await this.readAnew();
    else if (revision > this.fleet.revision) {
      const { rows } = await this.pool.query<Record<string, unknown>>(
        `select ${LOG_COLUMNS} from log where revision > $1 order by revision limit 1000`,
        [this.fleet.revision],
      );
      if (rows.length) this.apply(rows.map(entryOf));
    }
    return revision;
  }

  /** Whether the database holds another past than the one this fleet comes from. @param at time of the entry at our revision */
  isOther(revision: number, at: string | null): boolean {
    const { fleet, lastAt } = this.held!;
    return revision < fleet.revision || (fleet.revision > 0 && at !== null && at !== lastAt);
  }

  /** Reads the whole record anew: an older state was put back. */
  readAnew(): Promise<void> {
    this.rereading ??= (async () => {
      const before = this.fleet.revision;
      this.held = await loadFleet(this.config.databaseUrl);
      this.logger.warn(
        `The record was put back: from revision ${before} to ${this.fleet.revision}. It was read anew.`,
      );
      for (const listener of this.rereadListeners) listener();
    })().finally(() => (this.rereading = undefined));
    return this.rereading;
  }

  private schedule(inMs = POLL_MS): void {
    this.timer = setTimeout(() => {
      this.polling = true;
      this.database
        .ask(() => this.catchUp())
        .catch(() => undefined)
        .finally(() => {
          this.polling = false;
          if (this.timer) this.schedule();
        });
    }, inMs);
  }

  /** Another server has recorded an entry: the next look is now. Our own is applied by who wrote it. */
  private heardOf(revision: number): void {
    setTimeout(() => {
      if (!this.timer || this.polling || !this.held || revision <= this.held.fleet.revision) return;
      clearTimeout(this.timer);
      this.schedule(0);
    }, OWN_MS);
  }

  async onApplicationShutdown(): Promise<void> {
    clearTimeout(this.timer);
    clearInterval(this.looking);
    this.timer = undefined;
    await this.pool.end();
  }
}

export class StillLoading extends Error {
  constructor() {
    super('The record is still being read.');
  }
}
