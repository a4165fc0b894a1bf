/** Samples are summed up as the policy says: a while after the start, every few hours, and when the policy is altered. */
import type { SampleKeepingBody } from '@insel/contract';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { Clock } from '../clock.js';
import { CONFIG, type Config } from '../config.js';
import { CONNECTION } from '../database/connection.js';
import { Samples } from '../record/samples.js';
import { sumUp, type SummedUp } from './sum-up.js';

const FIRST_MS = 10 * 60_000;
const AGAIN_MS = 6 * 3_600_000;

@Injectable()
export class SumUpSamples implements OnApplicationShutdown {
  private readonly logger = new Logger('samples');
  private readonly timers: NodeJS.Timeout[] = [];

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly samples: Samples,
    private readonly clock: Clock,
  ) {}

  start(): void {
    const look = () => void this.now().catch((error: Error) => this.logger.warn(error.message));
    this.timers.push(setTimeout(look, FIRST_MS).unref(), setInterval(look, AGAIN_MS).unref());
  }

  async keep(
    { wholeDays, hourDays, dayDays = null }: SampleKeepingBody,
    by: string,
  ): Promise<void> {
    await this.withClient((client) =>
      client.query(
        `insert into sample_keeping (whole_days, hour_days, day_days, at, by) values ($1, $2, $3, $4, $5)
         on conflict (one) do update set whole_days = $1, hour_days = $2, day_days = $3, at = $4, by = $5`,
        [wholeDays, hourDays, dayDays, this.clock.now(), by],
      ),
    );
    await this.now();
  }

  async now(): Promise<SummedUp> {
    const keeping = await this.samples.keeping();
    return this.withClient((client) => sumUp(client, keeping, this.clock.now()));
  }

  /** A connection of its own: years of samples take longer than anybody else may wait for. */
  private async withClient<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
    const client = new pg.Client({
      ...CONNECTION,
      statement_timeout: 0,
      connectionString: this.config.databaseUrl,
    });
    client.on('error', () => undefined);
    await client.connect();
    try {
      return await work(client);
    } finally {
      await client.end();
    }
  }

  onApplicationShutdown(): void {
    for (const timer of this.timers) clearTimeout(timer);
  }
}
