import { ListQuery, type GuestListRow, type GuestSheet, type ListWindow } from '@insel/contract';
import { headroom, rankPools, volumeBytes, type Fleet, type PoolRank, type Row } from '@insel/core';
import { Controller, Get, Module, Param, Query } from '@nestjs/common';
import { Clock } from '../clock.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { cacheKey, OrderCache, sortedIds, windowOf } from '../views/common.js';
import { firstAddress, guestRow, guestSheet } from '../views/guests.js';

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

@Controller('api')
class GuestsController {
  constructor(
    private readonly keeper: FleetKeeper,
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

  /** Pools that its host reaches, with what would be left of each if the volume lay there. */
  @Get('volumes/:id/places')
  volumePlaces(@Param('id') id: string): PoolRank[] {
    const { fleet } = this.keeper;
    const volume = fleet.get('volume', id);
    if (!volume) throw notFound('volume');
    const { hostId } = fleet.need('guest', volume.guestId);
    return rankPools(fleet, hostId, volume.bytes, volume.thin ? 'thin' : 'thick').filter(
      (pool) => pool.poolId !== volume.poolId,
    );
  }
}

@Module({ controllers: [GuestsController] })
export class GuestsModule {}
