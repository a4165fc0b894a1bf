/** Devices by reason: what a guest's system can drive on its first boot, what its platform offers, and where it may have to go while running. */
import { practice, standard, type Source } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';
import { processor } from './processor-advice.js';

export interface DeviceAdvice {
  device: 'disk bus' | 'adapter model' | 'firmware' | 'processor' | 'graphics';
  choice: string;
  reason: string;
  consequence: string;
  source: Source;
}

/** What the system brings with it. */
export interface Drives {
  family: Row<'guest'>['family'];
  graphical: boolean;
  paravirtualDisk: boolean;
  paravirtualNetwork: boolean;
  uefi: boolean;
  legacyBoot: boolean;
  /** No profile says so: taken from the family. */
  assumed: boolean;
}

/** Common practice, no source: Linux and BSD kernels of this decade bring paravirtual drivers, the NT family gets them from a second medium. */
const BY_FAMILY: Record<Row<'guest'>['family'], boolean> = {
  Linux: true,
  BSD: true,
  'NT family': false,
  appliance: false,
  other: false,
};

export function drivesOf(
  family: Row<'guest'>['family'],
  profile: Row<'profile'> | null | undefined,
): Drives {
  if (!profile)
    return {
      family,
      graphical: family === 'NT family',
      paravirtualDisk: BY_FAMILY[family],
      paravirtualNetwork: BY_FAMILY[family],
      uefi: true,
      legacyBoot: true,
      assumed: true,
    };
  const { paravirtualDisk, paravirtualNetwork, uefi, legacyBoot } = profile;
  return {
    family: profile.family,
    graphical: profile.display === 'graphical',
    paravirtualDisk,
    paravirtualNetwork,
    uefi,
    legacyBoot,
    assumed: false,
  };
}

/** How the guest may have to change hosts. */
export type Moves = 'running' | 'stopped';

/** @param hosts ids of the hosts it may go to, its own among them */
export function adviseDevices(
  fleet: Fleet,
  drives: Drives,
  platform: Row<'platform'>,
  hosts: readonly string[],
  moves: Moves,
): DeviceAdvice[] {
  return [
    diskBus(drives, platform),
    adapterModel(drives, platform),
    firmware(drives, platform),
    processor(fleet, platform, hosts, moves),
    graphics(drives, platform),
  ];
}

const knows = (drives: Drives): string =>
  drives.assumed
    ? `the ${drives.family === 'other' ? 'system' : drives.family} is taken to`
    : 'its profile says it does';
/** Emulated buses that any installer drives, best first. Common practice, no source. */
const EMULATED = ['SATA', 'SCSI', 'IDE', 'NVMe'];

function diskBus(drives: Drives, platform: Row<'platform'>): DeviceAdvice {
  const source = practice('A disk the guest can drive on its first boot');
  if (drives.paravirtualDisk && platform.diskBuses.includes('paravirtual')) {
    return {
      device: 'disk bus',
      choice: 'paravirtual',
      reason: `Its kernel brings the driver (${knows(drives)}), and ${platform.name} offers it.`,
      consequence: 'The fastest bus; a rescue medium needs the driver too.',
      source,
    };
  }
  const choice =
    EMULATED.find((bus) => platform.diskBuses.includes(bus)) ?? platform.diskBuses[0] ?? 'unknown';
  const later = platform.diskBuses.includes('paravirtual')
    ? ' Once the driver is in, a second small volume on the paravirtual bus lets you change over.'
    : '';
  return {
    device: 'disk bus',
    choice,
    reason: drives.paravirtualDisk
      ? `${platform.name} offers no paravirtual bus.`
      : 'Its kernel does not bring the paravirtual driver: the installer would see no disk.',
    consequence: `Any system drives it, at the price of processor time.${drives.paravirtualDisk ? '' : later}`,
    source,
  };
}

function adapterModel(drives: Drives, platform: Row<'platform'>): DeviceAdvice {
  const source = practice('An adapter the guest can drive on its first boot');
  if (drives.paravirtualNetwork && platform.adapterModels.includes('paravirtual')) {
    return {
      device: 'adapter model',
      choice: 'paravirtual',
      reason: `Its kernel brings the driver (${knows(drives)}).`,
      consequence: 'Full speed of the host’s ports at little processor time.',
      source,
    };
  }
  return {
    device: 'adapter model',
    choice: platform.adapterModels.includes('emulated')
      ? 'emulated'
      : (platform.adapterModels[0] ?? 'unknown'),
    reason: drives.paravirtualNetwork
      ? `${platform.name} offers no paravirtual adapter.`
      : 'Its kernel does not bring the paravirtual driver: it would start without a network.',
    consequence:
      'A widely known adapter that every system drives; slower, and busier for the host.',
    source,
  };
}

function firmware(drives: Drives, platform: Row<'platform'>): DeviceAdvice {
  const source = standard(
    'UEFI Specification 2.10, section 3.1 (boot manager): boot entries are variables',
  );
  const able = {
    UEFI: drives.uefi && platform.uefiGuests,
    legacy: drives.legacyBoot && platform.legacyGuests,
  };
  if (able.UEFI)
    return {
      device: 'firmware',
      choice: 'UEFI',
      reason: 'System and platform both start from UEFI.',
      consequence:
        'Secure boot and disks above 2 TiB are possible; its boot entries live in a small volume of their own, which moves and is copied with it.',
      source,
    };
  if (able.legacy)
    return {
      device: 'firmware',
      choice: 'legacy',
      reason: drives.uefi
        ? `${platform.name} offers guests no UEFI.`
        : 'Its system does not start from UEFI.',
      consequence: 'No secure boot, and a system disk of at most 2 TiB.',
      source,
    };
  return {
    device: 'firmware',
    choice: 'unknown',
    reason: `${platform.name} offers no firmware that its system starts from.`,
    consequence: 'It will not boot here: choose another platform or another image.',
    source,
  };
}

function graphics(drives: Drives, platform: Row<'platform'>): DeviceAdvice {
  const source = practice('A server needs no graphics, a desktop does');
  if (!drives.graphical)
    return {
      device: 'graphics',
      choice: 'none',
      reason: 'It is run by text.',
      consequence: 'A text console is enough, and its memory is saved.',
      source,
    };
  return platform.acceleratedGraphics
    ? {
        device: 'graphics',
        choice: 'accelerated',
        reason: `It has a desktop, and ${platform.name} offers acceleration.`,
        consequence: 'Ties it to hosts that offer the same.',
        source,
      }
    : {
        device: 'graphics',
        choice: 'basic',
        reason: 'It has a desktop.',
        consequence: 'Enough to install and to look; video stutters.',
        source,
      };
}
