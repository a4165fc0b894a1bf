/** Server-sent events: which revision was reached and which records it touched. One stream per browser. */
import type { LogEntry } from '@insel/core';
import { Controller, Get, Headers, Module, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { Accounts } from '../account/accounts.js';
import { accountOfRequest, type SignedIn } from '../account/guard.js';
import { FleetKeeper } from '../record/keeper.js';

const HEARTBEAT_MS = 15_000;
const MOST_IDS = 200;

@Controller('api/events')
class EventsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly accounts: Accounts,
  ) {}

  @Get()
  stream(
    @Req() request: SignedIn,
    @Res() response: Response,
    @Headers('last-event-id') lastSeen?: string,
  ): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    const send = (revision: number, ids: string[] | 'many') =>
      response.write(
        `id: ${revision}\nevent: change\ndata: ${JSON.stringify({ revision, ids })}\n\n`,
      );
    const { revision } = this.keeper.fleet;
    if (lastSeen !== undefined && Number(lastSeen) < revision) send(revision, 'many');
    else response.write(`id: ${revision}\nevent: hello\ndata: ${JSON.stringify({ revision })}\n\n`);
    const stopFollowing = this.keeper.follow((entries) =>
      send(entries[entries.length - 1]!.revision, idsOf(entries)),
    );
    const heartbeat = setInterval(() => {
      accountOfRequest(this.accounts, request)
        .then((account) =>
          account
            ? response.write(': still here\n\n')
            : response.end('event: signed-out\ndata: {}\n\n'),
        )
        .catch(() => response.end());
    }, HEARTBEAT_MS);
    request.on('close', () => {
      clearInterval(heartbeat);
      stopFollowing();
    });
  }
}

function idsOf(entries: readonly LogEntry[]): string[] | 'many' {
  const ids = new Set(entries.flatMap((entry) => entry.patches.map((patch) => patch.id)));
  return ids.size > MOST_IDS ? 'many' : [...ids];
}

@Module({ controllers: [EventsController] })
export class EventsModule {}
