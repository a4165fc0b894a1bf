import {
  ListQuery,
  NextFreeQuery,
  type ListWindow,
  type NetworkListRow,
  type NetworkSheet,
  type SubnetOfDomain,
} from '@insel/contract';
import { nextFree, subnetFigures, type Fleet, type Row } from '@insel/core';
import { Controller, Get, Module, Param, Query } from '@nestjs/common';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
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
}

@Module({ controllers: [NetworksController] })
export class NetworksModule {}
