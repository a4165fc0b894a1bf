/** Steps of a move of a computer's system into a guest: which console, in which order the first starts come. @see 8-moving */
import { interfaceName } from '../names/index.js';
import { formatBoth } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { FIXED_MINUTES, isImaged, METHODS, type MoveMethod } from './method.js';
import type { MoveStepFields } from './move-step.js';
import { diskName, environment, identity, step } from './physical-steps.js';
import { computerOf } from './sides.js';

export interface FromPhysicalSteps {
  device: Row<'device'>;
  target: Row<'host'>;
  guestName: string;
  family: Row<'guest'>['family'];
  disks: readonly { disk: Row<'computerDisk'>; poolName: string; bytes: number }[];
  adapters: number;
  method: MoveMethod;
  keepsBoth: boolean;
}

export function fromPhysicalSteps(fleet: Fleet, input: FromPhysicalSteps): MoveStepFields[] {
  const { device, target, guestName, family, disks, adapters, method, keepsBoth } = input;
  const platform = fleet.need('platform', target.platformId);
  const computer = computerOf(fleet, device.id);
  const names = Array.from({ length: adapters }, (_, i) => interfaceName(family, platform, i));
  const live = method === 'live converter';
  return [
    step(
      'restarted',
      'before',
      'source',
      `${device.name} was restarted in another window and came back well`,
    ),
    step(
      'restore-proven',
      'before',
      'elsewhere',
      'A backup of it was restored and looked at within 90 days; the newest is of the last 24 hours',
    ),
    step(
      'look-around',
      'before',
      'source',
      'Dongles, tape, fax, serial lines and licences tied to the hardware have another home',
      computer?.attached.length ? `Recorded: ${computer.attached.join(', ')}.` : '',
    ),
    step(
      'reading',
      'before',
      'source',
      'The reading script was run on it and its output taken in',
      'Addresses, names, mounts, services, shares: the comparison afterwards is the acceptance.',
    ),
    step(
      'drivers',
      'before',
      'source',
      `Drivers for ${platform.name} are in it, the one of its network first`,
      `Offered there, best first: disks ${platform.diskBuses.join(', ') || 'not recorded'}; adapters ${platform.adapterModels.join(', ') || 'not recorded'}.`,
    ),
    step(
      'frozen',
      'copy',
      'source',
      live ? 'First pass begun while it serves' : 'Its users are off, nothing is written any more',
    ),
    ...(isImaged(method) ? [environment()] : []),
    {
      ...step(
        'copied',
        'copy',
        method === 'files only' ? 'both' : 'target',
        `Copy begun: ${METHODS[method].words}`,
        disks
          .map(
            ({ disk, poolName, bytes }) =>
              `${disk.bay}, ${diskName(disk)}, ${formatBoth(disk.bytes)} → pool ${poolName}, ${formatBoth(bytes)}`,
          )
          .join('\n'),
      ),
      destroys:
        method === 'files only'
          ? ''
          : `${guestName} on ${[...new Set(disks.map(({ poolName }) => poolName))].join(', ')}`,
      becomes: 'started',
    },
    ...(live ? [step('last-pass', 'copy', 'source', 'Writes frozen, last pass done')] : []),
    step(
      'shut-down',
      'copy',
      'source',
      `${device.name} powered off at its console at the end of its copy`,
      'A careless restart starts the old system.',
    ),
    ...(keepsBoth
      ? []
      : [
          step(
            'source-off',
            'switch',
            'source',
            `${device.name} stays off: power cable and network cable out, a label on it`,
            'Two own systems with one address both lose their connections.',
          ),
        ]),
    {
      ...step(
        'devices',
        'switch',
        'target',
        `Guest made up: ${computer?.bootMode && computer.bootMode !== 'unknown' ? computer.bootMode : 'its boot mode as at the source'}, a controller that it has a driver for, medium out, disk first`,
        'A stop error at the first start points to the controller; a disk that is not found, to the boot mode.',
      ),
    },
    {
      ...step(
        'rehearsal',
        'switch',
        'target',
        'Rehearsal: started with its adapters disconnected, logged in, looked at',
      ),
      minutes: FIXED_MINUTES.firstStartOnOther,
    },
    {
      ...step(
        'hardware-agents',
        'switch',
        'target',
        'Agents and drivers of the old hardware out; the hidden old adapter that still holds the address removed; one time source',
      ),
      minutes: FIXED_MINUTES.fixesInside,
    },
    step(
      'renamed',
      'switch',
      'target',
      'Its network configuration names the new interfaces',
      names.filter(Boolean).length
        ? `They are called ${names.filter(Boolean).join(', ')} there.`
        : '',
    ),
    ...(keepsBoth ? [identity('target')] : []),
    {
      ...step(
        'first-start',
        'switch',
        'target',
        `First start of ${guestName} on ${target.name}, connected`,
      ),
      minutes: FIXED_MINUTES.firstStart,
      becomes: 'switched',
    },
    {
      ...step(
        'answers',
        'after',
        'target',
        'Address, gateway, name server, outside; the reading compared; what it serves is asked by its users',
        'A login prompt is no acceptance.',
      ),
      minutes: FIXED_MINUTES.checks,
    },
    step(
      'extended',
      'after',
      'target',
      'Volume and file system extended to the larger disk; activation asked for where it was',
    ),
    {
      ...step(
        'accepted',
        'after',
        'elsewhere',
        'Accepted by a user, its first backup as a guest done',
        'Within 24 hours of the switch the first backup; a file server is watched for seven days.',
      ),
      becomes: 'accepted',
    },
  ];
}
