import type { HostListRow, HostSheet, PoolView } from '@insel/contract';
import { capacity, cores, findingsOn, headroom, largestGuest, load, offersRoom, poolFigures, poolsOf, type Fleet } from '@insel/core';
import { addressView, byIp, markOf, named, namedById, siteName } from './common.js';
import { guestRow } from './guests.js';

export function hostRow(fleet: Fleet, id: string, now: string): HostListRow {
  const host = fleet.need('host', id);
  const room = headroom(fleet, id);
  const has = capacity(fleet, id);
  return {
    ...named(host),
    state: host.state,
    site: siteName(fleet, host.siteId),
    guests: load(fleet, id).guests.count,
    cores: cores(host),
    memoryForGuestsMiB: has.memory.value,
    memoryLeftMiB: room.memory.value,
    memoryTakenPercent: room.memoryUsed.value,
    vcpuForGuests: has.vcpu.value,
    vcpuLeft: room.vcpu.value,
    vcpuTakenPercent: room.vcpuUsed.value,
    storageLeftBytes: poolsOf(fleet, id).reduce((sum, pool) => sum + Math.max(0, poolFigures(fleet, pool.id).left.value), 0),
    limits: room.limits,
    offersRoom: offersRoom(host),
    finding: markOf(fleet, 'host', id, now),
  };
}

export function poolView(fleet: Fleet, id: string): PoolView {
  const { left, taken } = poolFigures(fleet, id);
  const hosts = fleet.referring('poolReach', 'poolId', id).map((reach) => namedById(fleet, 'host', reach.hostId));
  return { ...fleet.need('pool', id), left, taken, hosts };
}

export function hostSheet(fleet: Fleet, id: string, now: string): HostSheet {
  const host = fleet.need('host', id);
  const has = capacity(fleet, id);
  const room = headroom(fleet, id);
  const guests = fleet.referring('guest', 'hostId', id).sort((a, b) => a.name.localeCompare(b.name));
  return {
    host,
    site: host.siteId ? namedById(fleet, 'site', host.siteId) : null,
    platform: fleet.need('platform', host.platformId),
    figures: {
      memoryForGuests: has.memory,
      vcpuForGuests: has.vcpu,
      memoryLeft: room.memory,
      vcpuLeft: room.vcpu,
      memoryTaken: room.memoryUsed,
      vcpuTaken: room.vcpuUsed,
      largestGuest: largestGuest(fleet, id, 2),
    },
    limits: room.limits,
    pools: poolsOf(fleet, id).map((pool) => poolView(fleet, pool.id)),
    networks: fleet.referring('virtualSwitch', 'hostId', id).map((found) => ({
      id: found.id,
      mode: found.mode,
      network: found.networkId ? namedById(fleet, 'network', found.networkId) : null,
      guests: guests.filter((guest) => fleet.referring('adapter', 'guestId', guest.id).some((adapter) => adapter.networkId === found.networkId)).length,
    })),
    management: fleet.referring('address', 'hostId', id).sort(byIp).map((row) => addressView(fleet, row)),
    guests: guests.map((guest) => guestRow(fleet, guest.id, now)),
    findings: findingsOn(fleet, 'host', id, now),
  };
}
