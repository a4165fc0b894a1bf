import type {
  ArrayView,
  CarriedView,
  HostListRow,
  HostSheet,
  PoolView,
  VerificationView,
} from '@insel/contract';
import {
  arrayFault,
  buildSheet,
  capacity,
  cores,
  findingsOn,
  formatMemory,
  fullName,
  headroom,
  hostLevel,
  largestGuest,
  lastVerification,
  load,
  managementAddresses,
  managementPlace,
  numaFit,
  offersRoom,
  optionOf,
  outOfBandAddress,
  poolFigures,
  poolsOf,
  suitability,
  zoneOfMachine,
  type Figure,
  type Fleet,
  type MeasuredUse,
  type Row,
} from '@insel/core';
import { addressView, asRead, byIp, byName, markOf, named, namedById, siteName } from './common.js';
import { needViews } from './starts.js';
import { guestRow } from './guests.js';

export function hostRow(fleet: Fleet, id: string, now: string): HostListRow {
  const host = fleet.need('host', id);
  const room = headroom(fleet, id);
  const has = capacity(fleet, id);
  return {
    ...named(host),
    revision: host.revision,
    state: host.state,
    site: siteName(fleet, host.siteId),
    group: fleet.get('hostGroup', host.groupId)?.name ?? '',
    guests: load(fleet, id).guests.count,
    cores: cores(host),
    memoryForGuestsMiB: has.memory.value,
    memoryLeftMiB: room.memory.value,
    memoryTakenPercent: room.memoryUsed.value,
    vcpuForGuests: has.vcpu.value,
    vcpuLeft: room.vcpu.value,
    vcpuTakenPercent: room.vcpuUsed.value,
    storageLeftBytes: poolsOf(fleet, id).reduce(
      (sum, pool) => sum + Math.max(0, poolFigures(fleet, pool.id).free.value),
      0,
    ),
    limits: room.limits,
    offersRoom: offersRoom(host),
    finding: markOf(fleet, 'host', id, now),
  };
}

export function poolView(fleet: Fleet, id: string, measured?: MeasuredUse): PoolView {
  const figures = poolFigures(fleet, id, measured);
  const { taken, promisedBytes } = figures;
  const hosts = fleet
    .referring('poolReach', 'poolId', id)
    .map((reach) => namedById(fleet, 'host', reach.hostId));
  const pool = fleet.need('pool', id);
  const ratio: Figure = {
    name: 'promise-ratio',
    title: `Promise ratio, pool ${pool.name}`,
    value: pool.usableBytes > 0 ? promisedBytes / pool.usableBytes : null,
    unit: 'ratio',
    lines: [
      {
        label: 'Promised to volumes, holds and snapshots',
        value: promisedBytes,
        unit: 'bytes',
        operator: '·',
      },
      {
        label: 'Usable',
        value: pool.usableBytes,
        unit: 'bytes',
        operator: '÷',
        from: { kind: 'pool', id },
      },
      {
        label: `Ratio; the limit is ${pool.promiseLimitPercent / 100}`,
        value: pool.usableBytes > 0 ? promisedBytes / pool.usableBytes : null,
        unit: 'ratio',
        operator: '=',
      },
    ],
    sources: taken.sources,
    policy: 'Promise limit of the pool',
  };
  const counts = {
    volumes: fleet.referringCount('volume', 'poolId', id),
    snapshots: fleet.referringCount('snapshot', 'poolId', id),
  };
  return {
    ...pool,
    ...counts,
    ...figures,
    ratio,
    hosts,
    serverGuest: pool.serverGuestId ? namedById(fleet, 'guest', pool.serverGuestId) : null,
  };
}

const bySlot = (key: 'bay' | 'slot' | 'name') => (a: object, b: object) =>
  String((a as Record<string, unknown>)[key]).localeCompare(
    String((b as Record<string, unknown>)[key]),
    undefined,
    { numeric: true },
  );
/** Reads and normal load that an array is judged by until somebody asks otherwise. */
const USUAL = { readShare: 0.7, rebuildShare: 0.5 };

function arrayView(fleet: Fleet, array: Row<'array'>): ArrayView {
  const disks = fleet.referring('disk', 'arrayId', array.id).sort(bySlot('bay'));
  const members = disks.filter((disk) => !disk.spare);
  const bytes = members.map((disk) => disk.bytes);
  const option = arrayFault(array.level, bytes, array.groups)
    ? null
    : optionOf(array.level, bytes, array.groups, {
        diskClass: members[0]!.class,
        spares: disks.length - members.length,
        ...USUAL,
      });
  return { ...array, disks, option };
}

function carriedView(
  fleet: Fleet,
  found: Row<'virtualSwitch'>,
  guests: Row<'guest'>[],
): CarriedView {
  const network = fleet.get('network', found.networkId);
  const ports = fleet
    .referring('uplink', 'switchId', found.id)
    .map((uplink) => fleet.need('port', uplink.portId))
    .sort(bySlot('name'));
  const cards = new Set(ports.map((port) => port.card).filter(Boolean));
  const inside =
    found.mode === 'NAT' || found.mode === 'routed' ? 'through the host itself' : 'no port needed';
  const survives =
    found.mode !== 'bridged'
      ? inside
      : ports.length === 0
        ? 'ports not recorded'
        : ports.length === 1
          ? 'single port'
          : cards.size === 1
            ? 'survives one port, not its card'
            : 'survives one port';
  return {
    ...asRead(found),
    mode: found.mode,
    untagged: found.untagged,
    bundle: found.bundle,
    translation: found.translation,
    natUplinkId: found.natUplinkId,
    network: network ? named(network) : null,
    vlanId: network?.vlanId ?? null,
    guests: guests.filter((guest) =>
      fleet
        .referring('adapter', 'guestId', guest.id)
        .some((adapter) => adapter.networkId === found.networkId),
    ).length,
    ports: ports.map(named),
    survives,
  };
}

function numaSentence(
  fleet: Fleet,
  host: Row<'host'>,
  forGuests: number,
  largestMiB: number | null,
): string {
  const nodes = fleet.referring('numaNode', 'hostId', host.id);
  if (nodes.length < 2) return '';
  const share = forGuests / nodes.length;
  const sizes = nodes.map((node) => ({
    cores: node.cores,
    memoryMiB: Math.floor(Math.min(node.memoryMiB, share)),
  }));
  const each = `${sizes[0]!.cores} cores and ${formatMemory(Math.min(...sizes.map((size) => size.memoryMiB)), 'down')} a node`;
  if (largestMiB === null) return `${nodes.length} nodes, ${each}`;
  const fit = numaFit(sizes, 2, largestMiB);
  return `${nodes.length} nodes, ${each}; the largest guest ${fit.fits ? (fit.nodes === 1 ? 'fits one node' : `spreads over ${fit.nodes} nodes`) : 'fits no node'}`;
}

function verificationViews(fleet: Fleet, hostId: string): VerificationView[] {
  const last = lastVerification(fleet, hostId);
  return fleet
    .referring('verification', 'hostId', hostId)
    .sort((a, b) => b.at.localeCompare(a.at))
    .map((row) => ({
      ...row,
      tests: fleet
        .referring('verificationTest', 'verificationId', row.id)
        .map(({ test, passed, remark }) => ({ test, passed, remark })),
      counts: last?.verification.id === row.id && last.counts,
    }));
}

const namedOrNull = (row: { id: string; name: string } | undefined) => (row ? named(row) : null);

export function hostSheet(fleet: Fleet, id: string, now: string): HostSheet {
  const host = fleet.need('host', id);
  const has = capacity(fleet, id);
  const room = headroom(fleet, id);
  const guests = fleet
    .referring('guest', 'hostId', id)
    .sort((a, b) => a.name.localeCompare(b.name));
  const largest = largestGuest(fleet, id, 2);
  const oob = outOfBandAddress(fleet, id);
  const place = managementPlace(fleet, id);
  return {
    host,
    site: namedOrNull(fleet.get('site', host.siteId)),
    zone: zoneOfMachine(fleet, id, null),
    rack: namedOrNull(fleet.get('rack', host.rackId)),
    group: namedOrNull(fleet.get('hostGroup', host.groupId)),
    outerGuest: namedOrNull(fleet.get('guest', host.outerGuestId)),
    feeds: fleet
      .referring('powerCord', 'hostId', id)
      .map(({ feedId }) => namedById(fleet, 'powerFeed', feedId))
      .sort(byName),
    platform: fleet.need('platform', host.platformId),
    figures: {
      memoryForGuests: has.memory,
      vcpuForGuests: has.vcpu,
      memoryLeft: room.memory,
      vcpuLeft: room.vcpu,
      memoryTaken: room.memoryUsed,
      vcpuTaken: room.vcpuUsed,
      largestGuest: largest,
      memoryReserve: has.reserve.memory,
      vcpuReserve: has.reserve.vcpu,
    },
    limits: room.limits,
    level: hostLevel(host),
    modules: fleet.referring('memoryModule', 'hostId', id).sort(bySlot('slot')),
    nodes: fleet.referring('numaNode', 'hostId', id).sort((a, b) => a.node - b.node),
    numa: numaSentence(fleet, host, has.memory.value, largest.value),
    arrays: fleet
      .referring('array', 'hostId', id)
      .sort(bySlot('name'))
      .map((array) => arrayView(fleet, array)),
    disks: fleet.referring('disk', 'hostId', id).sort(bySlot('bay')),
    ports: fleet.referring('port', 'hostId', id).sort(bySlot('name')),
    suitability: suitability(fleet, id),
    pools: poolsOf(fleet, id).map((pool) => poolView(fleet, pool.id)),
    networks: fleet
      .referring('virtualSwitch', 'hostId', id)
      .sort(bySlot('name'))
      .map((found) => carriedView(fleet, found, guests)),
    fullName: fullName(host),
    management: managementAddresses(fleet, id)
      .sort(byIp)
      .map((row) => addressView(fleet, row)),
    outOfBand: oob ? addressView(fleet, oob) : null,
    place: place && {
      gateway: place.gateway,
      nameServers: place.nameServers,
      vlanId: place.vlanId,
    },
    verifications: verificationViews(fleet, id),
    builds: fleet.referring('hostBuild', 'hostId', id),
    routes: fleet.referring('route', 'hostId', id),
    forwardedPorts: fleet.referring('forwardedPort', 'hostId', id),
    needs: needViews(fleet, 'hostId', id),
    tests: buildSheet(fleet, id).tests,
    guests: guests.map((guest) => guestRow(fleet, guest.id, now)),
    findings: findingsOn(fleet, 'host', id, now),
  };
}
