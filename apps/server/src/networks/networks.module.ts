import {
  EditAddressBody,
  EditNetworkBody,
  EditSubnetBody,
  JoinSubnetsBody,
  ListQuery,
  NextFreeQuery,
  RecordNetworkBody,
  RecordNetworksBody,
  RecordRangeBody,
  RecordSubnetBody,
  ReleaseAddressBody,
  SetAddressBody,
  SplitSubnetBody,
  type ListWindow,
  type NetworkListRow,
  type NetworkSheet,
  type SubnetOfDomain,
  type Written,
} from '@insel/contract';
import { machineOf, nextFree, subnetFigures, type Fleet, type Row } from '@insel/core';
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
import { FleetKeeper } from '../record/keeper.js';
import { cacheKey, named, OrderCache, siteName, sortedIds, windowOf } from '../views/common.js';
import { networkRow, networkSheet } from '../views/networks.js';

const taken = (fleet: Fleet, network: Row<'network'>): number =>
  Math.max(
    -1,
    ...fleet
      .referring('subnet', 'networkId', network.id)
      .map((subnet) => subnetFigures(fleet, subnet.id).taken.value ?? -1),
  );

const SORTS: Record<string, (fleet: Fleet, network: Row<'network'>) => string | number> = {
  name: (_, network) => network.name.toLowerCase(),
  site: (fleet, network) =>
    `${siteName(fleet, network.siteId).toLowerCase() || '~'}|${network.name.toLowerCase()}`,
  vlan: (_, network) => network.vlanId ?? 0,
  taken,
};

@Controller('api')
class NetworksController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly orders: OrderCache,
  ) {}

  @Get('networks')
  list(@Query() query: ListQuery): ListWindow<NetworkListRow> {
    const { fleet } = this.keeper;
    const ids = this.orders.ids(fleet.revision, cacheKey('network', query), () => {
      const wanted = query.q?.toLowerCase();
      const rows = [...fleet.all('network')].filter(
        (network) =>
          (!wanted ||
            network.name.toLowerCase().includes(wanted) ||
            String(network.vlanId) === wanted ||
            fleet
              .referring('subnet', 'networkId', network.id)
              .some((subnet) => subnet.prefix.includes(wanted))) &&
          (!query.siteId || network.siteId === query.siteId),
      );
      const key = SORTS[query.sort ?? 'site'] ?? SORTS.site!;
      return sortedIds(rows, (row) => key(fleet, row), query.order);
    });
    return windowOf(fleet, ids, query, (id) => networkRow(fleet, id, this.clock.now()));
  }

  @Get('networks/:id')
  sheet(@Param('id') id: string): NetworkSheet {
    if (!this.keeper.fleet.get('network', id)) throw notFound('network');
    return networkSheet(this.keeper.fleet, id, this.clock.now());
  }

  @Post('networks')
  record(@Req() request: SignedIn, @Body() body: RecordNetworkBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'network.record',
      fields: fieldsIn(body, 'subnet', 'alsoAt'),
      subnet: body.subnet,
      alsoAt: body.alsoAt,
      ...extrasOf(body),
    });
  }

  /** Several networks, all or none: what a prefix plan comes to. */
  @Post('networks/many')
  recordMany(@Req() request: SignedIn, @Body() body: RecordNetworksBody): Promise<Written> {
    const networks = body.networks.map(({ subnet, ...fields }) => ({ fields, subnet }));
    return this.writes.make(request, { type: 'network.record-many', networks, ...extrasOf(body) });
  }

  @Delete('networks/:id')
  remove(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'network.remove', id });
  }

  /** Every subnet with its routing domain: what a prefix plan must keep clear of. */
  @Get('subnets')
  subnets(): SubnetOfDomain[] {
    const { fleet } = this.keeper;
    return [...fleet.all('subnet')].map((subnet) => ({
      id: subnet.id,
      prefix: subnet.prefix,
      network: named(fleet.need('network', subnet.networkId)),
      domainId: subnet.domainId,
      domainName: fleet.need('routingDomain', subnet.domainId).name,
    }));
  }

  @Delete('subnets/:id')
  removeSubnet(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'subnet.remove', id });
  }

  @Post('subnets/:id/split')
  split(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: SplitSubnetBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'subnet.split',
      id,
      length: body.length,
      ...extrasOf(body),
    });
  }

  @Post('subnets/:id/join')
  join(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: JoinSubnetsBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'subnet.join',
      id,
      otherId: body.otherId,
      ...extrasOf(body),
    });
  }

  @Patch('networks/:id')
  edit(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditNetworkBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'network', id, {
      type: 'network.edit',
      id,
      fields: fieldsIn(body, 'alsoAt'),
      alsoAt: body.alsoAt,
      ...extrasOf(body),
    });
  }

  @Post('networks/:id/subnets')
  recordSubnet(
    @Req() request: SignedIn,
    @Param('id') networkId: string,
    @Body() body: RecordSubnetBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'subnet.record',
      networkId,
      subnet: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  /** If-Match is the ETag of the network, which covers its subnets. */
  @Patch('subnets/:id')
  editSubnet(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditSubnetBody,
  ): Promise<Written> {
    const subnet = this.keeper.fleet.get('subnet', id);
    if (!subnet) throw notFound('subnet');
    return this.writes.edit(request, 'network', subnet.networkId, {
      type: 'subnet.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Post('subnets/:id/ranges')
  recordRange(
    @Req() request: SignedIn,
    @Param('id') subnetId: string,
    @Body() body: RecordRangeBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'range.record',
      subnetId,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Delete('ranges/:id')
  removeRange(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'range.remove', id });
  }

  @Get('subnets/:id/next-free')
  next(
    @Param('id') id: string,
    @Query() { count = 1, taking = 'single' }: NextFreeQuery,
  ): { addresses: string[] } {
    if (!this.keeper.fleet.get('subnet', id)) throw notFound('subnet');
    return {
      addresses: nextFree(this.keeper.fleet, id, { n: count, taking, now: this.clock.now() }),
    };
  }

  @Post('addresses')
  setAddress(@Req() request: SignedIn, @Body() body: SetAddressBody): Promise<Written> {
    return this.writes.make(request, { type: 'address.set', ...fieldsIn(body), ...extrasOf(body) });
  }

  /** Gives the holder of an address the next free one of that network instead. */
  @Post('addresses/:id/next')
  takeNext(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    const { fleet } = this.keeper;
    const address = fleet.get('address', id);
    if (!address) throw notFound('address');
    const networkId = fleet.get('subnet', address.subnetId)?.networkId;
    return this.writes.make(request, {
      type: 'address.set',
      hostId: address.hostId ?? undefined,
      adapterId: address.adapterId ?? undefined,
      devicePortId: address.devicePortId ?? undefined,
      networkId,
      subnetId: address.subnetId ?? undefined,
      assigned: true,
      purpose: address.purpose,
      replaces: id,
    });
  }

  /** If-Match is the ETag of the machine that carries the address. */
  @Patch('addresses/:id')
  editAddress(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditAddressBody,
  ): Promise<Written> {
    const address = this.keeper.fleet.get('address', id);
    if (!address) throw notFound('address');
    const machine = machineOf(this.keeper.fleet, address);
    return this.writes.edit(request, machine.kind, machine.id, {
      type: 'address.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Post('addresses/:id/release')
  release(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: ReleaseAddressBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'address.release',
      id,
      restDays: body.restDays,
      ...extrasOf(body),
    });
  }

  @Delete('addresses/:id')
  releaseNow(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'address.release', id });
  }

  @Delete('rests/:id')
  endRest(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'address.end-rest', id });
  }
}

@Module({ controllers: [NetworksController] })
export class NetworksModule {}
