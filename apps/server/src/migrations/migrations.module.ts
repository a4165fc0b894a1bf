import {
  ListQuery,
  PlanMigrationBody,
  StepMigrationBody,
  type ListWindow,
  type MigrationListRow,
  type MigrationPreview,
  type MigrationSheet,
  type Written,
} from '@insel/contract';
import { migrationChecks, routeEstimate, type StepMigration } from '@insel/core';
import { Body, Controller, Delete, Get, Module, Param, Post, Query, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { edgeAt } from '../record/edge.js';
import { FleetKeeper } from '../record/keeper.js';
import { sortedIds, windowOf } from '../views/common.js';
import { migrationRow, migrationSheet } from '../views/migrations.js';
import { preview } from '../views/preview.js';

const planChange = (body: PlanMigrationBody) => ({
  type: 'migration.plan' as const,
  ...fieldsIn(body),
  targetPoolId: body.targetPoolId ?? null,
  ...extrasOf(body),
});

const STEPS: Record<string, StepMigration['step']> = {
  start: 'start',
  switch: 'switch',
  accept: 'accept',
  'roll-back': 'roll back',
};

@Controller('api')
class MigrationsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
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

  @Get('migrations/:id')
  sheet(@Param('id') id: string): MigrationSheet {
    if (!this.keeper.fleet.get('migration', id)) throw notFound('migration');
    return migrationSheet(this.keeper.fleet, id, this.clock.now());
  }

  @Post('migrations')
  plan(@Req() request: SignedIn, @Body() body: PlanMigrationBody): Promise<Written> {
    return this.writes.make(request, planChange(body));
  }

  @Post('migrations/preview')
  preview(@Req() request: SignedIn, @Body() body: PlanMigrationBody): MigrationPreview {
    const { fleet } = this.keeper;
    const change = planChange(body);
    const [guest, target] = [
      fleet.get('guest', body.guestId),
      fleet.get('host', body.targetHostId),
    ];
    const base = preview(fleet, change, edgeAt(this.clock.now(), request.account));
    if (!guest || !target) return { ...base, checks: [], estimate: null };
    const movesStorage =
      change.targetPoolId !== null &&
      fleet
        .referring('volume', 'guestId', guest.id)
        .some((volume) => volume.poolId !== change.targetPoolId);
    return {
      ...base,
      checks: migrationChecks(fleet, {
        guest,
        target,
        targetPoolId: change.targetPoolId,
        running: change.running,
      }),
      estimate: routeEstimate(fleet, { ...change, sourceHostId: guest.hostId, movesStorage }),
    };
  }

  @Post('migrations/:id/:step')
  step(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Param('step') step: string,
    @Body() body: StepMigrationBody,
  ): Promise<Written> {
    const known = STEPS[step];
    if (!known || !this.keeper.fleet.get('migration', id)) throw notFound('migration');
    return this.writes.make(request, {
      type: 'migration.step',
      id,
      step: known,
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Delete('holds/:id')
  release(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'hold.release', id });
  }
}

@Module({ controllers: [MigrationsController] })
export class MigrationsModule {}
