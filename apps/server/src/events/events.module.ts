/**
 * Server-sent events: which revision was reached, which records it touched, and which of the answers that a browser window was
 * given no longer hold, be it by a change or by time alone; with a new day all of them. One stream per window.
 */
import type { LogEntry } from '@insel/core';
import { Controller, Get, Headers, Module, Query, Req, Res } from '@nestjs/common';
import type { Response } from 'express';
import { accountOfRequest, type SignedIn } from '../account/guard.js';
import { endsWith, SessionEndings } from '../account/session-endings.js';
import { Sessions } from '../account/sessions.js';
import { Clock } from '../clock.js';
import { isConnectionLost } from '../database/watch.js';
import { FleetKeeper } from '../record/keeper.js';
import { Watches } from './watches.js';

/** Who is no longer signed in hears nothing more after so long at most. */
const HEARTBEAT_MS = 5_000;
const MOST_IDS = 200;

@Controller('api/events')
class EventsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly sessions: Sessions,
    private readonly endings: SessionEndings,
    private readonly watches: Watches,
    private readonly clock: Clock,
  ) {}

  @Get()
  stream(
    @Req() request: SignedIn,
    @Res() response: Response,
    @Headers('last-event-id') lastSeen?: string,
    @Query('window') window = '',
  ): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    const tell = (event: string, data: object) =>
      response.write(
        `id: ${this.keeper.fleet.revision}\nevent: ${event}\ndata: ${JSON.stringify(data)}\n\n`,
      );
    const send = (revision: number, ids: string[] | 'many') =>
      tell('change', {
        revision,
        ids,
        altered: ids === 'many' || !window ? 'all' : this.watches.altered(window),
      });
    const { revision } = this.keeper.fleet;
    const known = window !== '' && this.watches.listen(window, response);
    tell('hello', { revision, server: this.watches.server, known });
    if (lastSeen !== undefined && Number(lastSeen) < revision) send(revision, 'many');
    const stopFollowing = this.keeper.follow((entries) =>
      send(entries[entries.length - 1]!.revision, idsOf(entries)),
    );
    let day = this.clock.now().slice(0, 10);
    const beat = () => {
      const now = this.clock.now();
      const { revision } = this.keeper.fleet;
      if (now.slice(0, 10) !== day) {
        day = now.slice(0, 10);
        return tell('change', { revision, ids: [], altered: 'all' });
      }
      const altered = window ? this.watches.overtaken(window, now) : [];
      if (altered.length > 0) tell('change', { revision, ids: [], altered });
      else response.write(': still here\n\n');
    };
    const heartbeat = setInterval(() => {
      accountOfRequest(this.sessions, request)
        .then((account) => (account ? beat() : response.end('event: signed-out\ndata: {}\n\n')))
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
      if (window) this.watches.end(window, response);
    });
  }
}

function idsOf(entries: readonly LogEntry[]): string[] | 'many' {
  const ids = new Set(entries.flatMap((entry) => entry.patches.map((patch) => patch.id)));
  return ids.size > MOST_IDS ? 'many' : [...ids];
}

@Module({ controllers: [EventsController] })
export class EventsModule {}
