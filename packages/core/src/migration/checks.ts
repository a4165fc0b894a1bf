/** What must be true before a move begins. Every check says what it looked at; a failed one says what to do. */
import { printValue, type Figure } from '../figure/index.js';
import { countsOnHost, memoryDemand } from '../guest/demand.js';
import { headroom } from '../host/headroom.js';
import { offersRoom } from '../host/load.js';
import { carriesNetwork, poolFigures, reaches } from '../host/pool.js';
import { processorFit } from '../placement/processor-fit.js';
import { careChecks } from './care-checks.js';
import { formatBinary, formatMemory, GIB } from '../quantity/index.js';
import { objection, refuse, type Fleet, type Refusal, type Row } from '../record/index.js';

export interface Check {
  name: string;
  /** Null: nobody knows. */
  passed: boolean | null;
  sentence: string;
  remedy?: string;
  /** Good to have, not needed. */
  advice?: boolean;
  /** No written reason goes past it. */
  never?: boolean;
  figure?: Figure;
  field?: string;
}

export interface CheckInput {
  guest: Row<'guest'>;
  target: Row<'host'>;
  /** Pool that the volumes go to; null leaves them where they are. */
  targetPoolId: string | null;
  running: boolean;
  /** Left out: the age of backups is not looked at. */
  now?: string;
}

/** Common practice, no source: a target disk one GiB larger than the source's full size is advised. */
export const ADVISED_EXTRA_BYTES = GIB;

export function migrationChecks(fleet: Fleet, input: CheckInput): Check[] {
  return [
    ...placeChecks(fleet, input),
    ...processorChecks(fleet, input),
    ...roomChecks(fleet, input),
    ...storageChecks(fleet, input),
    ...networkChecks(fleet, input),
    ...careChecks(fleet, input),
  ];
}

function placeChecks(fleet: Fleet, { guest, target, targetPoolId, running }: CheckInput): Check[] {
  return [
    {
      name: 'another host',
      passed: guest.hostId !== target.id || targetPoolId !== null,
      sentence:
        guest.hostId === target.id
          ? `${guest.name} is on ${target.name} already${targetPoolId ? ': its volumes move' : ''}.`
          : `From ${fleet.need('host', guest.hostId).name} to ${target.name}.`,
      remedy: 'Choose another target.',
      field: 'targetHostId',
    },
    {
      name: 'target in service',
      passed: offersRoom(target),
      sentence: `${target.name} is ${target.state}.`,
      remedy: 'Choose a target in service.',
      field: 'targetHostId',
    },
    {
      name: 'state of the guest',
      passed: running
        ? guest.state === 'in service'
        : guest.state === 'stopped' || guest.state === 'in service',
      sentence: running
        ? `${guest.name} is ${guest.state}; it moves while running.`
        : guest.state === 'in service'
          ? `${guest.name} is in service: start it once and log in, then shut it down before the copy.`
          : `${guest.name} is ${guest.state}.`,
      remedy: running
        ? 'Only a running guest moves while running.'
        : 'A guest that was never built is edited, not migrated.',
      field: 'running',
    },
  ];
}

function processorChecks(fleet: Fleet, { guest, target, running }: CheckInput): Check[] {
  const source = fleet.need('host', guest.hostId);
  return processorFit(guest, source, target, running ? 'running' : 'stopped').map(
    ({ fits, caution, ...point }) => ({
      ...point,
      passed: fits,
      advice: caution,
      field: 'targetHostId',
    }),
  );
}

function roomChecks(fleet: Fleet, { guest, target }: CheckInput): Check[] {
  if (!countsOnHost(guest) || guest.hostId === target.id)
    return [
      {
        name: 'room',
        passed: true,
        sentence: `${guest.name} asks for no memory or processors beside what it has.`,
      },
    ];
  const room = headroom(fleet, target.id);
  const needed = memoryDemand(fleet, target.id, guest.vcpu, guest.memoryMiB);
  return [
    {
      name: 'memory',
      passed: room.memory.value >= needed,
      sentence: `${target.name} has ${formatMemory(room.memory.value, 'down')} left; ${guest.name} needs ${formatMemory(needed, 'up')} with overhead.`,
      remedy: 'Choose a target with more memory left, or give the guest less.',
      figure: room.memory,
      field: 'targetHostId',
    },
    {
      name: 'processors',
      passed: room.vcpu.value >= guest.vcpu,
      sentence: `${target.name} has ${room.vcpu.value} vCPU left by policy; ${guest.name} has ${guest.vcpu}.`,
      remedy: 'Choose a target with more processors left.',
      figure: room.vcpu,
      field: 'targetHostId',
    },
  ];
}

function storageChecks(fleet: Fleet, { guest, target, targetPoolId }: CheckInput): Check[] {
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  if (volumes.length === 0)
    return [{ name: 'storage', passed: true, sentence: `${guest.name} has no volume.` }];
  if (targetPoolId === null) {
    return [...new Set(volumes.map((volume) => volume.poolId))].map((poolId) => {
      const pool = fleet.need('pool', poolId).name;
      const passed = reaches(fleet, target.id, poolId);
      return {
        name: 'pool reach',
        passed,
        sentence: passed
          ? `The volumes stay on ${pool}, which ${target.name} reaches.`
          : `${target.name} does not reach pool ${pool}, where the volumes lie.`,
        remedy: 'Choose a pool of the target to move the volumes to.',
        field: 'targetPoolId',
      };
    });
  }
  return [
    ...poolChecks(fleet, target, targetPoolId, volumes),
    ...baseChecks(fleet, targetPoolId, volumes),
  ];
}

function poolChecks(
  fleet: Fleet,
  target: Row<'host'>,
  targetPoolId: string,
  volumes: Row<'volume'>[],
): Check[] {
  const pool = fleet.need('pool', targetPoolId);
  const moved = volumes.filter((volume) => volume.poolId !== targetPoolId);
  const bytesOf = (some: Row<'volume'>[]) => some.reduce((sum, volume) => sum + volume.bytes, 0);
  const needed = bytesOf(moved);
  const thick = bytesOf(moved.filter((volume) => !volume.thin));
  const { left, free, fill } = poolFigures(fleet, targetPoolId);
  const reached = reaches(fleet, target.id, targetPoolId);
  const fillAfter = fill.value + (thick / Math.max(1, pool.usableBytes)) * 100;
  return [
    {
      name: 'pool reach',
      passed: reached,
      sentence: `${target.name} ${reached ? 'reaches' : 'does not reach'} pool ${pool.name}.`,
      remedy: 'Choose a pool that the target reaches.',
      field: 'targetPoolId',
    },
    {
      name: 'size rule',
      passed: left.value >= needed,
      sentence: `Pool ${pool.name} has ${formatBinary(left.value, 'down')} left to promise; the target disk must be at least the source's full size, ${formatBinary(needed, 'up')}.`,
      remedy: 'Choose a pool with more room: the full size must fit, even of a mostly empty disk.',
      figure: left,
      field: 'targetPoolId',
    },
    ...(thick > 0
      ? [
          {
            name: 'real room',
            passed: free.value >= thick,
            sentence: `Pool ${pool.name} has ${formatBinary(free.value, 'down')} really free; ${formatBinary(thick, 'up')} are allocated at once.`,
            remedy: 'Choose a pool with more room, or make the volumes thin.',
            figure: free,
            field: 'targetPoolId',
          },
        ]
      : []),
    {
      name: 'size advised',
      advice: true,
      passed: left.value >= needed + ADVISED_EXTRA_BYTES,
      sentence: `1 GiB more than the full size is advised (common practice, no source).`,
      remedy: 'Make room for 1 GiB more if the tool rounds disks up.',
    },
    {
      name: 'fill alarm',
      advice: true,
      passed: fillAfter < pool.fillAlarmPercent,
      sentence: `Pool ${pool.name} is ${printValue(fill.value, 'percent')} full, ${printValue(fillAfter, 'percent')} afterwards; its alarm stands at ${pool.fillAlarmPercent} %.`,
      remedy: 'Choose a pool with more room, or make some in this one.',
      figure: fill,
    },
  ];
}

/** What shares blocks stays together. */
function baseChecks(fleet: Fleet, targetPoolId: string, volumes: Row<'volume'>[]): Check[] {
  return volumes.flatMap((volume): Check[] => {
    if (volume.poolId === targetPoolId) return [];
    const base = fleet.get('volume', volume.baseId);
    const dependents = fleet.referringCount('volume', 'baseId', volume.id);
    if (!base && dependents === 0) return [];
    const from = fleet.need('pool', volume.poolId).name;
    return [
      {
        name: 'shared blocks',
        passed: false,
        never: Boolean(base),
        sentence: base
          ? `${volume.label} shares the blocks of ${base.label} of ${fleet.need('guest', base.guestId).name} on ${from}: elsewhere it holds nothing that can be read.`
          : `${dependents} dependent ${dependents === 1 ? 'clone shares' : 'clones share'} the blocks of ${volume.label} on ${from}.`,
        remedy: base
          ? 'Make it whole first, or leave it where it is.'
          : 'Make the clones whole first.',
        field: 'targetPoolId',
      },
    ];
  });
}

function networkChecks(fleet: Fleet, { guest, target }: CheckInput): Check[] {
  const wanted = new Set(
    fleet
      .referring('adapter', 'guestId', guest.id)
      .flatMap((adapter) => (adapter.networkId ? [adapter.networkId] : [])),
  );
  return [...wanted].map((networkId) => {
    const network = fleet.need('network', networkId).name;
    const passed = carriesNetwork(fleet, target.id, networkId);
    return {
      name: 'network present',
      passed,
      sentence: `${target.name} ${passed ? 'carries' : 'does not carry'} ${network}.`,
      remedy: `Record ${network} on ${target.name} first.`,
      field: 'targetHostId',
    };
  });
}

/** Failed checks as objections of planning. What nobody knows is said, and stands in nobody's way. */
export function checkObjections(checks: readonly Check[]): Refusal[] {
  return checks
    .filter((check) => check.passed === false && !check.advice)
    .map(({ name, never, field, sentence, remedy, figure }) =>
      (never ? refuse : objection)({
        code: `check-${name.replaceAll(' ', '-')}`,
        field,
        sentence,
        remedy,
        figure,
      }),
    );
}
