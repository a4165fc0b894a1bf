/** The door for reads: every one has its path by the contract; what is asked is checked, and answered from where it stands. */
import { READ_PATHS, READ_QUERIES, requestOf, type Contract, type ReadName } from '@insel/contract';
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
import { ForReaders, type SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { checkBody } from '../http/check-body.js';
import { FleetKeeper } from '../record/keeper.js';
import { Samples } from '../record/samples.js';
import { OrderCache } from '../views/orders.js';
import { EVERY_READ } from './every-read.js';
import type { Asking, Read } from './read.js';

@Controller('api')
class ReadsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly orders: OrderCache,
    private readonly computation: Computation,
    private readonly orm: MikroORM,
    private readonly samples: Samples,
  ) {}

  async answer(name: ReadName, request: SignedIn): Promise<unknown> {
    const query = await queryOf(name, request);
    const { fleet } = this.keeper;
    const { id, name: who, role } = request.account;
    const asking: Asking = {
      now: this.clock.now(),
      account: { id, name: who, role },
      orders: this.orders,
    };
    const read = EVERY_READ[name] as Read<ReadName>;
    if (typeof read === 'function') return read(fleet, query, asking);
    if ('inWorker' in read)
      return this.computation.ask(name, query, { now: asking.now, account: asking.account });
    const answer: unknown = await read.fromTables(
      { orm: this.orm, samples: this.samples },
      query,
      fleet,
      asking,
    );
    return answer instanceof Uint8Array ? new StreamableFile(answer) : answer;
  }
}

/** @throws ProblemException 422 where something asked is not as its class wants it */
async function queryOf(name: ReadName, { method, query, body, params }: SignedIn): Promise<never> {
  const type = (READ_QUERIES as Partial<Record<ReadName, Contract>>)[name];
  const asked: unknown = method === 'POST' ? body : query;
  return { ...(type && (await checkBody(type, asked))), ...params } as never;
}

/** Answers that are no JSON. */
const TEXTS: Partial<Record<ReadName, [string, string][]>> = {
  hostBuildPage: [['Content-Type', 'text/html; charset=utf-8']],
  guestBuildPage: [['Content-Type', 'text/html; charset=utf-8']],
  runbook: [['Content-Type', 'text/html; charset=utf-8']],
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
