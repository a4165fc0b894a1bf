/** What must be true before a move begins. Every check says what it looked at; a failed one says what to do. */
import { countsOnHost, memoryDemand, headroom, offersRoom, carriesNetwork } from '../host/index.js';
import { processorFit } from '../placement/index.js';
import { guestChecks } from './guest-checks.js';
import { formatMemory } from '../quantity/index.js';
import { objection, refuse, type Fleet, type Refusal } from '../record/index.js';
import type { CheckInput, Check } from './check.js';
import { storageChecks } from './storage-checks.js';

export function migrationChecks(fleet: Fleet, input: CheckInput): Check[] {
  return [
    ...placeChecks(fleet, input),
    ...processorChecks(fleet, input),
    ...roomChecks(fleet, input),
    ...storageChecks(fleet, input),
    ...networkChecks(fleet, input),
    ...guestChecks(fleet, input),
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
