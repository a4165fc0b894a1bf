/** What must be true before a computer moves into a guest. @see 8-moving, blockers */
import { memoryDemand, headroom, offersRoom, carriesNetwork } from '../host/index.js';
import { formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Check } from './check.js';
import { diskChecks, volumesThere, type DiskToVolume } from './disk-checks.js';
import type { MoveMethod } from './method.js';
import { wayBetween } from './route.js';
import { computerOf, type MoveSides } from './sides.js';
import { encryptionCheck, healthChecks, speedCheck, workChecks } from './source-checks.js';

export interface FromPhysical {
  device: Row<'device'>;
  target: Row<'host'>;
  disks: readonly DiskToVolume[];
  vcpu: number;
  memoryMiB: number;
  method: MoveMethod;
  /** The guest and its volumes are planned, and count already. */
  planned: boolean;
  /** Left out: the age of what was done is not looked at. */
  now?: string;
}

export function fromPhysicalChecks(fleet: Fleet, input: FromPhysical): Check[] {
  const { device, target, method } = input;
  const computer = computerOf(fleet, device.id);
  return [
    known(device, computer),
    {
      name: 'target in service',
      passed: offersRoom(target),
      sentence: `${target.name} is ${target.state}.`,
      remedy: 'Choose a target in service.',
      field: 'targetHostId',
    },
    architectureCheck(device, computer, target),
    ...roomThere(fleet, input),
    ...volumesThere(fleet, input),
    ...diskChecks(
      device,
      input.disks.map(({ disk }) => disk),
      computer,
      method,
    ),
    ...platformThere(fleet, device, computer, target),
    ...networksThere(fleet, device, target),
    encryptionCheck(device, computer),
    ...workChecks(fleet, device, computer, method),
    ...healthChecks(fleet, device, computer, input.now),
    speedCheck(fleet, device),
    wayCheck(fleet, { sourceHostId: null, sourceDeviceId: device.id, targetHostId: target.id }),
  ];
}

/** Said at both directions. */
export const known = (device: Row<'device'>, computer: Row<'computer'> | null): Check => ({
  name: 'hardware sheet',
  passed: computer ? true : null,
  sentence: computer
    ? `Hardware and system of ${device.name} are recorded.`
    : `Nothing is recorded of the hardware of ${device.name}.`,
  remedy: 'Paste its facts.',
});

function architectureCheck(
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
  target: Row<'host'>,
): Check {
  const own = computer?.architecture ?? null;
  const passed = own === null ? null : own === target.architecture;
  return {
    name: 'architecture',
    passed,
    never: passed === false,
    sentence: own
      ? `${name} is ${own}, ${target.name} is ${target.architecture}.`
      : `The architecture of ${name} is not recorded.`,
    remedy: 'A system of another architecture is built anew.',
    field: 'targetHostId',
  };
}

function roomThere(fleet: Fleet, { target, vcpu, memoryMiB, planned }: FromPhysical): Check[] {
  const room = headroom(fleet, target.id);
  const needed = planned ? 0 : memoryDemand(fleet, target.id, vcpu, memoryMiB);
  const cores = planned ? 0 : vcpu;
  return [
    {
      name: 'memory',
      passed: room.memory.value >= needed,
      sentence: planned
        ? `${target.name} has ${formatMemory(room.memory.value, 'down')} left beside it.`
        : `${target.name} has ${formatMemory(room.memory.value, 'down')} left; ${formatMemory(needed, 'up')} are needed with overhead.`,
      remedy: 'Choose a target with more memory left, or give the guest less.',
      figure: room.memory,
      field: 'targetHostId',
    },
    {
      name: 'processors',
      passed: room.vcpu.value >= cores,
      sentence: planned
        ? `${target.name} has ${room.vcpu.value} vCPU left by policy beside it.`
        : `${target.name} has ${room.vcpu.value} vCPU left by policy; ${vcpu} are needed.`,
      remedy: 'Choose a target with more processors left.',
      figure: room.vcpu,
      field: 'targetHostId',
    },
  ];
}

function platformThere(
  fleet: Fleet,
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
  target: Row<'host'>,
): Check[] {
  const there = fleet.need('platform', target.platformId);
  const mode = computer?.bootMode ?? 'unknown';
  const offered = mode === 'UEFI' ? there.uefiGuests : there.legacyGuests;
  const passed = mode === 'unknown' ? null : offered;
  return [
    {
      name: 'firmware',
      passed,
      never: passed === false,
      sentence:
        mode === 'unknown'
          ? `Whether ${name} starts by UEFI or legacy boot is not recorded.`
          : `${name} starts by ${mode}; ${there.name} ${offered ? 'does that as well' : 'does not'}.`,
      remedy: 'Look into its settings; a disk of the other mode is not found at the first start.',
      field: 'targetHostId',
    },
    {
      name: 'first driver',
      advice: true,
      passed: computer?.family ? computer.family === 'Linux' || computer.family === 'BSD' : null,
      sentence: computer?.family
        ? computer.family === 'Linux' || computer.family === 'BSD'
          ? `Drivers of ${there.diskBuses[0] ?? 'the offered controllers'} come with the kernel of most ${computer.family} systems.`
          : `A ${computer.family} system starts from a controller that it has a driver for: ${there.diskBuses.includes('SATA') ? 'begin with SATA and an emulated adapter' : 'put the driver in before the copy'}.`
        : `Which family the system of ${name} is of is not recorded.`,
      remedy: 'Put the drivers in before the copy, the one of its network first.',
    },
  ];
}

function networksThere(fleet: Fleet, device: Row<'device'>, target: Row<'host'>): Check[] {
  const ports = fleet.referring('devicePort', 'deviceId', device.id);
  const wanted = [...new Set(ports.flatMap(({ networkId }) => networkId ?? []))];
  if (wanted.length === 0)
    return [
      {
        name: 'network present',
        passed: null,
        sentence: `In which networks ${device.name} is is not recorded.`,
        remedy: 'Record its ports.',
      },
    ];
  return wanted.map((networkId) => {
    const network = fleet.need('network', networkId).name;
    const passed = carriesNetwork(fleet, target.id, networkId);
    return {
      name: 'network present',
      passed,
      sentence: `${target.name} ${passed ? `carries ${network}: it keeps its address there` : `does not carry ${network}`}.`,
      remedy: `Record ${network} on ${target.name} first.`,
      field: 'targetHostId',
    };
  });
}

export function wayCheck(fleet: Fleet, sides: MoveSides): Check {
  const way = wayBetween(fleet, sides);
  return {
    name: 'way',
    passed: way ? true : null,
    sentence: way
      ? `Both have an address in ${way.name}, MTU ${way.mtu}.`
      : 'The record knows no network that both have an address in.',
    remedy: 'Record the addresses that the copy goes by.',
    advice: true,
  };
}
