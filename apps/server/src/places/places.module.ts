/** Sites, racks, host groups, platforms, pools, backups, and rules between guests: what hosts and guests refer to. */
import {
  EditBackupBody,
  EditHostGroupBody,
  EditPlatformBody,
  EditPoolBody,
  EditRackBody,
  EditRoutingDomainBody,
  EditSiteBody,
  PlacementRuleBody,
  RecordBackupBody,
  RecordHostGroupBody,
  RecordPlatformBody,
  RecordPoolBody,
  RecordRackBody,
  RecordRoutingDomainBody,
  RecordSiteBody,
  type HostGroupView,
  type PlacementRuleView,
  type PoolView,
  type RackView,
  type SiteView,
  type Written,
} from '@insel/contract';
import { MAC_BLOCK, macBlockUse, parseMacBlock, refuse, type Row } from '@insel/core';
import { Body, Controller, Delete, Get, Module, Param, Patch, Post, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { refused } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { FleetKeeper } from '../record/keeper.js';
import { byName } from '../views/common.js';
import { poolView } from '../views/hosts.js';
import { groupView, rackView, ruleView } from '../views/places.js';

@Controller('api')
class PlacesController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
  ) {}

  @Get('sites')
  sites(): SiteView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('site')].sort(byName).map(({ id, name, revision, macBlock }) => {
      const { assigned, repetition } = macBlockUse(fleet, macBlock || MAC_BLOCK);
      return { id, name, revision, macBlock, assignedMacs: assigned, repetition };
    });
  }
  @Patch('sites/:id')
  editSite(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditSiteBody,
  ): Promise<Written> {
    const read = body.macBlock?.trim() ? parseMacBlock(body.macBlock) : undefined;
    if (read && !read.ok)
      throw refused(
        refuse({
          code: 'bad-mac-block',
          field: 'macBlock',
          sentence: read.sentence,
          remedy: read.suggestion && `Write ${read.suggestion}.`,
        }),
      );
    return this.writes.editOne(request, 'site', id, body, read ? { macBlock: read.value } : {});
  }

  @Get('routing-domains')
  domains(): Row<'routingDomain'>[] {
    return [...this.keeper.fleet.all('routingDomain')];
  }
  @Post('routing-domains')
  recordDomain(@Req() request: SignedIn, @Body() body: RecordRoutingDomainBody): Promise<Written> {
    return this.writes.recordOne(request, 'routingDomain', body);
  }
  @Patch('routing-domains/:id')
  editDomain(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditRoutingDomainBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'routingDomain', id, body);
  }
  @Delete('routing-domains/:id')
  removeDomain(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'routingDomain', id);
  }
  @Post('sites')
  recordSite(@Req() request: SignedIn, @Body() body: RecordSiteBody): Promise<Written> {
    return this.writes.make(request, { type: 'site.record', name: body.name, ...extrasOf(body) });
  }

  @Get('racks')
  racks(): RackView[] {
    return [...this.keeper.fleet.all('rack')]
      .sort(byName)
      .map((rack) => rackView(this.keeper.fleet, rack));
  }
  @Post('racks')
  recordRack(@Req() request: SignedIn, @Body() body: RecordRackBody): Promise<Written> {
    return this.writes.recordOne(request, 'rack', body);
  }
  @Patch('racks/:id')
  editRack(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditRackBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'rack', id, body);
  }
  @Delete('racks/:id')
  removeRack(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'rack', id);
  }

  @Get('host-groups')
  groups(): HostGroupView[] {
    return [...this.keeper.fleet.all('hostGroup')]
      .sort(byName)
      .map((group) => groupView(this.keeper.fleet, group));
  }
  @Post('host-groups')
  recordGroup(@Req() request: SignedIn, @Body() body: RecordHostGroupBody): Promise<Written> {
    return this.writes.recordOne(request, 'hostGroup', body);
  }
  @Patch('host-groups/:id')
  editGroup(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditHostGroupBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'hostGroup', id, body);
  }
  @Delete('host-groups/:id')
  removeGroup(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'hostGroup', id);
  }

  @Get('platforms')
  platforms(): Row<'platform'>[] {
    return [...this.keeper.fleet.all('platform')].sort(byName);
  }
  @Post('platforms')
  recordPlatform(@Req() request: SignedIn, @Body() body: RecordPlatformBody): Promise<Written> {
    return this.writes.recordOne(request, 'platform', body);
  }
  @Patch('platforms/:id')
  editPlatform(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditPlatformBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'platform', id, body);
  }
  @Delete('platforms/:id')
  removePlatform(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'platform', id);
  }

  @Post('backups')
  recordBackup(@Req() request: SignedIn, @Body() body: RecordBackupBody): Promise<Written> {
    return this.writes.recordOne(request, 'backup', body);
  }
  @Patch('backups/:id')
  editBackup(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditBackupBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'backup', id, body);
  }
  @Delete('backups/:id')
  removeBackup(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'backup', id);
  }

  @Get('pools')
  pools(): PoolView[] {
    return [...this.keeper.fleet.all('pool')]
      .map((pool) => poolView(this.keeper.fleet, pool.id))
      .sort(byName);
  }
  @Post('pools')
  recordPool(@Req() request: SignedIn, @Body() body: RecordPoolBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'pool.record',
      fields: fieldsIn(body, 'hostIds'),
      hostIds: body.hostIds,
      ...extrasOf(body),
    });
  }
  @Patch('pools/:id')
  editPool(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditPoolBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'pool', id, {
      type: 'pool.edit',
      id,
      fields: fieldsIn(body, 'hostIds'),
      hostIds: body.hostIds,
      ...extrasOf(body),
    });
  }

  @Get('placement-rules')
  rules(): PlacementRuleView[] {
    return [...this.keeper.fleet.all('placementRule')]
      .sort(byName)
      .map((rule) => ruleView(this.keeper.fleet, rule));
  }
  @Post('placement-rules')
  recordRule(@Req() request: SignedIn, @Body() body: PlacementRuleBody): Promise<Written> {
    return this.writes.make(request, { type: 'rule.set', ...fieldsIn(body), ...extrasOf(body) });
  }
  @Patch('placement-rules/:id')
  editRule(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: PlacementRuleBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'placementRule', id, {
      type: 'rule.set',
      id,
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }
  @Delete('placement-rules/:id')
  removeRule(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'rule.remove', id });
  }
}

@Module({ controllers: [PlacesController] })
export class PlacesModule {}
