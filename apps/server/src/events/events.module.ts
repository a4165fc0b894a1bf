/** Server-sent events: which revision was reached and which records it touched. One stream per browser. */
import type { LogEntry } from '@insel/core';
import { Controller, Get, Headers, Module, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { accountOfRequest, type SignedIn } from '../account/guard.js';
import { endsWith, SessionEndings } from '../account/session-endings.js';
import { Sessions } from '../account/sessions.js';
import { isConnectionLost } from '../database/watch.js';
import { FleetKeeper } from '../record/keeper.js';

/** Who is no longer signed in hears nothing more after so long at most. */
const HEARTBEAT_MS = 5_000;
const MOST_IDS = 200;

@Controller('api/events')
class EventsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly sessions: Sessions,
    private readonly endings: SessionEndings,
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
      accountOfRequest(this.sessions, request)
        .then((account) =>
          account
            ? response.write(': still here\n\n')
            : response.end('event: signed-out\ndata: {}\n\n'),
        )
        .catch((error: unknown) => {
          // While the database is away nobody can be asked; what happens then is told afterwards.
          if (!isConnectionLost(error)) response.end();
        });
    }, HEARTBEAT_MS);
    const stopRereading = this.keeper.onReread(() => send(this.keeper.fleet.revision, 'many'));
    const stopSessions = this.endings.on((ended) => {
      if (endsWith(ended, request.account.id, request.sessionToken))
        response.end('event: signed-out\ndata: {}\n\n');
    });
    request.on('close', () => {
      clearInterval(heartbeat);
      stopFollowing();
      stopRereading();
      stopSessions();
    });
  }
}

function idsOf(entries: readonly LogEntry[]): string[] | 'many' {
  const ids = new Set(entries.flatMap((entry) => entry.patches.map((patch) => patch.id)));
  return ids.size > MOST_IDS ? 'many' : [...ids];
}

@Module({ controllers: [EventsController] })
export class EventsModule {}
