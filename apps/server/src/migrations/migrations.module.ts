import {
  ListQuery,
  RouteQuery,
  type ListWindow,
  type MigrationListRow,
  type MigrationRoute,
  type MigrationSheet,
} from '@insel/contract';
import { Controller, Get, Module, Param, Query } from '@nestjs/common';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { sortedIds, windowOf } from '../views/common.js';
import { migrationRoute, migrationRow, migrationSheet } from '../views/migrations.js';

@Controller('api')
class MigrationsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
  ) {}

  @Get('migrations')
  list(@Query() query: ListQuery): ListWindow<MigrationListRow> {
    const { fleet } = this.keeper;
    const rows = [...fleet.all('migration')].filter(
      (row) => !query.state || row.state === query.state,
    );
    return windowOf(
      fleet,
      sortedIds(rows, (row) => row.plannedAt, 'down'),
      query,
      (id) => migrationRow(fleet, id, this.clock.now()),
    );
  }

  /** A move that is being thought of: what must be so before it, and how long it takes. */
  @Get('migrations/route')
  route(@Query() query: RouteQuery): MigrationRoute {
    return migrationRoute(this.keeper.fleet, query);
  }

  @Get('migrations/:id')
  sheet(@Param('id') id: string): MigrationSheet {
    if (!this.keeper.fleet.get('migration', id)) throw notFound('migration');
    return migrationSheet(this.keeper.fleet, id, this.clock.now());
  }
}

@Module({ controllers: [MigrationsController] })
export class MigrationsModule {}
