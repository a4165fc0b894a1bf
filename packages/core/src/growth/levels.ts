/**
 * What groups of hosts, pools and subnets have taken, and what they have: looked at as of many days, it says how they fill.
 * Costs hosts + pools + subnets, less what is kept.
 */
import { capacity, carries, load, poolFigures } from '../host/index.js';
import { subnetFigures } from '../network/index.js';
import type { Fleet, Kind, Row } from '../record/index.js';

/** What fills: what is promised and assigned, by the record, and what is in use, as it was measured. */
export const RESOURCES = [
  'memory',
  'memory in use',
  'processors',
  'storage',
  'storage in use',
  'addresses',
] as const;
export type Resource = (typeof RESOURCES)[number];

export interface PlaceLevel {
  resource: Resource;
  place: { kind: Kind; id: string; name: string };
  unit: 'MiB' | 'vCPU' | 'bytes' | 'addresses';
  taken: number;
  /** What may be taken, the reserve left out. */
  limit: number;
}

/** Hosts of no group stand together, under this id. */
const NO_GROUP = 'none';
export const groupOf = (host: Row<'host'>): string => host.groupId ?? NO_GROUP;

export function placeLevels(fleet: Fleet): PlaceLevel[] {
  return [...groupLevels(fleet), ...poolLevels(fleet), ...subnetLevels(fleet)];
}

function groupLevels(fleet: Fleet): PlaceLevel[] {
  const groups = new Map<string, { memory: [number, number]; vcpu: [number, number] }>();
  for (const host of fleet.all('host')) {
    // A host inside of a guest has its room from another one.
    if (!carries(host) || host.outerGuestId !== null) continue;
    const key = groupOf(host);
    const sums = groups.get(key) ?? { memory: [0, 0], vcpu: [0, 0] };
    const [has, used] = [capacity(fleet, host.id), load(fleet, host.id)];
    sums.memory[0] += used.memoryMiB;
    sums.memory[1] += has.memory.value - has.reserve.memory.value;
    sums.vcpu[0] += used.vcpu;
    sums.vcpu[1] += has.vcpu.value - has.reserve.vcpu.value;
    groups.set(key, sums);
  }
  return [...groups].flatMap(([id, { memory, vcpu }]): PlaceLevel[] => {
    const name = fleet.get('hostGroup', id)?.name ?? 'hosts of no group';
    const place = { kind: 'hostGroup' as const, id, name };
    return [
      { resource: 'memory', place, unit: 'MiB', taken: memory[0], limit: memory[1] },
      { resource: 'processors', place, unit: 'vCPU', taken: vcpu[0], limit: vcpu[1] },
    ];
  });
}

const poolLevels = (fleet: Fleet): PlaceLevel[] =>
  [...fleet.all('pool')].map(({ id, name }) => {
    const { promisedBytes, limitBytes } = poolFigures(fleet, id);
    return {
      resource: 'storage',
      place: { kind: 'pool', id, name },
      unit: 'bytes',
      taken: promisedBytes,
      limit: limitBytes,
    };
  });

const subnetLevels = (fleet: Fleet): PlaceLevel[] =>
  [...fleet.all('subnet')].flatMap(({ id, networkId, prefix }): PlaceLevel[] => {
    const { taken, held, assignable } = subnetFigures(fleet, id);
    // IPv6: nobody runs out.
    if (taken.value === null) return [];
    return [
      {
        resource: 'addresses',
        place: { kind: 'subnet', id, name: `${fleet.need('network', networkId).name} ${prefix}` },
        unit: 'addresses',
        taken: held,
        limit: assignable,
      },
    ];
  });
