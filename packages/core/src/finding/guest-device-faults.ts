import { practice, standard } from '../figure/index.js';
import { drivesOf, sizeFaults } from '../guest/index.js';
import { commonLevel } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** Devices that break the first boot or a move, and sizes that its host or role does not bear. */
export const guestDeviceFaults = ruleAt(
  'guest',
  'device-not-driven',
  (fleet, guest): RuleFinding[] => {
    if (guest.template) return [];
    const host = fleet.need('host', guest.hostId);
    const platform = fleet.need('platform', host.platformId);
    const first = guest.state === 'planned' || guest.state === 'building';
    const found = notOffered(fleet, guest, platform);
    if (first) found.push(...notDriven(fleet, guest));
    found.push(...untaggable(fleet, guest));
    if (guest.firmware !== 'unknown') found.push(...firmwareFault(guest, platform, first));
    if (guest.processorMode !== 'unknown')
      found.push(...processorFault(fleet, guest, host, platform));
    if (guest.profileId !== null || isWide(guest, host))
      found.push(...unfitSize(fleet, guest, host));
    return found;
  },
);

/** Its VLAN was taken from the network, or it was put on another one, after the sub-interface was added. */
function untaggable(fleet: Fleet, guest: Row<'guest'>): RuleFinding[] {
  return fleet.referring('adapter', 'guestId', guest.id).flatMap((adapter) => {
    const network = fleet.get('network', adapter.networkId);
    if (adapter.trunkId === null || network?.vlanId) return [];
    const over = fleet.need('adapter', adapter.trunkId).position + 1;
    return [
      {
        rule: 'sub-interface-without-vlan',
        at: adapter.id,
        severity: 'blocker' as const,
        evidence: `Adapter ${adapter.position + 1} of ${guest.name} is tagged on adapter ${over}, ${network ? `and ${network.name} has no VLAN id` : 'and is on no network'}.`,
        consequence: 'There is no tag that its frames could carry: it has no connection.',
        remedy: network
          ? `Record the VLAN id of ${network.name}, or put it on another network.`
          : 'Put it on a network with a VLAN id, or remove it.',
        source: standard(
          'IEEE 802.1Q: frames of several networks on one link are told apart by the VLAN id in their tag',
        ),
      },
    ];
  });
}

function notDriven(fleet: Fleet, guest: Row<'guest'>): RuleFinding[] {
  const profile = fleet.get('profile', guest.profileId);
  const drives = drivesOf(guest.family, profile);
  if (drives.assumed && guest.family !== 'NT family') return [];
  const helped = fleet
    .referring('drive', 'guestId', guest.id)
    .some((drive) => fleet.need('medium', drive.mediumId).install === 'drivers');
  const source = practice('Devices are chosen by what the guest drives on its first boot');
  const found: RuleFinding[] = [];
  const disk = drives.paravirtualDisk
    ? undefined
    : fleet.referring('volume', 'guestId', guest.id).find((volume) => volume.bus === 'paravirtual');
  if (disk && !helped)
    found.push({
      at: 'disk',
      severity: 'blocker',
      evidence: `${disk.label} of ${guest.name} is on a paravirtual bus, and its system does not bring the driver.`,
      consequence: 'Its installer sees no disk.',
      remedy: 'Take an emulated bus, or attach the medium with the drivers.',
      source,
    });
  const adapter = drives.paravirtualNetwork
    ? undefined
    : fleet
        .referring('adapter', 'guestId', guest.id)
        .find((found) => found.model === 'paravirtual');
  if (adapter && !helped)
    found.push({
      at: 'adapter',
      severity: 'caution',
      evidence: `Adapter ${adapter.position + 1} of ${guest.name} is paravirtual, and its system does not bring the driver.`,
      consequence: 'It starts without a network.',
      remedy: 'Take an emulated adapter, or attach the medium with the drivers.',
      source,
    });
  return found;
}

const NONE: { buses: readonly string[]; models: readonly string[] } = { buses: [], models: [] };

/** Buses and models that a guest has, as far as they are known; kept while its parts are as they are. */
function kindsOf(fleet: Fleet, guest: Row<'guest'>): typeof NONE {
  return fleet.memo(guest.id, 'kinds of devices', () => {
    const buses = fleet
      .referring('volume', 'guestId', guest.id)
      .flatMap((volume) => (volume.bus === 'unknown' ? [] : [volume.bus]));
    const models = fleet
      .referring('adapter', 'guestId', guest.id)
      .flatMap((adapter) => (adapter.model === 'unknown' ? [] : [adapter.model]));
    return buses.length || models.length ? { buses, models } : NONE;
  });
}

function notOffered(fleet: Fleet, guest: Row<'guest'>, platform: Row<'platform'>): RuleFinding[] {
  const { buses, models } = kindsOf(fleet, guest);
  const bus = buses.find((found) => !platform.diskBuses.includes(found));
  const model = models.find((found) => !platform.adapterModels.includes(found));
  const missing = [bus ? `a disk bus ${bus}` : '', model ? `a ${model} adapter` : ''].filter(
    Boolean,
  );
  if (missing.length === 0) return [];
  return [
    {
      rule: 'device-not-offered',
      severity: 'caution',
      evidence: `${guest.name} has ${missing.join(' and ')}; ${platform.name} does not offer that.`,
      consequence: 'Record and world differ, or it cannot start here.',
      remedy: 'Choose what the platform offers, or correct the properties of the platform.',
      source: practice('Devices are chosen from what the platform offers'),
    },
  ];
}

function firmwareFault(
  guest: Row<'guest'>,
  platform: Row<'platform'>,
  first: boolean,
): RuleFinding[] {
  const offered =
    guest.firmware === 'UEFI'
      ? platform.uefiGuests
      : guest.firmware === 'legacy'
        ? platform.legacyGuests
        : true;
  if (offered) return [];
  return [
    {
      rule: 'firmware-not-offered',
      severity: first ? 'blocker' : 'caution',
      evidence: `${guest.name} starts by ${guest.firmware}; ${platform.name} does not offer that to guests.`,
      consequence: 'Disk not found: it does not start here.',
      remedy: 'Choose the other firmware before it is installed, or another platform.',
      source: standard('UEFI Specification 2.10, section 3: boot manager'),
    },
  ];
}

function processorFault(
  fleet: Fleet,
  guest: Row<'guest'>,
  host: Row<'host'>,
  platform: Row<'platform'>,
): RuleFinding[] {
  const source = standard('x86-64 psABI 1.0, section 3.1.1: microarchitecture levels');
  if (guest.processorMode === 'host') {
    const bound = fleet
      .referring('migration', 'guestId', guest.id)
      .find(
        (migration) =>
          migration.running &&
          migration.state === 'planned' &&
          fleet.get('host', migration.targetHostId)?.processorModel !== host.processorModel,
      );
    const target = fleet.get('host', bound?.targetHostId ?? null);
    if (!target) return [];
    return [
      {
        rule: 'tied-to-processor',
        severity: 'blocker',
        evidence: `${guest.name} sees the own processor of ${host.name} (${host.processorModel || 'not recorded'}), and is to move running to ${target.name} (${target.processorModel || 'not recorded'}).`,
        consequence:
          'The move is refused, or the guest dies at its first instruction that is missing there.',
        remedy:
          'Give it a common level and restart it before the move, or move it while it is off.',
        source,
      },
    ];
  }
  const wanted = /^v([1-4])$/.exec(guest.processorMode)?.[1];
  if (!wanted || !host.groupId || !platform.runningMigration) return [];
  const common = fleet.memo(host.groupId, 'common level', () =>
    commonLevel(
      fleet,
      fleet
        .referring('host', 'groupId', host.groupId!)
        .filter((mate) => mate.state === 'in service')
        .map((mate) => mate.id),
    ),
  );
  if (common.level === null || Number(wanted) <= common.level) return [];
  return [
    {
      rule: 'level-not-common',
      severity: 'note',
      evidence: `${guest.name} sees level ${guest.processorMode}; the hosts of ${fleet.need('hostGroup', host.groupId).name} have v${common.level} in common, held down by ${common.limitedBy.join(' and ')}.`,
      consequence:
        'It neither moves to those while running nor restarts there when its host fails.',
      remedy: `Take v${common.level}, or note that it stays off them.`,
      source,
    },
  ];
}

/** So small a guest fits any node of its host. */
const isWide = (guest: Row<'guest'>, host: Row<'host'>): boolean =>
  guest.vcpu > host.coresPerSocket || guest.memoryMiB >= host.installedMiB / host.sockets / 2;

function unfitSize(fleet: Fleet, guest: Row<'guest'>, host: Row<'host'>): RuleFinding[] {
  return sizeFaults(fleet, guest, fleet.get('profile', guest.profileId) ?? null, host)
    .filter((found) => found.severity !== 'note')
    .map((found) => ({
      rule: 'size-does-not-suit',
      at: found.fault,
      severity: 'caution' as const,
      evidence: `${guest.name} on ${host.name}: ${found.sentence}`,
      consequence:
        found.fault === 'below the minimum'
          ? 'It swaps, or its installer gives up.'
          : 'It runs slower than a smaller one would.',
      remedy: 'Alter its size, or choose another host.',
      source: found.source,
    }));
}
