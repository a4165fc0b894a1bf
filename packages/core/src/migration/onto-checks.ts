/** What must be true before a guest goes onto a computer. @see 8-moving, blockers */
import { formatBoth, formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { attachedChecks, copyChecks, serviceChecks } from './guest-checks.js';
import type { Check } from './check.js';
import { diskChecks } from './disk-checks.js';
import { isImaged, type MoveMethod } from './method.js';
import { known, wayCheck } from './physical-checks.js';
import { computerOf } from './sides.js';

export interface ToPhysical {
  guest: Row<'guest'>;
  device: Row<'device'>;
  disks: readonly { volume: Row<'volume'>; disk: Row<'computerDisk'> }[];
  method: MoveMethod;
  now?: string;
}

export function toPhysicalChecks(fleet: Fleet, input: ToPhysical): Check[] {
  const { guest, device, disks, method, now } = input;
  const computer = computerOf(fleet, device.id);
  const imaged = isImaged(method);
  return [
    known(device, computer),
    {
      name: 'state of the guest',
      passed: guest.state === 'stopped' || guest.state === 'in service',
      sentence:
        guest.state === 'in service'
          ? `${guest.name} is in service: start it once and log in, then shut it down before the copy.`
          : `${guest.name} is ${guest.state}.`,
      remedy: 'A guest that was never built is edited, not migrated.',
      field: 'guestId',
    },
    {
      name: 'memory',
      passed: computer?.memoryMiB ? computer.memoryMiB >= guest.memoryMiB : null,
      sentence: computer?.memoryMiB
        ? `${device.name} has ${formatMemory(computer.memoryMiB)}, ${guest.name} ${formatMemory(guest.memoryMiB)}.`
        : `How much memory ${device.name} has is not recorded.`,
      remedy: 'Put memory in, or see that less is enough.',
      field: 'deviceId',
    },
    ...disks.map(({ volume, disk }): Check => {
      const fits = disk.bytes >= volume.bytes;
      return {
        name: 'disk size',
        passed: imaged ? fits : disk.bytes >= (volume.usedBytes ?? volume.bytes),
        never: imaged && !fits,
        sentence: `${volume.label} has ${formatBoth(volume.bytes)} (${volume.bytes} bytes), ${disk.bay} has ${formatBoth(disk.bytes)} (${disk.bytes} bytes).`,
        remedy: 'Shrink before imaging, take a larger disk, or copy files.',
        field: 'disks',
      };
    }),
    ...diskChecks(
      device,
      disks.map(({ disk }) => disk),
      computer,
      method,
    ).filter(({ name }) => name !== 'software array'),
    ...firmwareThere(guest, device, computer),
    ...portsThere(fleet, guest, device),
    ...copyChecks(fleet, { guest, running: false, now }, true),
    ...attachedChecks(fleet, { guest, now }),
    ...serviceChecks(fleet, { guest, running: false }, true),
    wayCheck(fleet, { sourceHostId: guest.hostId, targetHostId: null, targetDeviceId: device.id }),
  ];
}

function firmwareThere(
  guest: Row<'guest'>,
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
): Check[] {
  const { bootMode = 'unknown', controllerMode = 'unknown', driversAtHand = [] } = computer ?? {};
  const unclear = guest.firmware === 'unknown' || bootMode === 'unknown';
  return [
    {
      name: 'firmware',
      passed: unclear ? null : bootMode === guest.firmware,
      sentence: `${guest.name} starts by ${guest.firmware}, ${name} is set to ${bootMode}.`,
      remedy: 'Set the machine as the guest is; a disk of the other mode is not found.',
      field: 'deviceId',
    },
    {
      name: 'controller',
      advice: true,
      passed:
        controllerMode === 'unknown'
          ? null
          : controllerMode === 'AHCI' || controllerMode === 'NVMe',
      sentence: `The disk controller of ${name} runs as ${controllerMode}.`,
      remedy:
        'A stop error at the first start points to the controller: set it to what the system has a driver for.',
    },
    {
      name: 'drivers at hand',
      passed: driversAtHand.length === 0 ? null : driversAtHand.includes('network'),
      sentence: driversAtHand.length
        ? `Drivers at hand for ${name}: ${driversAtHand.join(', ')}.`
        : `Which drivers are at hand for ${name} is not recorded.`,
      remedy:
        'Put them into the guest before the image is taken, network first, or it arrives without one.',
    },
  ];
}

function portsThere(fleet: Fleet, guest: Row<'guest'>, device: Row<'device'>): Check[] {
  const networksOf = (rows: readonly { networkId: string | null }[]) =>
    new Set(rows.flatMap(({ networkId }) => networkId ?? []));
  const there = networksOf(fleet.referring('devicePort', 'deviceId', device.id));
  return [...networksOf(fleet.referring('adapter', 'guestId', guest.id))].map((networkId) => {
    const passed = there.has(networkId);
    const network = fleet.need('network', networkId).name;
    return {
      name: 'network present',
      passed,
      sentence: passed
        ? `A port of ${device.name} is in ${network}: it keeps its address there.`
        : `No port of ${device.name} is in ${network}.`,
      remedy: `Record the port of ${device.name} that goes there.`,
      field: 'deviceId',
    };
  });
}
