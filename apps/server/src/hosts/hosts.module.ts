import { CarryNetworkBody, EditHostBody, EditPoolBody, ListQuery, RecordHostBody, RecordPoolBody, RecordSiteBody, type HostListRow, type HostSheet, type ListWindow, type Named, type Preview, type Written } from '@insel/contract';
import { cores, headroom, load, poolFigures, poolsOf, type Fleet, type Row } from '@insel/core';
import { Body, Controller, Delete, Get, Module, Param, Patch, Post, Query, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { edgeAt } from '../record/edge.js';
import { FleetKeeper } from '../record/keeper.js';
import { cacheKey, OrderCache, siteName, sortedIds, windowOf } from '../views/common.js';
import { hostRow, hostSheet, poolView } from '../views/hosts.js';
import { preview } from '../views/preview.js';

type Key = (fleet: Fleet, host: Row<'host'>) => string | number;
const SORTS: Record<string, Key> = {
  name: (_, host) => host.name.toLowerCase(),
  site: (fleet, host) => `${siteName(fleet, host.siteId).toLowerCase() || '~'}|${host.name.toLowerCase()}`,
  state: (_, host) => host.state,
  guests: (fleet, host) => load(fleet, host.id).guests.count,
  cores: (_, host) => cores(host),
  memoryLeft: (fleet, host) => headroom(fleet, host.id).memory.value,
  memoryTaken: (fleet, host) => headroom(fleet, host.id).memoryUsed.value,
  vcpuLeft: (fleet, host) => headroom(fleet, host.id).vcpu.value,
  storageLeft: (fleet, host) => poolsOf(fleet, host.id).reduce((sum, pool) => sum + poolFigures(fleet, pool.id).left.value, 0),
};

const recordChange = (body: RecordHostBody) => {
  const { pools, reaches, networks, management, ...fields } = fieldsIn(body);
  return { type: 'host.record' as const, fields, pools, reaches, networks, management, ...extrasOf(body) };
};

@Controller('api/hosts')
class HostsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly orders: OrderCache,
  ) {}

  @Get()
  list(@Query() query: ListQuery): ListWindow<HostListRow> {
    const { fleet } = this.keeper;
    const ids = this.orders.ids(fleet.revision, cacheKey('host', query), () => {
      const wanted = query.q?.toLowerCase();
      const rows = [...fleet.all('host')].filter(
        (host) => (!wanted || host.name.toLowerCase().includes(wanted)) && (!query.state || host.state === query.state) && (!query.siteId || host.siteId === query.siteId),
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

  @Post()
  record(@Req() request: SignedIn, @Body() body: RecordHostBody): Promise<Written> {
    return this.writes.make(request, recordChange(body));
  }

  @Post('preview')
  preview(@Req() request: SignedIn, @Body() body: RecordHostBody): Preview {
    return preview(this.keeper.fleet, recordChange(body), edgeAt(this.clock.now(), request.account));
  }

  @Patch(':id')
  edit(@Req() request: SignedIn, @Param('id') id: string, @Body() body: EditHostBody): Promise<Written> {
    return this.writes.edit(request, 'host', id, { type: 'host.edit', id, fields: fieldsIn(body), ...extrasOf(body) });
  }

  @Post(':id/networks')
  carry(@Req() request: SignedIn, @Param('id') hostId: string, @Body() body: CarryNetworkBody): Promise<Written> {
    return this.writes.make(request, { type: 'host.carry', hostId, networkId: body.networkId, mode: body.mode, ...extrasOf(body) });
  }

  @Delete('networks/:id')
  drop(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'host.drop-switch', id });
  }
}

@Controller('api')
class PlacesController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
  ) {}

  @Get('sites')
  sites(): Named[] {
    return [...this.keeper.fleet.all('site')].map(({ id, name }) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name));
  }

  @Post('sites')
  recordSite(@Req() request: SignedIn, @Body() body: RecordSiteBody): Promise<Written> {
    return this.writes.make(request, { type: 'site.record', name: body.name, ...extrasOf(body) });
  }

  @Get('platforms')
  platforms(): Row<'platform'>[] {
    return [...this.keeper.fleet.all('platform')].sort((a, b) => a.name.localeCompare(b.name));
  }

  @Get('pools')
  pools() {
    return [...this.keeper.fleet.all('pool')].map((pool) => poolView(this.keeper.fleet, pool.id)).sort((a, b) => a.name.localeCompare(b.name));
  }

  @Post('pools')
  recordPool(@Req() request: SignedIn, @Body() body: RecordPoolBody): Promise<Written> {
    return this.writes.make(request, { type: 'pool.record', fields: fieldsIn(body, 'hostIds'), hostIds: body.hostIds, ...extrasOf(body) });
  }

  @Patch('pools/:id')
  editPool(@Req() request: SignedIn, @Param('id') id: string, @Body() body: EditPoolBody): Promise<Written> {
    return this.writes.edit(request, 'pool', id, { type: 'pool.edit', id, fields: fieldsIn(body, 'hostIds'), hostIds: body.hostIds, ...extrasOf(body) });
  }
}

@Module({ controllers: [HostsController, PlacesController] })
export class HostsModule {}
