/** Measured use of guests and pools is taken in from CSV, with progress, and can be stopped and taken out again. */
import { SampleKeepingBody, type ImportProgress } from '@insel/contract';
import { createReadStream } from 'node:fs';
import { MikroORM } from '@mikro-orm/postgresql';
import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Module,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
  Req,
  type OnApplicationShutdown,
} from '@nestjs/common';
import pg from 'pg';
import { AdministratorOnly, type SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { CONFIG, type Config } from '../config.js';
import { CONNECTION } from '../database/connection.js';
import { notFound, ProblemException } from '../problem-exception.js';
import { FleetKeeper } from '../record/keeper.js';
import { importSamples } from './import-samples.js';
import { SumUpSamples } from './sum-up-samples.js';
import { received } from './receive.js';

/** Imports that write at the same time; others wait so long for their turn. */
const CONNECTIONS = 3;
const WAIT_MS = 20_000;
/** Imports whose progress is still told. */
const REMEMBERED = 20;

@Controller('api')
class MeasureController implements OnApplicationShutdown {
  private readonly imports = new Map<string, { progress: ImportProgress; cancelled: boolean }>();

  /** Of their own: however many files come in, everybody else still gets a connection. */
  private readonly pool: pg.Pool;

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly orm: MikroORM,
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly sums: SumUpSamples,
  ) {
    this.pool = new pg.Pool({
      ...CONNECTION,
      statement_timeout: 0,
      connectionString: config.databaseUrl,
      max: CONNECTIONS,
      connectionTimeoutMillis: WAIT_MS,
    });
    this.pool.on('error', () => undefined);
  }

  onApplicationShutdown(): Promise<void> {
    return this.pool.end();
  }

  /** The body is the file itself, read as it arrives; its progress is asked for under the same id. */
  @Post('samples/imports/:id')
  async import(
    @Req() request: SignedIn,
    @Param('id', ParseUUIDPipe) id: string,
    @Query('source') source = '',
  ): Promise<ImportProgress> {
    if (!/^text\/(csv|plain)/.test(request.headers['content-type'] ?? ''))
      throw new ProblemException(422, { code: 'not-csv', sentence: 'Send the file as text/csv.' });
    if (this.imports.has(id) || (await this.isTaken(id)))
      throw new ProblemException(409, {
        code: 'import-begun',
        sentence: 'An import under this id has begun already.',
      });
    const progress: ImportProgress = {
      id,
      state: 'reading',
      lines: 0,
      bytes: 0,
      added: 0,
      faults: [],
      faultsInAll: 0,
      firstAt: null,
      lastAt: null,
    };
    const held = { progress, cancelled: false };
    this.imports.set(id, held);
    if (this.imports.size > REMEMBERED) this.imports.delete(this.imports.keys().next().value!);
    try {
      await received(
        request,
        (bytes) => {
          progress.bytes += bytes;
          return !held.cancelled;
        },
        (file) =>
          importSamples(
            this.pool,
            this.keeper.fleet,
            createReadStream(file),
            {
              id,
              source: source.slice(0, 200),
              by: request.account.name,
              now: this.clock.now(),
              cancelled: () => held.cancelled,
            },
            progress,
          ),
      );
    } catch (error) {
      if (progress.state === 'reading') Object.assign(progress, { state: 'cancelled', added: 0 });
      throw error;
    }
    return progress;
  }

  private async isTaken(id: string): Promise<boolean> {
    const rows = await this.orm.em
      .getConnection()
      .execute<unknown[]>('select 1 from sample_import where id = ?', [id], 'all');
    return rows.length > 0;
  }

  @Get('samples/imports/:id')
  progress(@Param('id') id: string): ImportProgress {
    const held = this.imports.get(id);
    if (!held) throw notFound('import');
    return held.progress;
  }

  /** Stops one that is being read; nothing of it is kept. */
  @Post('samples/imports/:id/cancel')
  cancel(@Param('id') id: string): ImportProgress {
    const held = this.imports.get(id);
    if (!held) throw notFound('import');
    held.cancelled = true;
    return held.progress;
  }

  /** How long samples are kept; at once it is done as is said. */
  @Put('samples/keeping')
  @AdministratorOnly()
  @HttpCode(204)
  async keep(@Req() { account }: SignedIn, @Body() body: SampleKeepingBody): Promise<void> {
    await this.sums.keep(body, account.name);
  }

  /** Takes a whole import out again; what of it stands summed up already stays. */
  @Delete('samples/imports/:id')
  async remove(@Param('id', ParseUUIDPipe) id: string): Promise<{ removed: boolean }> {
    const rows = await this.orm.em
      .getConnection()
      .execute<unknown[]>(
        'with gone as (delete from sample where import_id = ?) delete from sample_import where id = ? returning id',
        [id, id],
        'all',
      );
    if (rows.length === 0) throw notFound('import');
    return { removed: true };
  }
}

@Module({ controllers: [MeasureController], providers: [SumUpSamples], exports: [SumUpSamples] })
export class MeasureModule {}
