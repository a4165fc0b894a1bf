/** Sites, racks, host groups, platforms, pools, backups, and rules between guests: what hosts and guests refer to. */
import {
  type HostGroupView,
  type PlacementRuleView,
  type PoolView,
  type RackView,
  type SiteView,
} from '@insel/contract';
import { MAC_BLOCK, macBlockUse, type Row } from '@insel/core';
import { Controller, Get, Module } from '@nestjs/common';
import { FleetKeeper } from '../record/keeper.js';
import { Samples } from '../record/samples.js';
import { byName } from '../views/common.js';
import { poolView } from '../views/hosts.js';
import { groupView, rackView, ruleView } from '../views/places.js';

@Controller('api')
class PlacesController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly samples: Samples,
  ) {}

  @Get('sites')
  sites(): SiteView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('site')].sort(byName).map(({ id, name, revision, macBlock }) => {
      const { assigned, repetition } = macBlockUse(fleet, macBlock || MAC_BLOCK);
      return { id, name, revision, macBlock, assignedMacs: assigned, repetition };
    });
  }

  @Get('routing-domains')
  domains(): Row<'routingDomain'>[] {
    return [...this.keeper.fleet.all('routingDomain')];
  }

  @Get('racks')
  racks(): RackView[] {
    return [...this.keeper.fleet.all('rack')]
      .sort(byName)
      .map((rack) => rackView(this.keeper.fleet, rack));
  }

  @Get('host-groups')
  groups(): HostGroupView[] {
    return [...this.keeper.fleet.all('hostGroup')]
      .sort(byName)
      .map((group) => groupView(this.keeper.fleet, group));
  }

  @Get('platforms')
  platforms(): Row<'platform'>[] {
    return [...this.keeper.fleet.all('platform')].sort(byName);
  }

  @Get('pools')
  async pools(): Promise<PoolView[]> {
    const pools = [...this.keeper.fleet.all('pool')];
    const measured = new Map(
      (await this.samples.newest(pools.map(({ id }) => id))).map(({ id, at, diskBytes }) => [
        id,
        { usedBytes: diskBytes, at },
      ]),
    );
    return pools.map(({ id }) => poolView(this.keeper.fleet, id, measured.get(id))).sort(byName);
  }

  @Get('placement-rules')
  rules(): PlacementRuleView[] {
    return [...this.keeper.fleet.all('placementRule')]
      .sort(byName)
      .map((rule) => ruleView(this.keeper.fleet, rule));
  }
}

@Module({ controllers: [PlacesController] })
export class PlacesModule {}
