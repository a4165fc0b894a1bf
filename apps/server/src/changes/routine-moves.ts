/** Routine moves accept themselves a day after the switch, if nothing stands against it: looked at every few minutes. */
import { acceptingThemselves } from '@insel/core';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { Clock } from '../clock.js';
import { FleetKeeper } from '../record/keeper.js';
import { SYSTEM } from '../record/system-actor.js';
import { WritePath } from './write-path.js';

const LOOK_MS = 5 * 60_000;

@Injectable()
export class RoutineMoves implements OnApplicationShutdown {
  private timer: NodeJS.Timeout | undefined;
  private readonly logger = new Logger('routine moves');

  constructor(
    private readonly keeper: FleetKeeper,
    private readonly path: WritePath,
    private readonly clock: Clock,
  ) {}

  start(): void {
    const look = () =>
      void this.acceptAll().catch((error: Error) => this.logger.warn(error.message));
    look();
    this.timer = setInterval(look, LOOK_MS);
  }

  /** Of two servers that do so at once one is refused: the migration is accepted already. */
  async acceptAll(): Promise<void> {
    const { state } = this.keeper.state();
    if (state !== 'ready' || this.keeper.database.away) return;
    for (const { id } of acceptingThemselves(this.keeper.fleet, this.clock.now()))
      await this.path.commit({
        change: {
          type: 'migration.step',
          input: { id, step: 'accept' },
          reason: 'A day without a finding',
        },
        actor: SYSTEM,
      });
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }
}
