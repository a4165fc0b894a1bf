/** The objection of planning that there is no room: raised by the figure that fails, with its workings. */
import { printValue } from '../figure/index.js';
import { objection, type Fleet, type Patch, type Refusal } from '../record/index.js';
import { headroom } from './headroom.js';
import { offersRoom } from './load.js';
import { poolFigures } from './pool.js';

export interface Places {
  hosts: Iterable<string>;
  pools: Iterable<string>;
}

/** Objections to the fleet as it would be with the patches, for the hosts and pools that the plan puts something on. */
export function roomObjections(fleet: Fleet, patches: readonly Patch[], places: Places): Refusal[] {
  const would = fleet.overlay(patches);
  return [
    ...[...new Set(places.hosts)].flatMap((id) => hostObjections(would, id)),
    ...[...new Set(places.pools)].flatMap((id) => poolObjections(would, id)),
  ];
}

function hostObjections(fleet: Fleet, hostId: string): Refusal[] {
  const host = fleet.need('host', hostId);
  const room = headroom(fleet, hostId);
  const found: Refusal[] = [];
  if (!offersRoom(host)) {
    found.push(
      objection({
        code: 'host-offers-nothing',
        field: 'hostId',
        sentence: `${host.name} is ${host.state === 'in service' ? 'not offered' : host.state}: a host offers room only while it is in service.`,
        remedy: 'Choose a host in service, or write why this one will do.',
      }),
    );
  }
  if (room.memory.value < 0) {
    found.push(
      objection({
        code: 'no-memory',
        field: 'memoryMiB',
        sentence: `${host.name} would be short of ${printValue(-room.memory.value, 'MiB', 'up')} of memory.`,
        remedy: 'Ask for less memory, choose another host, or write why this one will do.',
        figure: room.memory,
      }),
    );
  }
  if (room.vcpu.value < 0) {
    found.push(
      objection({
        code: 'no-processors',
        field: 'vcpu',
        sentence: `${host.name} would be promised ${-room.vcpu.value} vCPU more than the policy allows.`,
        remedy: 'Ask for fewer vCPU, choose another host, or write why this one will do.',
        figure: room.vcpu,
      }),
    );
  }
  return found;
}

/** What is allocated needs real room; only thin promises may go beyond it, up to the limit. */
function poolObjections(fleet: Fleet, poolId: string): Refusal[] {
  const { left, free } = poolFigures(fleet, poolId);
  const { name } = fleet.need('pool', poolId);
  const found: Refusal[] = [];
  if (free.value < 0) {
    found.push(
      objection({
        code: 'no-storage',
        field: 'volumes.0.bytes',
        sentence: `Pool ${name} would be short of ${printValue(-free.value, 'bytes', 'up')}: what is allocated at once needs real room.`,
        remedy:
          'Ask for a smaller volume or a thin one, choose another pool, or write why this one will do.',
        figure: free,
      }),
    );
  }
  if (left.value < 0) {
    found.push(
      objection({
        code: 'over-promised',
        field: 'volumes.0.bytes',
        sentence: `Pool ${name} would be promised ${printValue(-left.value, 'bytes', 'up')} beyond its limit.`,
        remedy: 'Ask for a smaller volume, choose another pool, or write why this one will do.',
        figure: left,
      }),
    );
  }
  return found;
}
