import type { AdapterView, GuestListRow, GuestSheet, IdentityView } from '@insel/contract';
import {
  adapterName,
  macOfAdapter,
  checkedAt,
  findingsOn,
  headroom,
  linkLocal,
  machineName,
  memoryDemand,
  overheadMiB,
  placeOf,
  platformOf,
  practice,
  stateEffects,
  volumeBytes,
  zoneOfMachine,
  type Figure,
  type Fleet,
  type Row,
} from '@insel/core';
import { addressView, byIp, markOf, named, namedById } from './common.js';
import { driveViews, guestBuildView, snapshotViews } from './guest-lifecycle.js';
import { needViews } from './starts.js';
import { migrationRow } from './migrations.js';

export const adaptersOf = (fleet: Fleet, guestId: string): Row<'adapter'>[] =>
  fleet.referring('adapter', 'guestId', guestId).sort((a, b) => a.position - b.position);

/** First address of a guest, for its line in a list. */
export function firstAddress(fleet: Fleet, guestId: string): string {
  for (const adapter of adaptersOf(fleet, guestId)) {
    const [address] = fleet.referring('address', 'adapterId', adapter.id).sort(byIp);
    if (address) return address.ip;
  }
  return '';
}

function openItems(fleet: Fleet, guestId: string): number {
  return fleet
    .referring('clone', 'guestId', guestId)
    .flatMap((clone) => fleet.referring('identityItem', 'cloneId', clone.id))
    .filter((item) => item.doneAt === null).length;
}

export function guestRow(fleet: Fleet, id: string, now: string): GuestListRow {
  const guest = fleet.need('guest', id);
  return {
    ...named(guest),
    revision: guest.revision,
    state: guest.state,
    template: guest.template,
    family: guest.family,
    host: namedById(fleet, 'host', guest.hostId),
    vcpu: guest.vcpu,
    memoryMiB: guest.memoryMiB,
    volumeBytes: volumeBytes(fleet, id),
    address: firstAddress(fleet, id),
    headroomMiB: headroom(fleet, guest.hostId).memory.value,
    openItems: openItems(fleet, id),
    role: fleet.get('profile', guest.profileId)?.name ?? '',
    owner: guest.owner,
    endDate: guest.endDate,
    finding: markOf(fleet, 'guest', id, now),
  };
}

function identityOf(fleet: Fleet, guestId: string): IdentityView | null {
  const [clone] = fleet.referring('clone', 'guestId', guestId);
  if (!clone) return null;
  return {
    cloneId: clone.id,
    origin: namedById(fleet, 'guest', clone.originId),
    copy: clone.copy,
    madeAt: clone.madeAt,
    items: fleet
      .referring('identityItem', 'cloneId', clone.id)
      .sort((a, b) => (a.id < b.id ? -1 : 1)),
  };
}

function linkLocalOf(mac: string | null): string {
  const made = mac ? linkLocal(mac) : undefined;
  return made?.ok ? made.value : '';
}

function adapterCaution(fleet: Fleet, guest: Row<'guest'>): string {
  const platform = platformOf(fleet, guest.hostId);
  if (!platform.adapterChangeNeedsRestart || guest.state !== 'in service') return '';
  return `${platform.name} takes up a change of adapters only when ${guest.name} is restarted.`;
}

function adapterView(fleet: Fleet, guest: Row<'guest'>, adapter: Row<'adapter'>): AdapterView {
  return {
    ...adapter,
    network: adapter.networkId ? namedById(fleet, 'network', adapter.networkId) : null,
    addresses: fleet
      .referring('address', 'adapterId', adapter.id)
      .sort(byIp)
      .map((row) => addressView(fleet, row)),
    trunk: fleet.get('adapter', adapter.trunkId)?.position ?? null,
    linkLocal: linkLocalOf(macOfAdapter(fleet, adapter)),
    inside: adapterName(fleet, guest, adapter),
    switchName:
      fleet
        .referring('virtualSwitch', 'hostId', guest.hostId)
        .find((found) => found.networkId !== null && found.networkId === adapter.networkId)?.name ??
      '',
    vlanId: fleet.get('network', adapter.networkId)?.vlanId ?? null,
    side: sideOf(fleet, guest, adapter),
  };
}

/** The outside of a router is where its gateway is: the first adapter whose subnet names one, or on whose subnet the noted one lies. */
function sideOf(fleet: Fleet, guest: Row<'guest'>, adapter: Row<'adapter'>): AdapterView['side'] {
  if (!guest.forwards) return null;
  return placeOf({ fleet, guest, adapters: adaptersOf(fleet, guest.id) }).adapter?.id === adapter.id
    ? 'outside'
    : 'inside';
}

function demandFigure(fleet: Fleet, guest: Row<'guest'>): Figure {
  const platform = platformOf(fleet, guest.hostId);
  return {
    name: 'memory-demand',
    title: `Memory ${guest.name} asks of its host`,
    value: memoryDemand(fleet, guest.hostId, guest.vcpu, guest.memoryMiB),
    unit: 'MiB',
    lines: [
      {
        label: 'Its memory',
        value: guest.memoryMiB,
        unit: 'MiB',
        operator: '·',
        from: { kind: 'guest', id: guest.id },
      },
      {
        label: `Overhead: ${platform.overheadMiB} MiB + ${platform.overheadPerVcpuMiB} MiB per vCPU + ${platform.overheadPercent} % + video ${platform.videoMiB} MiB`,
        value: overheadMiB(platform, guest.vcpu, guest.memoryMiB),
        unit: 'MiB',
        operator: '+',
      },
      {
        label: 'Asked',
        value: memoryDemand(fleet, guest.hostId, guest.vcpu, guest.memoryMiB),
        unit: 'MiB',
        operator: '=',
      },
    ],
    sources: [practice('Overhead of a guest')],
    policy: `Properties of the platform ${platform.name}`,
  };
}

const nameOrNull = (row: { id: string; name: string } | undefined) => (row ? named(row) : null);

/** The volume whose blocks a dependent clone shares, and whose it is. */
function baseOf(fleet: Fleet, volume: Row<'volume'>) {
  const base = fleet.get('volume', volume.baseId);
  return base
    ? { id: base.id, name: base.label, guest: namedById(fleet, 'guest', base.guestId) }
    : null;
}

export function guestSheet(fleet: Fleet, id: string, now: string): GuestSheet {
  const guest = fleet.need('guest', id);
  const { done, total } = guestBuildView(fleet, id);
  return {
    guest,
    host: namedById(fleet, 'host', guest.hostId),
    zone: zoneOfMachine(fleet, guest.hostId, null),
    demand: demandFigure(fleet, guest),
    group: nameOrNull(fleet.get('guestGroup', guest.groupId)),
    volumes: fleet.referring('volume', 'guestId', id).map((volume) => ({
      ...volume,
      pool: namedById(fleet, 'pool', volume.poolId),
      base: baseOf(fleet, volume),
      dependents: fleet.referringCount('volume', 'baseId', volume.id),
    })),
    drives: driveViews(fleet, id),
    snapshots: snapshotViews(fleet, id, now),
    build: { done, total, ...checkedAt(fleet.referring('buildTick', 'guestId', id)) },
    adapters: adaptersOf(fleet, id).map((adapter) => adapterView(fleet, guest, adapter)),
    identity: identityOf(fleet, id),
    clones: fleet
      .referring('clone', 'originId', id)
      .map((clone) => namedById(fleet, 'guest', clone.guestId)),
    migrations: fleet
      .referring('migration', 'guestId', id)
      .map((migration) => migrationRow(fleet, migration.id, now)),
    states: stateEffects(fleet, guest),
    routes: fleet.referring('route', 'guestId', id),
    forwardedPorts: fleet.referring('forwardedPort', 'guestId', id),
    adapterCaution: adapterCaution(fleet, guest),
    needs: needViews(fleet, 'guestId', id),
    fullName: machineName(fleet, 'guest', id)?.full ?? guest.name,
    backups: fleet.referring('backup', 'guestId', id).map((copy) => ({
      ...copy,
      pool: copy.poolId ? namedById(fleet, 'pool', copy.poolId) : null,
      storeGuest: copy.storeGuestId ? namedById(fleet, 'guest', copy.storeGuestId) : null,
    })),
    findings: findingsOn(fleet, 'guest', id, now),
  };
}
