/**
 * Computers seen together as guests: the size of each, the host that would take it with the tolerance there is, what must
 * come first, what is freed, how many windows it takes. Each is planned over those before it, by the same change that plans
 * one alone: nothing is recorded. Costs computers × hosts, and for a few hosts of each what their failure would do.
 */
import type { Change, decide as Decide } from '../change/index.js';
import { asGuest, volumeBytesFor, type AsGuest } from '../computer/index.js';
import { rankHosts, type HostRank } from '../guest/index.js';
import { computerOf, fromPhysicalRoute, openMoveOf } from '../migration/index.js';
import { toleranceMoved, type ToleranceMoved } from '../placement/index.js';
import {
  isRefusal,
  type Context,
  type Fleet,
  type Patch,
  type Refusal,
  type Row,
} from '../record/index.js';
import { wavesOf, type Waves } from './windows.js';

export interface ConsolidationAsk {
  deviceIds: readonly string[];
  /** Hosts of this group only; null: whichever fits. */
  groupId: string | null;
  windowHours: number;
  linkBitsPerSecond: number;
}

type PlanInput = Extract<Change, { type: 'migration.plan-from-physical' }>['input'];

export interface Consolidated {
  device: { id: string; name: string };
  size: AsGuest;
  /** Of its volumes together. */
  bytes: number;
  /** Where it would go; null: nowhere, see `why`. */
  target: { hostId: string; host: string; pool: string; tolerance: string } | null;
  why: string;
  /** Its move that is under way already; then nothing else is said. */
  moving: { id: string; state: Row<'migration'>['state'] } | null;
  /** What stands against it now, each with its remedy. */
  first: { sentence: string; remedy: string }[];
  /** Checks that nobody can answer yet. */
  unknown: string[];
  /** Expected and at the long end, in seconds. */
  seconds: [expected: number, high: number] | null;
  critical: boolean;
  /** What plans it. */
  input: PlanInput | null;
}

/** A sum over computers, and those of which nobody said it: never counted as none. */
export interface Freed {
  known: number;
  unknown: string[];
}

export interface Consolidation {
  moves: Consolidated[];
  freed: { rackUnits: Freed; sockets: Freed; watts: Freed };
  tolerance: ToleranceMoved | null;
  waves: Waves;
}

/**
 * Largest first: what is hard to place finds room.
 * @param decide of the changes, whose table stands above this
 */
export function consolidate(
  fleet: Fleet,
  ask: ConsolidationAsk,
  context: Context,
  decide: typeof Decide,
): Consolidation {
  const computers = ask.deviceIds
    .map((id) => fleet.need('device', id))
    .map((device) => ({ device, computer: computerOf(fleet, device.id) }));
  const bySize = [...computers].sort(
    (a, b) =>
      (asGuest(b.computer).memory.value ?? 0) - (asGuest(a.computer).memory.value ?? 0) ||
      a.device.name.localeCompare(b.device.name),
  );
  const patches: Patch[] = [];
  const moves = bySize.map(({ device, computer }) => {
    const would = patches.length > 0 ? fleet.overlay(patches) : fleet;
    const found = placeOne(would, device, computer, ask, context, decide);
    patches.push(...found.patches);
    return found.move;
  });
  const sum = (of: (computer: Row<'computer'>) => number | null): Freed => {
    const values = computers.map(({ device, computer }) => ({
      name: device.name,
      value: computer && of(computer),
    }));
    return {
      known: values.reduce((all, { value }) => all + (value ?? 0), 0),
      unknown: values.filter(({ value }) => value === null).map(({ name }) => name),
    };
  };
  return {
    moves,
    freed: {
      rackUnits: sum(({ rackHeight }) => rackHeight),
      sockets: sum(({ sockets }) => sockets),
      watts: sum(({ drawWatts }) => drawWatts),
    },
    tolerance: toleranceMoved(fleet, patches),
    waves: wavesOf(
      moves.flatMap(({ device, seconds, critical }) =>
        seconds ? [{ id: device.id, minutes: Math.ceil(seconds[1] / 60), critical }] : [],
      ),
      ask.windowHours * 60,
    ),
  };
}

function placeOne(
  fleet: Fleet,
  device: Row<'device'>,
  computer: Row<'computer'> | null,
  ask: ConsolidationAsk,
  context: Context,
  decide: typeof Decide,
): { move: Consolidated; patches: Patch[] } {
  const disks = fleet.referring('computerDisk', 'deviceId', device.id);
  const size = asGuest(computer);
  const bytes = disks.reduce((all, disk) => all + volumeBytesFor(disk.bytes), 0);
  const move: Consolidated = {
    device: { id: device.id, name: device.name },
    ...{ size, bytes, target: null, why: '', moving: null, first: [], unknown: [] },
    ...{ seconds: null, input: null },
    critical: computer?.work === 'files or finance' || serves(fleet, device),
  };
  const moving = openMoveOf(fleet, device);
  if (moving)
    return { move: { ...move, moving: { id: moving.id, state: moving.state } }, patches: [] };
  const lacking = [
    size.vcpu.value === null ? 'its cores' : '',
    size.memory.value === null ? 'its memory' : '',
    disks.length === 0 ? 'its disks' : '',
  ].filter(Boolean);
  if (size.vcpu.value === null || size.memory.value === null || disks.length === 0)
    return {
      move: {
        ...move,
        why: `${lacking.join(' and ')} ${lacking.length > 1 ? 'are' : 'is'} not recorded`.replace(
          /(cores|disks) is/,
          '$1 are',
        ),
      },
      patches: [],
    };
  const placing = {
    vcpu: size.vcpu.value,
    memoryMiB: size.memory.value,
    bytes,
    networkIds: networksOf(fleet, device),
    processorMode: 'unknown' as const,
    family: computer?.family ?? ('other' as const),
    ...{ profileId: null, groupId: null, ruleIds: [] },
  };
  const ranks = rankHosts(fleet, placing, context).filter(
    ({ hostId }) => ask.groupId === null || fleet.need('host', hostId).groupId === ask.groupId,
  );
  const best = ranks.find(({ fits }) => fits);
  const pool = best?.pools.find(({ fits }) => fits);
  if (!best || !pool) return { move: { ...move, why: whyNot(ranks) }, patches: [] };
  const host = fleet.need('host', best.hostId);
  const input: PlanInput = {
    deviceId: device.id,
    targetHostId: host.id,
    name: device.name,
    vcpu: asGuest(computer, host).vcpu.value ?? size.vcpu.value,
    memoryMiB: size.memory.value,
    disks: disks.map((disk) => ({
      computerDiskId: disk.id,
      poolId: pool.poolId,
      bytes: volumeBytesFor(disk.bytes),
      thin: true,
    })),
    linkBitsPerSecond: ask.linkBitsPerSecond,
  };
  // What no image can be made of goes by its files. What stands against it is told, and planned all the same.
  const decided = (one: PlanInput) =>
    decide(
      fleet,
      { type: 'migration.plan-from-physical', input: one, override: 'seen together' },
      context,
    );
  const byImage = decided(input);
  const one = isRefusal(byImage) ? { ...input, method: 'files only' as const } : input;
  const decision = isRefusal(byImage) ? decided(one) : byImage;
  const route = fromPhysicalRoute(fleet, one, context.now);
  if (isRefusal(decision) || isRefusal(route)) {
    const refused = isRefusal(byImage) ? byImage : (route as Refusal);
    return { move: { ...move, why: refused.sentence, first: [wordsOf(refused)] }, patches: [] };
  }
  const { total, totalRange } = route.estimate;
  return {
    move: {
      ...move,
      target: {
        hostId: host.id,
        host: host.name,
        pool: pool.name,
        tolerance: best.tolerance.answer === 'not asked' ? '' : best.tolerance.sentence,
      },
      first: [...(isRefusal(byImage) ? [byImage] : []), ...decision.overridden].map(wordsOf),
      unknown: route.checks.filter(({ passed }) => passed === null).map(({ name }) => name),
      seconds: total.value === null ? null : [total.value, totalRange[1]],
      input: one,
    },
    patches: [...decision.patches],
  };
}

const wordsOf = ({ sentence, remedy = '' }: Refusal) => ({ sentence, remedy });

const networksOf = (fleet: Fleet, { id }: Row<'device'>): string[] => [
  ...new Set(
    fleet
      .referring('devicePort', 'deviceId', id)
      .flatMap(({ networkId, outside }) => (networkId && !outside ? networkId : [])),
  ),
];

/** Others need a service that it provides. */
const serves = (fleet: Fleet, { id }: Row<'device'>): boolean =>
  fleet
    .referring('provider', 'deviceId', id)
    .some(({ serviceId }) => fleet.referringCount('dependency', 'serviceId', serviceId) > 0);

/** What the host that comes closest lacks. */
function whyNot(ranks: readonly HostRank[]): string {
  const [closest] = ranks;
  if (!closest) return 'no host is in that group';
  const lacks = closest.reasons.filter(({ fits }) => !fits).map(({ sentence }) => sentence);
  return `no host takes it; ${closest.name} comes closest: ${lacks.join('; ') || 'none of its pools has the room'}`;
}
