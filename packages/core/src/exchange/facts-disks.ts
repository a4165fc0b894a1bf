/** Disks of a paste: what they are, and what lies on them. */
import { list, string } from './facts-values.js';
import type { MachineFacts, DiskUse } from './machine-facts.js';

const SYSTEM_PLACES = new Set(['/', '/boot', '/boot/efi', '/usr', '[SWAP]']);
const NO_FILES = new Set(['swap', 'crypto_LUKS', 'BitLocker', 'linux_raid_member', 'LVM2_member']);

/** Disks on which, however deep, something of the system is mounted. */
export function systemBaysOf(value: unknown): string[] {
  const holdsSystem = (device: Record<string, unknown>): boolean =>
    [device.mountpoint, Array.isArray(device.mountpoints) ? device.mountpoints : []]
      .flat()
      .some((place) => typeof place === 'string' && SYSTEM_PLACES.has(place)) ||
    (list(device.children) ?? []).some(holdsSystem);
  return (list((value as { blockdevices?: unknown } | null)?.blockdevices) ?? [])
    .filter(holdsSystem)
    .map((disk) => string(disk.name).slice(0, 100));
}

/** lsblk -J -b: sizes are numbers, in old versions text; devices of size 0 occur. */
export function disksOf(value: unknown): MachineFacts['disks'] {
  const found = list((value as { blockdevices?: unknown } | null)?.blockdevices);
  return (
    found
      ?.filter(
        (disk) =>
          disk.type === 'disk' && Number(disk.size) > 0 && Number.isSafeInteger(Number(disk.size)),
      )
      .map((disk) => ({
        bay: string(disk.name).slice(0, 100) || 'disk',
        model: string(disk.model).trim().slice(0, 200),
        serial: string(disk.serial).trim().slice(0, 200),
        bytes: Number(disk.size),
        class:
          disk.rota === true || disk.rota === '1'
            ? ('enterprise disk' as const)
            : ('enterprise flash' as const),
      })) ?? null
  );
}

/**
 * What lies on the disks: sizes used only where each file system on them shows its own, encryption and arrays by the types of
 * what lies there (blkid's names, from memory: crypto_LUKS, BitLocker, linux_raid_member, zfs_member).
 */
export function diskUseOf(value: unknown): DiskUse[] {
  const found = list((value as { blockdevices?: unknown } | null)?.blockdevices) ?? [];
  return found
    .filter(({ type }) => type === 'disk')
    .map((disk) => {
      const parts = withChildren(disk);
      const typed = parts.filter(({ fstype }) => string(fstype) !== '');
      const files = typed.filter(({ fstype }) => !NO_FILES.has(string(fstype)));
      const used = files.map(({ fsused }) => Number(fsused ?? NaN));
      const sector = Number(disk['log-sec'] ?? NaN);
      const types = new Set(typed.map(({ fstype }) => string(fstype)));
      const holds = (...some: string[]) =>
        types.size === 0 ? null : some.some((type) => types.has(type));
      return {
        bay: string(disk.name).slice(0, 100) || 'disk',
        sectorBytes: Number.isSafeInteger(sector) && sector >= 512 ? sector : null,
        usedBytes:
          used.length > 0 && used.every(Number.isSafeInteger)
            ? used.reduce((sum, bytes) => sum + bytes, 0)
            : null,
        // A pool that encrypts by itself does not show it here.
        encrypted: holds('crypto_LUKS', 'BitLocker') || (types.has('zfs_member') ? null : holds()),
        softwareArray: holds('linux_raid_member'),
      };
    });
}

const withChildren = (device: Record<string, unknown>): Record<string, unknown>[] => [
  device,
  ...(list(device.children) ?? []).flatMap(withChildren),
];
