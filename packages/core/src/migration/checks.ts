/** What must be true before a move begins. Every check says what it looked at; a failed one says what to do. */
import type { Figure } from '../figure/index.js';
import { countsOnHost, memoryDemand } from '../guest/demand.js';
import { headroom } from '../host/headroom.js';
import { offersRoom } from '../host/load.js';
import { carriesNetwork, poolFigures, reaches } from '../host/pool.js';
import { formatBinary, formatMemory, GIB } from '../quantity/index.js';
import { object, type Fleet, type Refusal, type Row } from '../record/index.js';

export interface Check {
  name: string;
  passed: boolean;
  sentence: string;
  remedy?: string;
  /** Good to have, not needed. */
  advice?: boolean;
  figure?: Figure;
  field?: string;
}

export interface CheckInput {
  guest: Row<'guest'>;
  target: Row<'host'>;
  /** Pool that the volumes go to; null leaves them where they are. */
  targetPoolId: string | null;
  running: boolean;
}

/** Common practice, no source: a target disk one GiB larger than the source's full size is advised. */
export const ADVISED_EXTRA_BYTES = GIB;

export function migrationChecks(fleet: Fleet, input: CheckInput): Check[] {
  return [
    ...placeChecks(fleet, input),
    ...roomChecks(fleet, input),
    ...storageChecks(fleet, input),
    ...networkChecks(fleet, input),
  ];
}

function placeChecks(fleet: Fleet, { guest, target, running }: CheckInput): Check[] {
  return [
    {
      name: 'another host',
      passed: guest.hostId !== target.id,
      sentence:
        guest.hostId === target.id
          ? `${guest.name} is on ${target.name} already.`
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

function roomChecks(fleet: Fleet, { guest, target }: CheckInput): Check[] {
  if (!countsOnHost(guest))
    return [
      {
        name: 'room',
        passed: true,
        sentence: `${guest.name} asks for no memory or processors now.`,
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
  const pool = fleet.need('pool', targetPoolId);
  const needed = volumes
    .filter((volume) => volume.poolId !== targetPoolId)
    .reduce((sum, volume) => sum + volume.bytes, 0);
  const { left } = poolFigures(fleet, targetPoolId);
  const size = `${formatBinary(needed, 'up')}`;
  return [
    {
      name: 'pool reach',
      passed: reaches(fleet, target.id, targetPoolId),
      sentence: `${target.name} ${reaches(fleet, target.id, targetPoolId) ? 'reaches' : 'does not reach'} pool ${pool.name}.`,
      remedy: 'Choose a pool that the target reaches.',
      field: 'targetPoolId',
    },
    {
      name: 'size rule',
      passed: left.value >= needed,
      sentence: `Pool ${pool.name} has ${formatBinary(left.value, 'down')} left; the target disk must be at least the source's full size, ${size}.`,
      remedy: 'Choose a pool with more room: the full size must fit, even of a mostly empty disk.',
      figure: left,
      field: 'targetPoolId',
    },
    {
      name: 'size advised',
      advice: true,
      passed: left.value >= needed + ADVISED_EXTRA_BYTES,
      sentence: `1 GiB more than the full size is advised (common practice, no source).`,
      remedy: 'Make room for 1 GiB more if the tool rounds disks up.',
    },
  ];
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

/** Failed checks as objections of planning. */
export function checkObjections(checks: readonly Check[]): Refusal[] {
  return checks
    .filter((check) => !check.passed && !check.advice)
    .map((check) =>
      object({
        code: `check-${check.name.replaceAll(' ', '-')}`,
        field: check.field,
        sentence: check.sentence,
        remedy: check.remedy,
        figure: check.figure,
      }),
    );
}
