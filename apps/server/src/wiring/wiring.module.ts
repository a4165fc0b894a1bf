/** Physical switches, lines, devices, static routes, and where the cables of hosts go. */
import {
  ListQuery,
  type DeviceListRow,
  type DeviceView,
  type LineView,
  type MachineListRow,
  type ListWindow,
  type PatchTableView,
  type PhysicalSwitchView,
  type PlugView,
} from '@insel/contract';
import { addressesOf } from '@insel/core';
import { Controller, Get, Module, Param, Query } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { byName, cacheKey, OrderCache, sortedIds, windowOf } from '../views/common.js';
import {
  deviceRow,
  deviceView,
  lineView,
  machineList,
  physicalSwitchView,
  plugView,
} from '../views/wiring.js';

@Controller('api')
class WiringController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly computation: Computation,
    private readonly orders: OrderCache,
  ) {}

  /** Hosts, guests and devices together, by part of a name or address: for a choice of any machine. */
  @Get('machines')
  machines(@Query() query: ListQuery): ListWindow<MachineListRow> {
    const { fleet } = this.keeper;
    return machineList(fleet, query.q ?? '', query.from ?? 0, query.take ?? 12);
  }
  @Get('machines/:id')
  machine(@Param('id') id: string): { machine: { name: string } } {
    const { fleet } = this.keeper;
    const found = fleet.get('host', id) ?? fleet.get('guest', id) ?? fleet.get('device', id);
    if (!found) throw notFound('machine');
    return { machine: { name: found.name } };
  }

  /** In the worker: the first one after a change draws the wiring of the whole fleet. */
  @Get('patch-table')
  patch(@Query() query: ListQuery): Promise<PatchTableView> {
    return this.computation.ask('patchTable', {
      siteId: query.siteId,
      from: query.from ?? 0,
      take: query.take ?? 100,
    });
  }

  @Get('physical-switches')
  switches(): PhysicalSwitchView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('physicalSwitch')]
      .sort(byName)
      .map((found) => physicalSwitchView(fleet, found.id, this.clock.now()));
  }
  @Get('plugs')
  plugs(): PlugView {
    return plugView(this.keeper.fleet);
  }

  @Get('lines')
  lines(): LineView[] {
    return [...this.keeper.fleet.all('switchLine')]
      .sort(byName)
      .map((line) => lineView(this.keeper.fleet, line));
  }

  @Get('devices')
  devices(@Query() query: ListQuery): ListWindow<DeviceListRow> {
    const { fleet } = this.keeper;
    const ids = this.orders.ids(fleet.revision, cacheKey('device', query), () => {
      const wanted = query.q?.toLowerCase();
      const rows = [...fleet.all('device')].filter(
        (device) =>
          !wanted ||
          device.name.toLowerCase().includes(wanted) ||
          addressesOf(fleet, 'device', device.id).some((row) => row.ip.includes(wanted)),
      );
      return sortedIds(
        rows,
        (row) => (query.sort === 'kind' ? row.kind : row.name.toLowerCase()),
        query.order,
      );
    });
    return windowOf(fleet, ids, query, (id) =>
      deviceRow(fleet, fleet.need('device', id), this.clock.now()),
    );
  }
  @Get('devices/:id')
  device(@Param('id') id: string): { device: DeviceView } {
    if (!this.keeper.fleet.get('device', id)) throw notFound('device');
    return { device: deviceView(this.keeper.fleet, id, this.clock.now()) };
  }
}

@Module({ controllers: [WiringController] })
export class WiringModule {}
