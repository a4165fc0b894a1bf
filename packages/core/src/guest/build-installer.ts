/** What is started, typed at the installer, and done before it restarts. Common practice, no source. */
import { machineName } from '../names/index.js';
import { formatBinary, formatBoth, GIB, type MiB } from '../quantity/index.js';
import type { Row } from '../record/index.js';
import { addressSteps, placeOf } from './build-addresses.js';
import type { Building, BuildStep, GuestBuild } from './build-step.js';

export function starting(
  { fleet, guest, drives, volumes, media }: Building,
  installer: Row<'medium'> | undefined,
): BuildStep[] {
  const steps: BuildStep[] = [
    {
      key: 'attach',
      text: 'Attach the medium, connected at power-on',
      value: installer?.name ?? null,
      caution: 'Attached but not connected, it is not there when the guest starts.',
    },
  ];
  if (installer)
    steps.push({
      key: 'compare',
      text: 'Its SHA-256: compare all of it, not the last digits',
      value: installer.sha256 || null,
    });
  const needsDrivers =
    (volumes.some((volume) => volume.bus === 'paravirtual') && !drives.paravirtualDisk) ||
    (fleet
      .referring('adapter', 'guestId', guest.id)
      .some((adapter) => adapter.model === 'paravirtual') &&
      !drives.paravirtualNetwork);
  if (needsDrivers)
    steps.push({
      key: 'drivers',
      text: 'Attach the medium with the drivers as well',
      value: media.find((medium) => medium.install === 'drivers')?.name ?? null,
    });
  steps.push(
    { key: 'medium first', text: 'Boot order: the medium first' },
    { key: 'power on', text: 'Switch it on and open its console' },
  );
  return steps;
}

/** A rule of thumb handed on by installers: twice a small memory, as much as a middling one, 4 GiB for a large one. */
export const swapAdvice = (memoryMiB: MiB): MiB =>
  memoryMiB <= 2048 ? 2 * memoryMiB : memoryMiB <= 8192 ? memoryMiB : 4096;

function diskLayout({ guest, drives, volumes }: Building): string {
  const disks = volumes.filter((volume) => volume.use === 'disk');
  const [first, ...more] = disks;
  if (!first) return 'no disk: it runs from its medium';
  const boot = guest.firmware === 'legacy' ? '' : 'EFI system partition 1 GiB, ';
  const swap = swapAdvice(guest.memoryMiB) * 1024 ** 2;
  const system =
    drives.family === 'NT family'
      ? `whole of ${first.label}: it keeps its page file itself`
      : drives.family === 'appliance'
        ? `as its image says, on ${first.label}`
        : first.bytes < 2 * swap + 4 * GIB
          ? `${first.label}: ${boot}a swap file instead of a partition, the rest for the system`
          : `${first.label}: ${boot}swap ${formatBinary(swap)}, the rest for the system`;
  return [system, ...more.map((volume) => `${volume.label}: whole, for what it keeps`)].join('; ');
}

export function installing(at: Building, way: GuestBuild['way']): BuildStep[] {
  const { fleet, guest, host } = at;
  const steps: BuildStep[] = [];
  if (way === 'network install')
    steps.push({
      key: 'network install',
      text: 'Network install: it is current at once, and needs gateway and name server while it installs',
      caution: placeOf(at).gateway
        ? undefined
        : 'No gateway is decided: it cannot reach anything to install from.',
    });
  if (way === 'full medium')
    steps.push({
      key: 'full medium',
      text: 'Full medium: it installs offline; updates follow afterwards',
    });
  const disks = at.volumes.filter((volume) => volume.use === 'disk');
  if (disks[0])
    steps.push({
      key: 'target',
      text: 'Target disk',
      value: `${disks[0].label}, ${formatBoth(disks[0].bytes)}`,
      caution:
        disks.length > 1 ? 'Compare the size: the other volumes must stay untouched.' : undefined,
    });
  steps.push({ key: 'layout', text: 'Disk layout (swap by rule of thumb)', value: diskLayout(at) });
  steps.push({
    key: 'name',
    text: 'Full name',
    value: machineName(fleet, 'guest', guest.id)?.full ?? guest.name,
  });
  steps.push(...addressSteps(at));
  steps.push({ key: 'time zone', text: 'Time zone', value: host.timeZone || null });
  steps.push({
    key: 'administrator',
    text: 'Administrator: a new password',
    caution: 'Not on this sheet. Note in the record only where it is kept and who may open it.',
  });
  return steps;
}

export function leaving({ media, volumes }: Building): BuildStep[] {
  const live = volumes.filter((volume) => volume.use === 'disk').length === 0;
  if (live)
    return [
      {
        key: 'stays',
        text: 'It has no disk: its medium stays attached and first in the boot order',
      },
    ];
  return [
    {
      key: 'eject',
      text: `Eject ${media.map((medium) => medium.name).join(' and ') || 'the medium'} before it restarts`,
      caution:
        'Left in, the installer starts again, and at worst overwrites what it has just installed.',
    },
    { key: 'disk first', text: 'Boot order: the disk first again' },
  ];
}
