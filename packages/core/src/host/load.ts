/** What counts against a host: guests that are promised room or use it, and room that migrations hold. */
import { countsOnHost, memoryDemand } from './demand.js';
import type { Fleet, Row } from '../record/index.js';

export interface Load {
  vcpu: number;
  /** Guests' memory with overhead, and holds, in MiB. */
  memoryMiB: number;
  guests: { vcpu: number; memoryMiB: number; count: number };
  /** Guests among them that are stopped and keep their room. */
  stopped: string[];
  held: { vcpu: number; memoryMiB: number; count: number };
}

export function load(fleet: Fleet, hostId: string): Load {
  return fleet.memo(hostId, 'load', () => {
    const stopped: string[] = [];
    const guests = { vcpu: 0, memoryMiB: 0, count: 0 };
    for (const guest of fleet.referring('guest', 'hostId', hostId)) {
      if (!countsOnHost(guest)) continue;
      guests.vcpu += guest.vcpu;
      guests.memoryMiB += memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB);
      guests.count += 1;
      if (guest.state === 'stopped') stopped.push(guest.name);
    }
    const held = { vcpu: 0, memoryMiB: 0, count: 0 };
    for (const hold of fleet.referring('hold', 'hostId', hostId)) {
      held.vcpu += hold.vcpu;
      held.memoryMiB += hold.memoryMiB;
      held.count += 1;
    }
    return {
      vcpu: guests.vcpu + held.vcpu,
      memoryMiB: guests.memoryMiB + held.memoryMiB,
      guests,
      stopped,
      held,
    };
  });
}

/** Whether a host in that state takes new guests. */
export const offersRoom = (host: Row<'host'>): boolean => host.state === 'in service';

/** Whether what is on a host counts for the fleet's level: a planned, failed or retired host carries nothing. */
export const carries = (host: Row<'host'>): boolean =>
  host.state === 'in service' || host.state === 'maintenance';
