import {
  CarryNetworkBody,
  EditHostBody,
  EditHostsBody,
  ListQuery,
  NextFreeQuery,
  RecordHostBody,
  RecordHostsBody,
  SetUplinksBody,
  type AlikeView,
  type HostListRow,
  type HostSheet,
  type ListWindow,
  type Preview,
  type Written,
} from '@insel/contract';
import {
  alike,
  cores,
  headroom,
  load,
  poolFigures,
  poolsOf,
  type Fleet,
  type HostInput,
  type Row,
} from '@insel/core';
import {
  Body,
  Controller,
  Delete,
  Get,
  Module,
  Param,
  Patch,
  Post,
  Query,
  Req,
} from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { edgeAt } from '../record/edge.js';
import { FleetKeeper } from '../record/keeper.js';
import { cacheKey, OrderCache, siteName, sortedIds, windowOf } from '../views/common.js';
import { hostRow, hostSheet } from '../views/hosts.js';
import { preview } from '../views/preview.js';

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
    poolsOf(fleet, host.id).reduce((sum, pool) => sum + poolFigures(fleet, pool.id).left.value, 0),
};

function inputOf(body: RecordHostBody): HostInput {
  const { pools, reaches, networks, management, outOfBand, hardware, ...fields } = fieldsIn(body);
  return { fields, pools, reaches, networks, management, outOfBand, hardware };
}

const recordChange = (body: RecordHostBody) => ({
  type: 'host.record' as const,
  ...inputOf(body),
  ...extrasOf(body),
});
const recordManyChange = (body: RecordHostsBody) => ({
  type: 'host.record-many' as const,
  hosts: body.hosts.map(inputOf),
  ...extrasOf(body),
});

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

  @Post()
  record(@Req() request: SignedIn, @Body() body: RecordHostBody): Promise<Written> {
    return this.writes.make(request, recordChange(body));
  }

  @Post('preview')
  preview(@Req() request: SignedIn, @Body() body: RecordHostBody): Preview {
    return preview(
      this.keeper.fleet,
      recordChange(body),
      edgeAt(this.clock.now(), request.account),
    );
  }

  /** Many hosts, all or none: from a table, or several alike. */
  @Post('many')
  recordMany(@Req() request: SignedIn, @Body() body: RecordHostsBody): Promise<Written> {
    return this.writes.make(request, recordManyChange(body));
  }

  @Post('many/preview')
  previewMany(@Req() request: SignedIn, @Body() body: RecordHostsBody): Preview {
    return preview(
      this.keeper.fleet,
      recordManyChange(body),
      edgeAt(this.clock.now(), request.account),
    );
  }

  /** The same fields for several hosts. */
  @Post('edit')
  editMany(@Req() request: SignedIn, @Body() body: EditHostsBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'host.edit-many',
      ids: body.ids,
      fields: fieldsIn(body, 'ids'),
      ...extrasOf(body),
    });
  }

  @Get(':id/alike')
  alike(@Param('id') id: string, @Query() query: NextFreeQuery): AlikeView[] {
    const { fleet } = this.keeper;
    if (!fleet.get('host', id)) throw notFound('host');
    return alike(fleet, id, query.count ?? 1).map(({ ip, fields, ...rest }) => ({
      name: String(fields.name),
      ip,
      rackUnit: fields.rackUnit ?? null,
      body: { ...fields, ...rest },
    }));
  }

  @Patch(':id')
  edit(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditHostBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'host', id, {
      type: 'host.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Post(':id/networks')
  carry(
    @Req() request: SignedIn,
    @Param('id') hostId: string,
    @Body() body: CarryNetworkBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'host.carry',
      hostId,
      networkId: body.networkId,
      mode: body.mode,
      ...extrasOf(body),
    });
  }

  @Post('networks/:id/ports')
  uplinks(
    @Req() request: SignedIn,
    @Param('id') switchId: string,
    @Body() body: SetUplinksBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'switch.set-uplinks',
      switchId,
      portIds: body.portIds,
      ...extrasOf(body),
    });
  }

  @Delete('networks/:id')
  drop(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'host.drop-switch', id });
  }
}

@Module({ controllers: [HostsController] })
export class HostsModule {}
