/** How the guests grew over half a year, so that places have a trend to run out by. All invented. */
import type { Change, Fleet } from '@insel/core';
import { GUESTS, volumeOf } from './place.js';

/** Days before now on which the record began. */
export const RECORD_BEGAN = 190;

/** GiB of memory and of disk. */
interface Size {
  vcpu: number;
  memory: number;
  disk: number;
}

/** Days before now, guest, what it had more of from then on, and why. */
type Grown = [daysAgo: number, guest: string, what: keyof Size, more: number, why: string];

const GROWN: Grown[] = [
  [176, 'backup', 'disk', 800, 'The annex keeps its backups for a month now'],
  [171, 'archive', 'disk', 300, 'The papers of the second gauge were found'],
  [163, 'tide-db', 'memory', 8, 'Questions of the ferry office wait for the disk'],
  [158, 'seal-count', 'memory', 8, 'Pictures twice as large'],
  [149, 'office-files', 'disk', 200, 'Plans of the new pier'],
  [147, 'camera-store', 'disk', 500, 'Frames of the third camera'],
  [140, 'archive', 'memory', 8, 'The search reads its index from memory'],
  [133, 'backup', 'disk', 900, 'Frames of the third camera'],
  [127, 'model-run', 'vcpu', 8, 'A finer grid for the surge model'],
  [126, 'model-run', 'memory', 16, 'A finer grid for the surge model'],
  [118, 'tide-db', 'disk', 200, 'Readings every minute'],
  [112, 'archive', 'disk', 300, 'Charts of the harbour, scanned'],
  [104, 'seal-count', 'vcpu', 2, 'Counts the whole bay'],
  [99, 'office-files', 'disk', 200, 'Pictures of the opening'],
  [95, 'camera-store', 'memory', 8, 'Frames are thinned out as they come'],
  [88, 'backup', 'memory', 8, 'Looks for what it holds already'],
  [83, 'tide-db', 'memory', 8, 'Readings every minute'],
  [77, 'camera-store', 'disk', 500, 'Frames of the fourth camera'],
  [70, 'ledger', 'memory', 4, 'The new year of the accounts'],
  [66, 'backup', 'disk', 800, 'Frames of the fourth camera'],
  [61, 'radar-db', 'disk', 200, 'Tracks are kept for two years'],
  [55, 'model-run', 'memory', 16, 'Two runs a night'],
  [54, 'model-run', 'vcpu', 8, 'Two runs a night'],
  [47, 'archive', 'disk', 300, 'Log books of the lighthouse'],
  [41, 'office-files', 'memory', 4, 'More desks'],
  [36, 'seal-count', 'memory', 8, 'Two cameras at once'],
  [30, 'tide-db', 'disk', 200, 'The spring tides in full'],
  [24, 'office-files', 'disk', 200, 'Plans of the new pier, second part'],
  [19, 'archive', 'memory', 8, 'More people search'],
  [13, 'camera-store', 'disk', 500, 'Frames of the fifth camera'],
  [8, 'tide-api', 'vcpu', 2, 'The ferry office asks every ten seconds'],
];

/** What the guests that grew had when the record began; they end with what they have now. */
export function asTheyBegan(): Map<string, Size> {
  const began = new Map<string, Size>();
  for (const [, name, what, more] of GROWN) {
    const [, , , , vcpu, memory, disk] = GUESTS.find((guest) => guest[0] === name)!;
    const size = began.get(name) ?? { vcpu, memory, disk };
    began.set(name, { ...size, [what]: size[what] - more });
  }
  return began;
}

export async function writeHalfYear({
  make,
  fleet,
  id,
  day,
}: {
  make: (change: Change) => Promise<void>;
  fleet: Fleet;
  id: (kind: 'guest', name: string) => string;
  /** Goes on with the story that many days before now. */
  day: (days: number) => void;
}): Promise<void> {
  for (const [daysAgo, name, what, more, reason] of GROWN) {
    day(daysAgo);
    const guest = fleet.need('guest', id('guest', name));
    if (what === 'disk') {
      const volume = fleet.referring('volume', 'guestId', guest.id)[0]!;
      const bytes = volume.bytes + volumeOf(more);
      await make({ type: 'volume.edit', input: { id: volume.id, bytes }, reason });
    } else if (what === 'memory') {
      const memoryMiB = guest.memoryMiB + more * 1024;
      await make({ type: 'guest.edit', input: { id: guest.id, memoryMiB }, reason });
    } else {
      const vcpu = guest.vcpu + more;
      await make({ type: 'guest.edit', input: { id: guest.id, vcpu }, reason });
    }
  }
}
