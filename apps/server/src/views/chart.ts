import type { ChartHost, ChartQuery, ChartView } from '@insel/contract';
import {
  capacity,
  carriesNetwork,
  cores,
  countsOnHost,
  load,
  memoryDemand,
  poolFigures,
  poolsOf,
  type Fleet,
  type Row,
} from '@insel/core';
import { markOf, named, siteName } from './common.js';

const USUAL_TAKE = 60;
/** More hosts than that are drawn smaller, more than those without their guests. */
const FULL_UP_TO = 30;
const COURSES_UP_TO = 200;
const MOST_ON_MAP = 5000;

export function chartView(
  fleet: Fleet,
  { label, networkId, siteId, from = 0, take = USUAL_TAKE }: ChartQuery,
  now: string,
): ChartView {
  const hosts = [...fleet.all('host')].filter((host) => host.state !== 'retired');
  const counted = hosts.filter(
    (host) => !host.outerGuestId && (host.state === 'in service' || host.state === 'maintenance'),
  );
  const sum = (of: (host: Row<'host'>) => number) =>
    counted.reduce((total, host) => total + of(host), 0);
  const largest = hosts.reduce(
    (top, host) => ({
      vcpu: Math.max(top.vcpu, capacity(fleet, host.id).vcpu.value),
      memoryMiB: Math.max(top.memoryMiB, capacity(fleet, host.id).memory.value),
    }),
    { vcpu: 1, memoryMiB: 1 },
  );
  const matching = hosts.filter(
    (host) =>
      (!siteId || host.siteId === siteId) &&
      (!label || host.purpose === label || host.labels.includes(label)) &&
      (!networkId || carriesNetwork(fleet, host.id, networkId)),
  );
  const form =
    matching.length <= FULL_UP_TO ? 'full' : matching.length <= COURSES_UP_TO ? 'dense' : 'map';
  const most = form === 'map' ? MOST_ON_MAP : take;
  return {
    form,
    hosts: inPlace(fleet, matching)
      .slice(from, from + most)
      .map((host) => chartHost(fleet, host, now, form !== 'map')),
    matching: matching.length,
    largest,
    labels: [
      ...new Set(
        hosts.flatMap((host) => [...host.labels, ...(host.purpose ? [host.purpose] : [])]),
      ),
    ].sort(),
    networks: [...fleet.all('network')].map(named).sort((a, b) => a.name.localeCompare(b.name)),
    sites: [...fleet.all('site')].map(named).sort((a, b) => a.name.localeCompare(b.name)),
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

/** By site and rack, the largest first. */
function inPlace(fleet: Fleet, hosts: Row<'host'>[]): Row<'host'>[] {
  const key = (host: Row<'host'>) => ({
    host,
    place: `${siteName(fleet, host.siteId) || '~'}|${fleet.get('rack', host.rackId)?.name ?? ''}`,
    memory: capacity(fleet, host.id).memory.value,
  });
  return hosts
    .map(key)
    .sort(
      (a, b) =>
        a.place.localeCompare(b.place) ||
        b.memory - a.memory ||
        (a.host.name < b.host.name ? -1 : 1),
    )
    .map(({ host }) => host);
}

function chartHost(fleet: Fleet, host: Row<'host'>, now: string, withGuests: boolean): ChartHost {
  const has = capacity(fleet, host.id);
  const taken = load(fleet, host.id);
  const guests = (withGuests ? fleet.referring('guest', 'hostId', host.id) : [])
    .filter(countsOnHost)
    .map((guest) => ({
      ...named(guest),
      vcpu: guest.vcpu,
      memoryMiB: memoryDemand(fleet, host.id, guest.vcpu, guest.memoryMiB),
    }))
    .sort((a, b) => b.memoryMiB - a.memoryMiB || b.vcpu - a.vcpu || a.name.localeCompare(b.name));
  const parts =
    !withGuests ||
    (['disk', 'port', 'memoryModule'] as const).some(
      (kind) => fleet.referringCount(kind, 'hostId' as never, host.id) > 0,
    );
  return {
    ...named(host),
    state: host.state,
    site: siteName(fleet, host.siteId),
    siteId: host.siteId,
    rack: fleet.get('rack', host.rackId)?.name ?? '',
    nested: host.outerGuestId !== null,
    bare: !parts && host.flags === '',
    vcpu: has.vcpu.value,
    memoryMiB: has.memory.value,
    reserveVcpu: has.reserve.vcpu.value,
    reserveMiB: has.reserve.memory.value,
    takenVcpu: taken.vcpu,
    takenMiB: taken.memoryMiB,
    guests,
    pools: (withGuests ? poolsOf(fleet, host.id) : []).map((pool) => ({
      name: pool.name,
      takenPercent: poolFigures(fleet, pool.id).taken.value,
    })),
    finding: withGuests ? markOf(fleet, 'host', host.id, now) : null,
  };
}
