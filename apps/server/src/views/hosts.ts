import type { CarriedView, HostListRow, HostSheet, VerificationView } from '@insel/contract';
import {
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
  outOfBandAddress,
  poolFigures,
  poolsOf,
  suitability,
  zoneOfMachine,
  type Fleet,
  type Row,
} from '@insel/core';
import { addressView, asRead, byIp, byName, markOf, named, namedById, siteName } from './common.js';
import { needViews } from './starts.js';
import { guestRow } from './guests.js';
import { bySlot, arrayView, poolView } from './pools.js';

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
