/** Steps of a move of a guest onto a computer of its own. @see 8-moving */
import { formatBoth } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { FIXED_MINUTES, isImaged, METHODS, type MoveMethod } from './method.js';
import type { MoveStepFields } from './move-step.js';
import { diskName, environment, identity, step } from './physical-steps.js';
import { computerOf } from './sides.js';

export interface ToPhysicalSteps {
  guest: Row<'guest'>;
  source: Row<'host'>;
  device: Row<'device'>;
  disks: readonly { volume: Row<'volume'>; disk: Row<'computerDisk'> }[];
  method: MoveMethod;
  keepsBoth: boolean;
}

export function toPhysicalSteps(fleet: Fleet, input: ToPhysicalSteps): MoveStepFields[] {
  const { guest, source, device, disks, method, keepsBoth } = input;
  const computer = computerOf(fleet, device.id);
  const drivers = computer?.driversAtHand ?? [];
  const needed = disks.reduce((sum, { volume }) => sum + volume.bytes, 0);
  return [
    step(
      'restore-proven',
      'before',
      'elsewhere',
      'A backup of it was restored and looked at within 90 days',
    ),
    step(
      'drivers',
      'before',
      'source',
      `Drivers of ${device.name} are in ${guest.name} before the image is taken, network first`,
      drivers.length ? `At hand: ${drivers.join(', ')}.` : 'Which are at hand is not recorded.',
    ),
    step(
      'shut-down',
      'before',
      'source',
      `Shut ${guest.name} down cleanly`,
      'From inside, not by cutting its power: a file system that was cut may not mount there.',
    ),
    ...(method === 'intermediate disk'
      ? [
          step(
            'intermediate',
            'copy',
            'source',
            `Intermediate disk attached: at least ${formatBoth(needed)} free`,
            'Look at the largest file that its file system holds, and at the connector on the other side.',
          ),
        ]
      : isImaged(method)
        ? [environment()]
        : []),
    {
      ...step(
        'copied',
        'copy',
        'target',
        `Written to the disk of ${device.name}: ${METHODS[method].words}`,
        disks
          .map(
            ({ volume, disk }) =>
              `${volume.label}, ${formatBoth(volume.bytes)} → ${disk.bay}, ${diskName(disk)}, ${formatBoth(disk.bytes)}`,
          )
          .join('\n'),
      ),
      destroys: disks.map(({ disk }) => diskName(disk)).join(', '),
      becomes: 'started',
    },
    {
      ...step('boot-repair', 'copy', 'target', 'Boot repair before the first start'),
      minutes: FIXED_MINUTES.bootRepair,
    },
    step(
      'devices',
      'switch',
      'target',
      `Firmware: ${guest.firmware === 'unknown' ? 'boot mode as the guest had it' : guest.firmware}, controller mode as its driver wants it, medium out, disk first`,
      'A stop error points to the controller mode (IDE, AHCI); a disk that is not found, to the boot mode.',
    ),
    ...(keepsBoth
      ? [identity('target')]
      : [
          step(
            'source-off',
            'switch',
            'source',
            `What is left on ${source.name} stays off: its adapters disconnected, its automatic start taken away`,
            'A careless restart starts the old system: both would lose their connections.',
          ),
        ]),
    {
      ...step('first-start', 'switch', 'target', `First start of ${device.name}, connected`),
      minutes: FIXED_MINUTES.firstStartOnOther,
      becomes: 'switched',
    },
    {
      ...step(
        'drivers-in-order',
        'after',
        'target',
        'Drivers one by one: network, controller, chipset, graphics; agents of the platform out',
      ),
      minutes: FIXED_MINUTES.fixesInside,
    },
    {
      ...step(
        'answers',
        'after',
        'target',
        'Address, gateway, name server, outside, clock; what it serves is asked by a user',
      ),
      minutes: FIXED_MINUTES.checks,
    },
    step(
      'extended',
      'after',
      'target',
      'Volume and file system extended to the whole disk; activation asked for where it was',
    ),
    {
      ...step(
        'accepted',
        'after',
        'elsewhere',
        'Accepted by a user, its first backup there done',
        'Within 24 hours of the switch.',
      ),
      becomes: 'accepted',
    },
  ];
}
