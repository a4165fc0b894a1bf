import {
  ListQuery,
  NextFreeQuery,
  type AlikeView,
  type HostListRow,
  type HostSheet,
  type ListWindow,
} from '@insel/contract';
import {
  alike,
  cores,
  headroom,
  load,
  poolFigures,
  poolsOf,
  type Fleet,
  type Row,
} from '@insel/core';
import { Controller, Get, Module, Param, Query } from '@nestjs/common';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { cacheKey, OrderCache, siteName, sortedIds, windowOf } from '../views/common.js';
import { hostRow, hostSheet } from '../views/hosts.js';

type Key = (fleet: Fleet, host: Row<'host'>) => string | number;
const SORTS: Record<string, Key> = {
  name: (_, host) => host.name.toLowerCase(),
  site: (fleet, host) =>
    `${siteName(fleet, host.siteId).toLowerCase() || '~'}|${host.name.toLowerCase()}`,
  state: (_, host) => host.state,
  group: (fleet, host) =>
    `${fleet.get('hostGroup', host.groupId)?.name.toLowerCase() ?? '~'}|${host.name.toLowerCase()}`,
  guests: (fleet, host) => load(fleet, host.id).guests.count,
  cores: (_, host) => cores(host),
  memoryLeft: (fleet, host) => headroom(fleet, host.id).memory.value,
  memoryTaken: (fleet, host) => headroom(fleet, host.id).memoryUsed.value,
  vcpuLeft: (fleet, host) => headroom(fleet, host.id).vcpu.value,
  storageLeft: (fleet, host) =>
    poolsOf(fleet, host.id).reduce((sum, pool) => sum + poolFigures(fleet, pool.id).free.value, 0),
};

@Controller('api/hosts')
class HostsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly orders: OrderCache,
  ) {}

  @Get()
  list(@Query() query: ListQuery): ListWindow<HostListRow> {
    const { fleet } = this.keeper;
    const ids = this.orders.ids(fleet.revision, cacheKey('host', query), () => {
      const wanted = query.q?.toLowerCase();
      const rows = [...fleet.all('host')].filter(
        (host) =>
          (!wanted || host.name.toLowerCase().includes(wanted)) &&
          (!query.state || host.state === query.state) &&
          (!query.siteId || host.siteId === query.siteId),
      );
      const key = SORTS[query.sort ?? 'site'] ?? SORTS.site!;
      return sortedIds(rows, (row) => key(fleet, row), query.order);
    });
    return windowOf(fleet, ids, query, (id) => hostRow(fleet, id, this.clock.now()));
  }

  @Get(':id')
  sheet(@Param('id') id: string): HostSheet {
    if (!this.keeper.fleet.get('host', id)) throw notFound('host');
    return hostSheet(this.keeper.fleet, id, this.clock.now());
  }

  @Get(':id/alike')
  alike(@Param('id') id: string, @Query() query: NextFreeQuery): AlikeView[] {
    const { fleet } = this.keeper;
    if (!fleet.get('host', id)) throw notFound('host');
    return alike(fleet, id, query.count ?? 1).map(({ ip, input }) => ({
      name: input.name,
      ip,
      rackUnit: input.rackUnit ?? null,
      body: input,
    }));
  }
}

@Module({ controllers: [HostsController] })
export class HostsModule {}
