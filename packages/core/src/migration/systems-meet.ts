/**
 * Whether two systems of one machine, the one at the source and the one at the target, would be on networks that reach each
 * other: asked of the simulator of reachability, adapter by adapter. Costs a question for each pair of adapters.
 */
import { nextFree } from '../network/index.js';
import {
  pingBetween,
  segmentOfPort,
  segmentOnHost,
  subnetIn,
  worldOf,
  type Probe,
} from '../reach/index.js';
import type { Fleet, Row } from '../record/index.js';
import { sideOf } from './sides.js';

/** A place where one of the two would be joined. */
interface Joint {
  networkId: string;
  segment: number | null;
}

/** Where they would meet, in words; null: nowhere. */
export function systemsMeet(fleet: Fleet, move: Row<'migration'>): string | null {
  for (const side of ['source', 'target'] as const)
    if (!isJoinKnown(fleet, move, side))
      return `nobody recorded what the system on ${sideOf(fleet, move, side).name} is joined to`;
  for (const one of jointsAt(fleet, move, 'source'))
    for (const other of jointsAt(fleet, move, 'target')) {
      const met = meeting(fleet, one, other);
      if (met) return met;
    }
  return null;
}

/** Somebody recorded an adapter or a port, plugged in or not. */
export function isJoinKnown(
  fleet: Fleet,
  move: Row<'migration'>,
  side: 'source' | 'target',
): boolean {
  const { kind, id } = sideOf(fleet, move, side);
  return kind === 'host'
    ? fleet.referringCount('adapter', 'guestId', move.guestId) > 0
    : fleet.referringCount('devicePort', 'deviceId', id) > 0;
}

/** Of a guest its connected adapters, where it would be joined on that host; of a computer its ports. */
export function jointsAt(
  fleet: Fleet,
  move: Pick<
    Row<'migration'>,
    'guestId' | 'sourceHostId' | 'targetHostId' | 'sourceDeviceId' | 'targetDeviceId'
  >,
  side: 'source' | 'target',
): Joint[] {
  const { kind, id } = sideOf(fleet, move, side);
  return kind === 'host'
    ? guestJoints(fleet, move.guestId, id)
    : fleet
        .referring('devicePort', 'deviceId', id)
        .flatMap((port) =>
          port.networkId
            ? [{ networkId: port.networkId, segment: segmentOfPort(fleet, port) }]
            : [],
        );
}

const guestJoints = (fleet: Fleet, guestId: string, hostId: string): Joint[] =>
  fleet
    .referring('adapter', 'guestId', guestId)
    .sort((a, b) => a.position - b.position)
    .flatMap(({ networkId, connected }) =>
      networkId && connected
        ? [{ networkId, segment: segmentOnHost(fleet, hostId, networkId) }]
        : [],
    );

function meeting(fleet: Fleet, one: Joint, other: Joint): string | null {
  if (one.segment === null || other.segment === null) return null;
  const [here, there] = [one, other].map(({ networkId }) => fleet.need('network', networkId).name);
  if (one.segment === other.segment)
    return here === there ? `both would be in ${here}` : `${here} and ${there} are one segment`;
  const [from, to] = [probeIn(fleet, one, 0), probeIn(fleet, other, 1)];
  // Without a subnet nobody knows what would be configured there.
  if (!from || !to) return `nobody knows what is configured in ${from ? there : here}`;
  const world = worldOf(fleet);
  const echoes = [pingBetween(world, from, to), pingBetween(world, to, from)];
  const heard = echoes.find(({ request }) => request.arrived?.id.startsWith('probe|'));
  if (!heard) return null;
  const way = heard.request.hops.slice(1, -1).map(({ machine }) => machine.name);
  return `${here} at the one and ${there} at the other reach each other${way.length > 0 ? ` through ${way.join(', ')}` : ''}`;
}

/** A machine with a free address there, as its subnet says; two of them have two addresses. */
export function probeIn(
  fleet: Fleet,
  { networkId, segment }: Joint,
  place: 0 | 1,
  ip?: string,
): Probe | null {
  const subnet = subnetIn(fleet, networkId);
  const free = ip ?? (subnet ? nextFree(fleet, subnet.id, { n: 2 })[place] : undefined);
  if (!subnet || free === undefined) return null;
  return {
    name: `a machine in ${fleet.need('network', networkId).name}`,
    ...{ segment, ip: free, prefixLength: subnet.prefixLength, gateway: subnet.gateway },
  };
}

/** Networks of the target in which the new system could be started beside the running source without meeting it. */
export function apartFrom(fleet: Fleet, move: Parameters<typeof jointsAt>[1]): string[] {
  if (move.targetHostId === null) return [];
  const source = jointsAt(fleet, move, 'source');
  return fleet
    .referring('virtualSwitch', 'hostId', move.targetHostId)
    .flatMap(({ networkId }) => {
      if (!networkId) return [];
      const segment = segmentOnHost(fleet, move.targetHostId!, networkId);
      const there = { networkId, segment };
      const met = segment === null || source.some((one) => meeting(fleet, one, there) !== null);
      return met ? [] : [fleet.need('network', networkId).name];
    })
    .sort();
}
