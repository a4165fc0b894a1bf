/** Measured use of guests and pools: taken in from CSV, shown with what follows from it. */
import {
  UseQuery,
  type GuestUseView,
  type ImportProgress,
  type ImportRow,
  type PoolLevel,
  type PoolUseView,
  type SimilarUse,
} from '@insel/contract';
import { MikroORM } from '@mikro-orm/postgresql';
import {
  Controller,
  Delete,
  Get,
  Inject,
  Module,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Req,
} from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { CONFIG, type Config } from '../config.js';
import { notFound, ProblemException } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { Samples } from '../record/samples.js';
import { importSamples } from './import-samples.js';
import { guestUse, poolUse } from './use-views.js';

/** Imports whose progress is still told. */
const REMEMBERED = 20;
const USUAL_DAYS = 30;
/** So many guests of a role stand for all of them. */
const MOST_SIMILAR = 20;

@Controller('api')
class MeasureController {
  private readonly imports = new Map<string, { progress: ImportProgress; cancelled: boolean }>();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly orm: MikroORM,
    private readonly keeper: FleetKeeper,
    private readonly samples: Samples,
    private readonly clock: Clock,
  ) {}

  /** The body is the file itself, read as it arrives; its progress is asked for under the same id. */
  @Post('samples/imports/:id')
  async import(
    @Req() request: SignedIn,
    @Param('id', ParseUUIDPipe) id: string,
    @Query('source') source = '',
  ): Promise<ImportProgress> {
    if (!/^text\/(csv|plain)/.test(request.headers['content-type'] ?? ''))
      throw new ProblemException(422, { code: 'not-csv', sentence: 'Send the file as text/csv.' });
    if (this.imports.has(id))
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
    await importSamples(
      this.config.databaseUrl,
      this.keeper.fleet,
      request,
      {
        id,
        source: source.slice(0, 200),
        by: request.account.name,
        now: this.clock.now(),
        cancelled: () => held.cancelled,
      },
      progress,
    );
    return progress;
  }

  @Get('samples/imports')
  async list(): Promise<ImportRow[]> {
    const rows = await this.orm.em
      .getConnection()
      .execute<Record<string, unknown>[]>(
        'select * from sample_import order by at desc limit 50',
        [],
        'all',
      );
    const time = (value: unknown) =>
      value === null ? null : new Date(value as string).toISOString();
    return rows.map((row) => ({
      id: String(row.id),
      at: time(row.at)!,
      by: String(row.by),
      source: String(row.source),
      rows: Number(row.rows),
      added: Number(row.added),
      firstAt: time(row.first_at),
      lastAt: time(row.last_at),
    }));
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

  /** Takes a whole import out again. */
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

  @Get('guests/:id/use')
  async guest(@Param('id') id: string, @Query() query: UseQuery): Promise<GuestUseView> {
    const guest = this.keeper.fleet.get('guest', id);
    if (!guest) throw notFound('guest');
    return guestUse(this.keeper.fleet, guest, await this.samples.of(id, query.days ?? USUAL_DAYS));
  }

  /** What guests of a role were measured to use; null where nothing was. */
  @Get('profiles/:id/use')
  async likes(@Param('id') id: string): Promise<{ use: SimilarUse | null }> {
    const guests = this.keeper.fleet
      .referring('guest', 'profileId', id)
      .filter((guest) => guest.state === 'in service')
      .slice(0, MOST_SIMILAR);
    return { use: await this.samples.similar(guests) };
  }

  @Get('pools/used')
  async levels(): Promise<PoolLevel[]> {
    const newest = await this.samples.newest(
      [...this.keeper.fleet.all('pool')].map((pool) => pool.id),
    );
    return newest.map(({ id, at, diskBytes }) => ({ poolId: id, at, usedBytes: diskBytes }));
  }

  @Get('pools/:id/use')
  async pool(@Param('id') id: string, @Query() query: UseQuery): Promise<PoolUseView> {
    const pool = this.keeper.fleet.get('pool', id);
    if (!pool) throw notFound('pool');
    return poolUse(pool, await this.samples.of(id, query.days ?? 90));
  }
}

@Module({ controllers: [MeasureController] })
export class MeasureModule {}
