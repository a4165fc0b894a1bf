import {
  AddAdapterBody,
  AddVolumeBody,
  EditAdapterBody,
  EditGuestBody,
  EditVolumeBody,
  ListQuery,
  MakeClonesBody,
  PlanGuestBody,
  RecordGuestBody,
  SetGuestStateBody,
  SwapAdaptersBody,
  type GuestListRow,
  type GuestSheet,
  type ListWindow,
  type Preview,
  type Written,
} from '@insel/contract';
import { headroom, rankPools, volumeBytes, type Fleet, type PoolRank, type Row } from '@insel/core';
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
import { cacheKey, OrderCache, sortedIds, windowOf } from '../views/common.js';
import { firstAddress, guestRow, guestSheet } from '../views/guests.js';
import { guestInput } from '../views/guest-input.js';
import { preview } from '../views/preview.js';

/** A value of a guest's host, worked out once for each host. */
function perHost(
  value: (fleet: Fleet, hostId: string) => string | number,
): (fleet: Fleet) => (guest: Row<'guest'>) => string | number {
  return (fleet) => {
    const kept = new Map<string, string | number>();
    return ({ hostId }) => {
      const held = kept.get(hostId);
      if (held !== undefined) return held;
      const found = value(fleet, hostId);
      kept.set(hostId, found);
      return found;
    };
  };
}

/** Orders of the list: the key of a guest, in a fleet. */
const SORTS: Record<string, (fleet: Fleet) => (guest: Row<'guest'>) => string | number> = {
  name: () => (guest) => guest.name.toLowerCase(),
  state: () => (guest) => guest.state,
  host: perHost((fleet, hostId) => fleet.need('host', hostId).name.toLowerCase()),
  vcpu: () => (guest) => guest.vcpu,
  memory: () => (guest) => guest.memoryMiB,
  storage: (fleet) => (guest) => volumeBytes(fleet, guest.id),
  headroom: perHost((fleet, hostId) => headroom(fleet, hostId).memory.value),
  role: (fleet) => (guest) => fleet.get('profile', guest.profileId)?.name.toLowerCase() ?? '~',
  owner: () => (guest) => guest.owner.toLowerCase() || '~',
  end: () => (guest) => guest.endDate ?? '~',
};

const planChange = (body: PlanGuestBody) => ({
  type: 'guest.plan' as const,
  ...guestInput(body),
  ruleIds: body.ruleIds,
  ...extrasOf(body),
});
const recordChange = (body: RecordGuestBody) => ({
  type: 'guest.record' as const,
  ...guestInput(body),
  ...extrasOf(body),
});

const clonesChange = (originId: string, body: MakeClonesBody) => ({
  type: 'clone.make' as const,
  originId,
  ...fieldsIn(body),
  ...extrasOf(body),
});

@Controller('api')
class GuestsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly orders: OrderCache,
  ) {}

  @Get('guests')
  list(@Query() query: ListQuery): ListWindow<GuestListRow> {
    const { fleet } = this.keeper;
    const ids = this.orders.ids(fleet.revision, cacheKey('guest', query), () => {
      const wanted = query.q?.toLowerCase();
      const rows = [...fleet.all('guest')].filter(
        (guest) =>
          (!query.state || guest.state === query.state) &&
          (!query.profileId || guest.profileId === query.profileId) &&
          (!query.groupId || guest.groupId === query.groupId) &&
          (!query.poolId ||
            fleet
              .referring('volume', 'guestId', guest.id)
              .some((volume) => volume.poolId === query.poolId)) &&
          (!query.hostId || guest.hostId === query.hostId) &&
          (!query.networkId ||
            fleet
              .referring('adapter', 'guestId', guest.id)
              .some((adapter) => adapter.networkId === query.networkId)) &&
          (!wanted ||
            guest.name.toLowerCase().includes(wanted) ||
            guest.purpose.toLowerCase().includes(wanted) ||
            firstAddress(fleet, guest.id).includes(wanted)),
      );
      return sortedIds(rows, (SORTS[query.sort ?? 'name'] ?? SORTS.name!)(fleet), query.order);
    });
    return windowOf(fleet, ids, query, (id) => guestRow(fleet, id, this.clock.now()));
  }

  @Get('guests/:id')
  sheet(@Param('id') id: string): GuestSheet {
    if (!this.keeper.fleet.get('guest', id)) throw notFound('guest');
    return guestSheet(this.keeper.fleet, id, this.clock.now());
  }

  @Post('guests/plan')
  plan(@Req() request: SignedIn, @Body() body: PlanGuestBody): Promise<Written> {
    return this.writes.make(request, planChange(body));
  }

  @Post('guests/plan/preview')
  previewPlan(@Req() request: SignedIn, @Body() body: PlanGuestBody): Preview {
    return preview(this.keeper.fleet, planChange(body), edgeAt(this.clock.now(), request.account));
  }

  @Post('guests/record')
  record(@Req() request: SignedIn, @Body() body: RecordGuestBody): Promise<Written> {
    return this.writes.make(request, recordChange(body));
  }

  @Post('guests/record/preview')
  previewRecord(@Req() request: SignedIn, @Body() body: RecordGuestBody): Preview {
    return preview(
      this.keeper.fleet,
      recordChange(body),
      edgeAt(this.clock.now(), request.account),
    );
  }

  @Patch('guests/:id')
  edit(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditGuestBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'guest', id, {
      type: 'guest.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Post('guests/:id/state')
  setState(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: SetGuestStateBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'guest.set-state',
      id,
      state: body.state,
      ...extrasOf(body),
    });
  }

  @Post('guests/:id/clones')
  clone(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: MakeClonesBody,
  ): Promise<Written> {
    return this.writes.make(request, clonesChange(id, body));
  }

  @Post('guests/:id/clones/preview')
  previewClones(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: MakeClonesBody,
  ): Preview {
    return preview(
      this.keeper.fleet,
      clonesChange(id, body),
      edgeAt(this.clock.now(), request.account),
    );
  }

  @Post('guests/:id/volumes')
  addVolume(
    @Req() request: SignedIn,
    @Param('id') guestId: string,
    @Body() body: AddVolumeBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'volume.add',
      guestId,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  /** If-Match is the ETag of the guest, which covers its volumes. */
  @Patch('volumes/:id')
  editVolume(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditVolumeBody,
  ): Promise<Written> {
    const volume = this.keeper.fleet.get('volume', id);
    if (!volume) throw notFound('volume');
    return this.writes.edit(request, 'guest', volume.guestId, {
      type: 'volume.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }

  /** Pools that its host reaches, with what would be left of each if the volume lay there. */
  @Get('volumes/:id/places')
  volumePlaces(@Param('id') id: string): PoolRank[] {
    const { fleet } = this.keeper;
    const volume = fleet.get('volume', id);
    if (!volume) throw notFound('volume');
    return rankPools(fleet, fleet.need('guest', volume.guestId).hostId, volume.bytes).filter(
      (pool) => pool.poolId !== volume.poolId,
    );
  }

  @Delete('volumes/:id')
  deleteVolume(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'volume.delete', id });
  }

  @Post('guests/:id/adapters')
  addAdapter(
    @Req() request: SignedIn,
    @Param('id') guestId: string,
    @Body() body: AddAdapterBody,
  ): Promise<Written> {
    const address =
      body.take === 'given' ? { take: 'given' as const, ip: body.ip ?? '' } : { take: body.take };
    return this.writes.make(request, {
      type: 'adapter.add',
      guestId,
      networkId: body.networkId,
      mac: body.mac,
      address,
      ...extrasOf(body),
    });
  }

  @Delete('adapters/:id')
  removeAdapter(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.make(request, { type: 'adapter.remove', id });
  }

  @Post('adapters/swap')
  swapAdapters(@Req() request: SignedIn, @Body() body: SwapAdaptersBody): Promise<Written> {
    return this.writes.make(request, {
      type: 'adapter.swap',
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }

  /** If-Match is the ETag of the guest, which covers its adapters. */
  @Patch('adapters/:id')
  editAdapter(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditAdapterBody,
  ): Promise<Written> {
    const adapter = this.keeper.fleet.get('adapter', id);
    if (!adapter) throw notFound('adapter');
    return this.writes.edit(request, 'guest', adapter.guestId, {
      type: 'adapter.edit',
      id,
      fields: fieldsIn(body),
      ...extrasOf(body),
    });
  }
}

@Module({ controllers: [GuestsController] })
export class GuestsModule {}
