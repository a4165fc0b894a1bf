import type { ChartHost, ChartView } from '@insel/contract';
import { capacity, cores, countsOnHost, load, memoryDemand, poolFigures, poolsOf, type Fleet, type Row } from '@insel/core';
import { markOf, named, siteName } from './common.js';

export function chartView(fleet: Fleet, now: string): ChartView {
  const hosts = [...fleet.all('host')].filter((host) => host.state !== 'retired');
  const counted = hosts.filter((host) => !host.outerGuestId && (host.state === 'in service' || host.state === 'maintenance'));
  const sum = (of: (host: Row<'host'>) => number) => counted.reduce((total, host) => total + of(host), 0);
  return {
    hosts: hosts.map((host) => chartHost(fleet, host, now)).sort((a, b) => (a.site || '~').localeCompare(b.site || '~') || a.rack.localeCompare(b.rack) || b.memoryMiB - a.memoryMiB || a.name.localeCompare(b.name)),
    networks: [...fleet.all('network')].map(named).sort((a, b) => a.name.localeCompare(b.name)),
    totals: {
      hosts: counted.length,
      cores: sum(cores),
      memoryForGuestsMiB: sum((host) => capacity(fleet, host.id).memory.value),
      memoryTakenMiB: sum((host) => load(fleet, host.id).memoryMiB),
      vcpuForGuests: sum((host) => capacity(fleet, host.id).vcpu.value),
      vcpuTaken: sum((host) => load(fleet, host.id).vcpu),
    },
  };
}

function chartHost(fleet: Fleet, host: Row<'host'>, now: string): ChartHost {
  const has = capacity(fleet, host.id);
  const guests = fleet
    .referring('guest', 'hostId', host.id)
    .filter(countsOnHost)
    .map((guest) => ({ ...named(guest), vcpu: guest.vcpu, memoryMiB: memoryDemand(fleet, host.id, guest.vcpu, guest.memoryMiB) }))
    .sort((a, b) => b.memoryMiB - a.memoryMiB || b.vcpu - a.vcpu || a.name.localeCompare(b.name));
  const parts = (['disk', 'port', 'memoryModule'] as const).some((kind) => fleet.referringCount(kind, 'hostId' as never, host.id) > 0);
  return {
    ...named(host),
    state: host.state,
    site: siteName(fleet, host.siteId),
    rack: fleet.get('rack', host.rackId)?.name ?? '',
    purpose: host.purpose,
    labels: host.labels,
    networkIds: fleet.referring('virtualSwitch', 'hostId', host.id).flatMap((found) => found.networkId ?? []),
    nested: host.outerGuestId !== null,
    bare: !parts && host.flags === '',
    vcpu: has.vcpu.value,
    memoryMiB: has.memory.value,
    reserveVcpu: has.reserve.vcpu.value,
    reserveMiB: has.reserve.memory.value,
    guests,
    pools: poolsOf(fleet, host.id).map((pool) => ({ name: pool.name, takenPercent: poolFigures(fleet, pool.id).taken.value })),
    finding: markOf(fleet, 'host', host.id, now),
  };
}
