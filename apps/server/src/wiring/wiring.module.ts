/** Physical switches, lines, devices, static routes, and where the cables of hosts go. */
import {
  AddInsideNetworkBody,
  EditDeviceBody,
  EditLineBody,
  EditPhysicalSwitchBody,
  EditPortBody,
  EditSwitchPortsBody,
  EditVirtualSwitchBody,
  ListQuery,
  RecordDeviceBody,
  RecordLineBody,
  RecordPhysicalSwitchBody,
  RecordRouteBody,
  SetDevicePortsBody,
  SetSwitchPortsBody,
  SwitchesAlikeBody,
  type DeviceListRow,
  type DeviceView,
  type LineView,
  type MachineListRow,
  type ListWindow,
  type PatchTableView,
  type PhysicalSwitchView,
  type PlugView,
  type Written,
} from '@insel/contract';
import { addressesOf, type Kind } from '@insel/core';
import {
  Body,
  Controller,
  Delete,
  Get,
  Module,
  Param,
  Patch,
  Post,
  Put,
  Query,
  Req,
} from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { notFound } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
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
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly computation: Computation,
    private readonly orders: OrderCache,
  ) {}

  /** The owner of a part, whose ETag covers it. */
  private owner<K extends Kind>(kind: K, id: string, field: string): string {
    const row = this.keeper.fleet.get(kind, id) as unknown as Record<string, string> | undefined;
    if (!row) throw notFound(kind);
    return row[field]!;
  }

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
  @Post('physical-switches')
  recordSwitch(@Req() request: SignedIn, @Body() body: RecordPhysicalSwitchBody): Promise<Written> {
    return this.writes.recordOne(request, 'physicalSwitch', body);
  }
  @Patch('physical-switches/:id')
  editSwitch(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditPhysicalSwitchBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'physicalSwitch', id, body);
  }
  @Delete('physical-switches/:id')
  removeSwitch(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'physicalSwitch', id);
  }
  @Put('physical-switches/:id/ports')
  setPorts(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: SetSwitchPortsBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'physicalSwitch', id, {
      type: 'physical-switch.set-ports',
      id,
      ports: body.ports,
      ...extrasOf(body),
    });
  }
  @Post('switch-ports/edit')
  editPorts(@Req() request: SignedIn, @Body() body: EditSwitchPortsBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'switch-port.edit',
      ids: body.ids,
      fields: fieldsIn(body, 'ids', 'addVlans'),
      addVlans: body.addVlans,
      ...extrasOf(body),
    });
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
  @Post('lines')
  recordLine(@Req() request: SignedIn, @Body() body: RecordLineBody): Promise<Written> {
    return this.writes.recordOne(request, 'switchLine', body);
  }
  @Patch('lines/:id')
  editLine(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditLineBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'switchLine', id, body);
  }
  @Delete('lines/:id')
  removeLine(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'switchLine', id);
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
  @Post('devices')
  recordDevice(@Req() request: SignedIn, @Body() body: RecordDeviceBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'device.record',
      fields: fieldsIn(body, 'ports'),
      ports: body.ports,
      ...extrasOf(body),
    });
  }
  @Patch('devices/:id')
  editDevice(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditDeviceBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'device', id, body);
  }
  @Put('devices/:id/ports')
  setDevicePorts(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: SetDevicePortsBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'device', id, {
      type: 'device.set-ports',
      id,
      ports: body.ports,
      ...extrasOf(body),
    });
  }
  @Delete('devices/:id')
  removeDevice(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'device', id);
  }

  @Post('routes')
  recordRoute(@Req() request: SignedIn, @Body() body: RecordRouteBody): Promise<Written> {
    return this.writes.recordOne(request, 'route', body);
  }
  @Delete('routes/:id')
  removeRoute(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'route', id);
  }

  /** If-Match is the ETag of the host, which covers its ports. */
  @Patch('ports/:id')
  editPort(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditPortBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'host', this.owner('port', id, 'hostId'), {
      type: 'port.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }
  /** If-Match is the ETag of the host, which covers its switches. */
  @Patch('virtual-switches/:id')
  editVirtual(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditVirtualSwitchBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'host', this.owner('virtualSwitch', id, 'hostId'), {
      type: 'switch.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }
  @Post('hosts/:id/inside-networks')
  addInside(
    @Req() request: SignedIn,
    @Param('id') hostId: string,
    @Body() body: AddInsideNetworkBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'host.add-inside',
      hostId,
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }
  @Post('switches-alike')
  alike(@Req() request: SignedIn, @Body() body: SwitchesAlikeBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'host.switches-alike',
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }
}

@Module({ controllers: [WiringController] })
export class WiringModule {}
