/**
 * Steps of a move, as rows to tick: made from its kind, its method, both platforms and the guest. A routine move has few;
 * one between platforms says at which console each is done, and the exact lines of what is renamed.
 */
import { interfaceName } from '../guest/interface-name.js';
import { formatBoth } from '../quantity/index.js';
import type { Fleet, NewFields, Row } from '../record/index.js';
import { FIXED_MINUTES, METHODS, type MoveKind, type MoveMethod } from './method.js';
import { wayBetween } from './route.js';

export interface StepsInput {
  guest: Row<'guest'>;
  source: Row<'host'>;
  target: Row<'host'>;
  /** Volumes that go to another pool. */
  moved: readonly Row<'volume'>[];
  targetPoolId: string | null;
  running: boolean;
  kind: MoveKind;
  method: MoveMethod;
}

export type MoveStepFields = Omit<NewFields<'moveStep'>, 'migrationId' | 'position'>;
type Step = MoveStepFields;

export function moveSteps(fleet: Fleet, input: StepsInput): Step[] {
  if (input.kind === 'storage only') return storageSteps(fleet, input);
  if (input.running) return runningSteps(input);
  return input.kind === 'between platforms'
    ? betweenPlatforms(fleet, input)
    : stoppedSteps(fleet, input);
}

const accepted = (title: string, detail = ''): Step => ({
  key: 'accepted',
  phase: 'after',
  console: 'elsewhere',
  title,
  detail,
  becomes: 'accepted',
});

function runningSteps({ guest, target }: StepsInput): Step[] {
  return [
    {
      key: 'moved',
      phase: 'switch',
      console: 'target',
      title: `Moved: ${guest.name} runs on ${target.name}`,
      becomes: 'switched',
    },
    {
      key: 'answers',
      phase: 'after',
      console: 'target',
      title: 'It answers under its name and address',
    },
    accepted('Done: nothing new among its findings'),
  ];
}

function storageSteps(fleet: Fleet, { guest, targetPoolId, running }: StepsInput): Step[] {
  const pool = fleet.need('pool', targetPoolId!).name;
  return [
    ...(running ? [] : [shutDown(guest)]),
    {
      key: 'moved',
      phase: 'switch',
      console: 'source',
      title: `Volumes copied to pool ${pool}, ${guest.name} uses them there`,
      becomes: 'switched',
    },
    {
      key: 'answers',
      phase: 'after',
      console: 'source',
      title: 'It answers, and nothing in it complains of its disks',
    },
    accepted('Done: what lies in the old pool may go on its day'),
  ];
}

const shutDown = (guest: Row<'guest'>): Step => ({
  key: 'shut-down',
  phase: 'before',
  console: 'source',
  title: `Shut ${guest.name} down cleanly`,
  detail: 'From inside, not by cutting its power: a file system that was cut may not mount there.',
});

const freshBackup: Step = {
  key: 'backup',
  phase: 'before',
  console: 'elsewhere',
  title: 'A backup of the last 24 hours is there',
};

function stoppedSteps(fleet: Fleet, input: StepsInput): Step[] {
  const { guest, target } = input;
  return [
    freshBackup,
    shutDown(guest),
    copied(fleet, input),
    sourceStaysOff(input),
    firstStart(guest, target),
    answers(fleet, guest, target),
    accepted('Accepted: its first backup there is done', 'Within 24 hours of the switch.'),
  ];
}

function copied(fleet: Fleet, { moved, targetPoolId, target, method }: StepsInput): Step {
  if (moved.length === 0)
    return {
      key: 'copied',
      phase: 'copy',
      console: 'target',
      title: `Registered on ${target.name}; its disks stay where they are`,
      becomes: 'started',
    };
  const pool = fleet.need('pool', targetPoolId!).name;
  return {
    key: 'copied',
    phase: 'copy',
    console: 'target',
    title: `Copy to pool ${pool} begun: ${METHODS[method].words}`,
    detail: moved.map(({ label, bytes }) => `${label}: ${formatBoth(bytes)}`).join('\n'),
    becomes: 'started',
  };
}

const sourceStaysOff = ({ source }: StepsInput): Step => ({
  key: 'source-off',
  phase: 'switch',
  console: 'source',
  title: `What is left on ${source.name} stays off: its adapters disconnected, its automatic start taken away`,
  detail: 'A careless restart starts the old system: both would lose their connections.',
});

const firstStart = (guest: Row<'guest'>, target: Row<'host'>): Step => ({
  key: 'first-start',
  phase: 'switch',
  console: 'target',
  title: `First start of ${guest.name} on ${target.name}, connected`,
  minutes: FIXED_MINUTES.firstStart,
  becomes: 'switched',
});

function answers(fleet: Fleet, guest: Row<'guest'>, target: Row<'host'>): Step {
  const held = fleet
    .referring('adapter', 'guestId', guest.id)
    .flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id))
    .map(({ ip }) => ip);
  return {
    key: 'answers',
    phase: 'after',
    console: 'target',
    title: `On ${target.name}: address, gateway, name server, outside; what it serves is asked by a user`,
    detail: held.length ? `It answers as ${held.join(', ')}.` : 'No address is recorded of it.',
    minutes: FIXED_MINUTES.checks,
  };
}

function betweenPlatforms(fleet: Fleet, input: StepsInput): Step[] {
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
