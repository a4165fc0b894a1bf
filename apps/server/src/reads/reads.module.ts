/** The door for reads: every one has its path by the contract; what is asked is checked, and answered from where it stands. */
import { READ_PATHS, READ_QUERIES, requestOf, type Contract, type ReadName } from '@insel/contract';
import { GroundMoved } from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';
import {
  Controller,
  Get,
  Header,
  HttpCode,
  Module,
  Post,
  Req,
  StreamableFile,
} from '@nestjs/common';
import { createHash } from 'node:crypto';
import { ForReaders, type SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { Watches } from '../events/watches.js';
import { checkBody } from '../http/check-body.js';
import { ProblemException } from '../problem-exception.js';
import { standpointIn } from '../standpoint/standpoint.js';
import { FleetKeeper } from '../record/keeper.js';
import type { LaidOver } from '../standpoint/laid-over.js';
import { PastFleets } from '../standpoint/past-fleets.js';
import { PlannedFleets } from '../standpoint/planned-fleets.js';
import { Samples } from '../record/samples.js';
import { OrderCache } from '../views/orders.js';
import { EVERY_READ } from './every-read.js';
import type { Asking, FromFleet, Read } from './read.js';

@Controller('api')
class ReadsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly orders: OrderCache,
    private readonly computation: Computation,
    private readonly orm: MikroORM,
    private readonly samples: Samples,
    private readonly past: PastFleets,
    private readonly planned: PlannedFleets,
    private readonly watches: Watches,
  ) {}

  async answer(name: ReadName, request: SignedIn): Promise<unknown> {
    const { asOf, plan } = standpointIn(request);
    const query = await queryOf(name, request);
    const { id, name: who, role } = request.account;
    const account = { id, name: who, role };
    for (let attempt = 1; ; attempt += 1) {
      const over =
        asOf !== undefined
          ? await this.past.at(asOf)
          : plan !== undefined
            ? this.planned.of(plan, account)
            : undefined;
      const { newSince } = query as { newSince?: string };
      const then = newSince ? await this.past.at(newSince) : undefined;
      try {
        const read = EVERY_READ[name] as Read<ReadName>;
        const ofNow = typeof read === 'function' && !over && !then;
        if (ofNow) return this.answerOfNow(read, query, account, request);
        return this.unlessKnown(request, await this.answerOf(name, query, account, over, then));
      } catch (error) {
        if (!(error instanceof GroundMoved)) throw error;
        if (attempt === MOST_ATTEMPTS)
          throw new ProblemException(503, {
            code: 'altering',
            sentence: 'The record alters faster than this can be read of it.',
            remedy: 'Try again in a second.',
            retryAfterSeconds: 1,
          });
      }
    }
  }

  /** A browser window is told when what it was answered no longer holds. */
  private answerOfNow(
    read: FromFleet<ReadName>,
    query: never,
    account: Asking['account'],
    { headers, method, originalUrl, body, res }: SignedIn,
  ): unknown {
    const { fleet } = this.keeper;
    const asking: Asking = { now: this.clock.now(), account, orders: this.orders };
    const window = WINDOW.exec(String(headers['x-insel-window']));
    if (!window) return read(fleet, query, asking);
    const question = `${method} ${originalUrl} ${method === 'POST' ? JSON.stringify(body) : ''}`;
    const { answer, mark } = this.watches.watched(
      { id: window[1]!, count: Number(window[2]), question },
      { fleet, now: asking.now },
      () => read(fleet, query, asking),
    );
    if (mark) res!.setHeader('X-Insel-Mark', mark);
    return answer;
  }

  /** What a window shows already is not sent once more: it says by which digest it knows it. */
  private unlessKnown({ headers, method, res }: SignedIn, answer: unknown): unknown {
    if (method !== 'GET' || headers['x-insel-window'] === undefined) return answer;
    if (typeof answer !== 'object' || answer === null || answer instanceof StreamableFile)
      return answer;
    const digest = createHash('sha256').update(JSON.stringify(answer)).digest('base64url');
    res!.setHeader('X-Insel-Digest', digest);
    if (headers['x-insel-known'] !== digest) return answer;
    res!.status(204);
    return undefined;
  }

  /** @throws GroundMoved where the record altered while it was asked as of another time */
  private async answerOf(
    name: ReadName,
    query: never,
    account: Asking['account'],
    over: LaidOver | undefined,
    then: LaidOver | undefined,
  ): Promise<unknown> {
    const fleet = over?.fleet ?? this.keeper.fleet;
    const now = over?.now ?? this.clock.now();
    const asking: Asking = { now, account, orders: over?.orders ?? this.orders };
    const read = EVERY_READ[name] as Read<ReadName>;
    if (typeof read === 'function') return read(fleet, query, asking);
    const samples = over ? this.samples.upTo(new Date(now)) : this.samples;
    if ('inWorker' in read) {
      const guestIds = read.measured?.(fleet, query) ?? [];
      const use = guestIds.length > 0 ? await samples.byHour(guestIds, now) : undefined;
      return this.computation.ask(
        name,
        query,
        { now, account, ...(use && { use }) },
        { over: over && laid(over), then: then && { ...laid(then), now: then.now } },
      );
    }
    const answer: unknown = await read.fromTables({ orm: this.orm, samples }, query, fleet, asking);
    // While the tables were read the record may have altered under the overlay.
    if (over && !over.fleet.isOver(this.keeper.fleet)) throw new GroundMoved();
    return answer instanceof Uint8Array ? new StreamableFile(answer) : answer;
  }
}

const laid = ({ base, fleet, patches }: LaidOver) => ({
  base,
  revision: fleet.revision,
  patches,
});

/** What a window calls itself, an id that it drew, and the number of its request. */
const WINDOW = /^([\da-f-]{36}) (\d{1,15})$/;
/** A record that alters as fast as it is asked about the past. */
const MOST_ATTEMPTS = 5;

/** @throws ProblemException 422 where something asked is not as its class wants it */
async function queryOf(name: ReadName, { method, query, body, params }: SignedIn): Promise<never> {
  const type = (READ_QUERIES as Partial<Record<ReadName, Contract>>)[name];
  const { asOf: _, plan: __, ...rest } = query;
  const given: unknown = method === 'POST' ? body : rest;
  return { ...(type && (await checkBody(type, given))), ...params } as never;
}

/** Answers that are no JSON. */
const TEXTS: Partial<Record<ReadName, [string, string][]>> = {
  hostBuildPage: [['Content-Type', 'text/html; charset=utf-8']],
  guestBuildPage: [['Content-Type', 'text/html; charset=utf-8']],
  runbook: [['Content-Type', 'text/html; charset=utf-8']],
  planRunbook: [['Content-Type', 'text/html; charset=utf-8']],
  factsScript: [
    ['Content-Type', 'text/x-shellscript; charset=utf-8'],
    ['Content-Disposition', 'attachment; filename="facts.sh"'],
  ],
  calendar: [
    ['Content-Type', 'text/calendar; charset=utf-8'],
    ['Content-Disposition', 'attachment; filename="migrations.ics"'],
  ],
  seedImage: [
    ['Content-Type', 'application/octet-stream'],
    ['Content-Disposition', 'attachment; filename="seed.iso"'],
  ],
};

for (const name of Object.keys(READ_PATHS) as ReadName[]) {
  const handler = {
    value(this: ReadsController, request: SignedIn) {
      return this.answer(name, request);
    },
    configurable: true,
    writable: true,
  };
  const { prototype } = ReadsController;
  Object.defineProperty(prototype, name, handler);
  Req()(prototype, name, 0);
  const { method } = requestOf(name);
  const path = READ_PATHS[name].replace('POST ', '');
  const decorators = [
    method === 'POST' ? Post(path) : Get(path),
    ...(method === 'POST' ? [ForReaders(), HttpCode(200)] : []),
    ...(TEXTS[name] ?? []).map(([header, value]) => Header(header, value)),
  ];
  for (const decorate of decorators)
    decorate(prototype, name, Object.getOwnPropertyDescriptor(prototype, name)!);
}

@Module({ controllers: [ReadsController] })
export class ReadsModule {}
