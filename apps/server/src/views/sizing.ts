/** Size, places, devices and names of a guest to be, from its role and load. In the worker: it tries every host. */
import type { SizeAnswer, SizeGuestBody } from '@insel/contract';
import {
  adviseDevices,
  drivesOf,
  interfaceName,
  platformOf,
  rankHosts,
  sizeFaults,
  suggestSize,
  type Context,
  type Fleet,
  type HostRank,
} from '@insel/core';

const MOST_HOSTS = 100;

/** Null where there is no such role. */
export function sizeAnswer(fleet: Fleet, body: SizeGuestBody, context: Context): SizeAnswer | null {
  const profile = fleet.get('profile', body.profileId);
  if (!profile) return null;
  const suggested = suggestSize(profile, {
    load: body.load ?? null,
    growthPercent: body.growthPercent ?? 0,
    years: body.years ?? 0,
  });
  const chosen = {
    vcpu: body.vcpu ?? suggested.vcpu.value,
    memoryMiB: body.memoryMiB ?? suggested.memory.value,
    systemBytes: body.systemBytes ?? suggested.system.value,
    dataBytes: body.dataBytes ?? suggested.data?.value ?? 0,
  };
  const family = body.family ?? profile.family;
  const networkIds = body.networkIds.filter((id) => fleet.get('network', id));
  const hosts = rankHosts(
    fleet,
    {
      ...chosen,
      bytes: chosen.systemBytes + chosen.dataBytes,
      networkIds,
      processorMode: 'unknown',
      family,
      profileId: profile.id,
      groupId: body.groupId ?? null,
      ruleIds: body.ruleIds ?? [],
    },
    context,
  );
  const host = fleet.get('host', body.hostId ?? bestOf(hosts));
  const shown = hosts.slice(0, MOST_HOSTS);
  const own = hosts.find((rank) => rank.hostId === host?.id);
  return {
    suggested,
    chosen,
    faults: sizeFaults(fleet, chosen, profile, host ?? null),
    hosts: own && !shown.includes(own) ? [...shown, own] : shown,
    hostsInAll: hosts.length,
    hostId: host?.id ?? null,
    devices: host
      ? adviseDevices(
          fleet,
          drivesOf(family, profile),
          platformOf(fleet, host.id),
          matesOf(fleet, host.id),
          body.movesRunning === false ? 'stopped' : 'running',
        )
      : [],
    interfaces: host
      ? Array.from({ length: Math.max(profile.adapters, networkIds.length) }, (_, i) =>
          interfaceName(family, platformOf(fleet, host.id), i),
        )
      : [],
  };
}

const bestOf = (hosts: readonly HostRank[]): string | null =>
  (hosts.find((rank) => rank.fits) ?? hosts[0])?.hostId ?? null;

/** Hosts that it may have to go to: those of its group, itself first. */
function matesOf(fleet: Fleet, hostId: string): string[] {
  const { groupId } = fleet.need('host', hostId);
  const mates = groupId
    ? fleet
        .referring('host', 'groupId', groupId)
        .filter((host) => host.state === 'in service' && host.id !== hostId)
    : [];
  return [hostId, ...mates.map((host) => host.id)];
}
