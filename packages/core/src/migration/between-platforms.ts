/** What has to be altered inside of a guest that comes to another platform. */
import { interfaceName } from '../names/index.js';
import { formatBoth } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { FIXED_MINUTES, METHODS } from './method.js';
import {
  accepted,
  answers,
  firstStart,
  shutDown,
  sourceStaysOff,
  type Step,
  type StepsInput,
} from './move-step.js';
import { wayBetween } from './route.js';

export function betweenPlatforms(fleet: Fleet, input: StepsInput): Step[] {
  const { guest, source, target, moved, targetPoolId, method } = input;
  const imaged = method === 'block image' || method === 'intermediate disk';
  const way = wayBetween(fleet, { sourceHostId: source.id, targetHostId: target.id });
  const renamed = renamedInterfaces(fleet, guest, source, target);
  return [
    {
      key: 'restore-proven',
      phase: 'before',
      console: 'elsewhere',
      title: 'A backup of it was restored and looked at within 90 days',
    },
    {
      key: 'drivers',
      phase: 'before',
      console: 'source',
      title: `Drivers for ${target.name} are in ${guest.name}, the one of its network first`,
      detail: `Offered there, best first: disks ${busesOf(fleet, target)}; adapters ${modelsOf(fleet, target)}.`,
    },
    shutDown(guest),
    ...(imaged
      ? [
          {
            key: 'environment',
            phase: 'copy' as const,
            console: 'both' as const,
            title: 'Copying environment started on both sides, first in their boot order',
            detail: way
              ? `Both have an address in ${way.name}: read the one of the receiving side off its console, type it at the sending one.`
              : 'The record knows no network that both hosts have an address in.',
            minutes: 2 * FIXED_MINUTES.environment,
          },
        ]
      : []),
    {
      key: 'copied',
      phase: 'copy',
      console: 'target',
      title: `Copy begun: ${METHODS[method].words}`,
      detail: moved.map(({ label, bytes }) => `${label}: at least ${formatBoth(bytes)}`).join('\n'),
      destroys:
        moved.length > 0 && targetPoolId
          ? `${guest.name} on ${fleet.need('pool', targetPoolId).name}`
          : '',
      becomes: 'started',
    },
    sourceStaysOff(input),
    {
      key: 'devices',
      phase: 'switch',
      console: 'target',
      title: `Controller and boot mode as at the source: ${guest.firmware}, ${busOf(fleet, guest)}`,
      detail:
        'A stop error at the first start points to the controller; a disk that is not found, to the boot mode.',
    },
    {
      key: 'rehearsal',
      phase: 'switch',
      console: 'target',
      title: 'Rehearsal: started with its adapters disconnected, logged in, looked at',
      minutes: FIXED_MINUTES.firstStart,
    },
    {
      key: 'renamed',
      phase: 'switch',
      console: 'target',
      title: renamed.length ? 'Interfaces renamed inside' : 'Names of its interfaces looked at',
      detail: renamed.join('\n'),
    },
    firstStart(guest, target),
    answers(fleet, guest, target),
    accepted(
      'Accepted: agents and drivers of the old platform out, one time source, first backup done',
      'Within 24 hours of the switch the first backup; snapshots gone within 72.',
    ),
  ];
}

/** What an interface is called before and after, with the line that a static configuration names it in. */
function renamedInterfaces(
  fleet: Fleet,
  guest: Row<'guest'>,
  source: Row<'host'>,
  target: Row<'host'>,
): string[] {
  const platform = (host: Row<'host'>) => fleet.need('platform', host.platformId);
  return fleet
    .referring('adapter', 'guestId', guest.id)
    .sort((a, b) => a.position - b.position)
    .flatMap((adapter, place) => {
      const before =
        adapter.nameInside || interfaceName(guest.family, platform(source), place) || '';
      const after = interfaceName(guest.family, platform(target), place);
      if (!after || before === after) return [];
      return guest.family === 'Linux'
        ? [
            `${before} becomes ${after}: sed -i 's/\\b${before}\\b/${after}/g' in its network configuration`,
          ]
        : [`${before || `adapter ${place + 1}`} becomes ${after}`];
    });
}
const busesOf = (fleet: Fleet, host: Row<'host'>): string =>
  fleet.need('platform', host.platformId).diskBuses.join(', ') || 'not recorded';
const modelsOf = (fleet: Fleet, host: Row<'host'>): string =>
  fleet.need('platform', host.platformId).adapterModels.join(', ') || 'not recorded';
const busOf = (fleet: Fleet, guest: Row<'guest'>): string =>
  [...new Set(fleet.referring('volume', 'guestId', guest.id).map(({ bus }) => bus))].join(', ') ||
  'no disk';
