/** What becomes of a guest, in words: where it comes back, how old its copy is, why it does not. */
import { memoryDemand } from '../host/index.js';
import { formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Fate, Fates, Packing } from './fates.js';
import { freeAfter } from './left-after.js';

const HOUR = 3_600_000;

/** Says it of one guest after the other; what hosts have left is counted once for all of them. @param now ages count from it */
export function fatesInWords(
  fleet: Fleet,
  { fallen }: Pick<Fates, 'fallen'>,
  now: string,
): (fate: Fate) => string {
  const freeIn = new Map<Packing, ReturnType<typeof freeAfter>>();
  const noRoomOn = (guest: Row<'guest'>, packing: Packing, hostIds: readonly string[]) => {
    const free = freeIn.get(packing) ?? freeAfter(fleet, [packing], packing.question.hostIds);
    freeIn.set(packing, free);
    return noRoom(fleet, guest, hostIds, free);
  };
  return ({ guest, way, onHostId, candidates, packing, copy }) => {
    if (onHostId) {
      const host = fleet.need('host', onHostId).name;
      return way === 'replica' && copy
        ? `from its replica on ${host}, ${ageOf(copy, now)} old`
        : `restarts on ${host}`;
    }
    const why =
      candidates.none?.sentence ??
      (packing!.answer === 'not settled'
        ? 'whether there is room is not settled'
        : noRoomOn(
            guest,
            packing!,
            candidates.suitable.filter((id) => !fallen.has(id)),
          ));
    if (way === 'waits')
      return `${candidates.none ? 'down' : 'down until there is room'}, its disks are intact: ${why}`;
    if (!copy) return `${why}; no backup survives`;
    const hours =
      copy.restoreMinutes === null
        ? 'time to restore never tried'
        : `about ${hoursOf(copy.restoreMinutes)} to restore`;
    return `${why}; backup ${ageOf(copy, now)} old, ${hours}`;
  };
}

const ageOf = (copy: Row<'backup'>, now: string): string =>
  hoursOf(Math.max(0, Date.parse(now) - Date.parse(copy.lastSuccessAt!)) / 60_000);

function hoursOf(minutes: number): string {
  if (minutes < 90) return `${Math.round(minutes)} min`;
  const hours = minutes / 60;
  return hours < 48
    ? `${Math.round(hours)} h`
    : `${Math.round((minutes * 60_000) / (24 * HOUR))} days`;
}

/** Why a guest found no place among hosts that could take it: free in all, the largest gap, what it asks. */
function noRoom(
  fleet: Fleet,
  guest: Row<'guest'>,
  candidates: readonly string[],
  freeOn: ReturnType<typeof freeAfter>,
): string {
  const free = candidates.map((id) => freeOn.get(id)!);
  const demand = Math.min(
    ...candidates.map((id) => memoryDemand(fleet, id, guest.vcpu, guest.memoryMiB)),
  );
  const gap = Math.max(0, ...free.map(({ memoryMiB }) => memoryMiB));
  if (gap >= demand) {
    const most = Math.max(0, ...free.map(({ vcpu }) => vcpu));
    return `no room on the hosts within reach: at most ${most} vCPU free on one, ${guest.vcpu} asked`;
  }
  const total = free.reduce((sum, { memoryMiB }) => sum + Math.max(0, memoryMiB), 0);
  return `no room on the hosts within reach: ${formatMemory(total, 'down')} free, no gap larger than ${formatMemory(gap, 'down')}, ${formatMemory(demand, 'up')} asked`;
}
