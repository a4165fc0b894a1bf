/**
 * What a guest asks of its host: its own memory and processors, and the overhead its platform spends on it. Overhead
 * belongs to the demand, so that "the largest guest that fits" is right.
 *
 * The overhead formula a + b·vCPU + c·memory + video has no published source: its coefficients are properties of the
 * platform.
 */
import type { Fleet, Row } from '../record/index.js';
import type { MiB } from '../quantity/index.js';

/** What of a platform says what it spends on a guest. */
const SPENDS = ['overheadMiB', 'overheadPerVcpuMiB', 'overheadPercent', 'videoMiB'] as const;

export type OverheadProperties = Pick<Row<'platform'>, (typeof SPENDS)[number]>;

/**
 * Memory that the platform spends on a guest, in whole MiB, rounded up.
 * @example overheadMiB({ overheadMiB: 128, overheadPerVcpuMiB: 8, overheadPercent: 1, videoMiB: 16 }, 2, 4096) // 201
 */
export function overheadMiB(platform: OverheadProperties, vcpu: number, memoryMiB: MiB): MiB {
  const hundredths =
    100 * (platform.overheadMiB + platform.overheadPerVcpuMiB * vcpu + platform.videoMiB) +
    platform.overheadPercent * memoryMiB;
  return Math.ceil(hundredths / 100);
}

/** Whether a guest's processors and memory count against its host. */
export function countsOnHost(guest: Row<'guest'>): boolean {
  if (guest.template || guest.state === 'retired') return false;
  return guest.state !== 'stopped' || guest.heldWhenStopped;
}

/** Memory with overhead on a given host, in MiB. */
export function memoryDemand(fleet: Fleet, hostId: string, vcpu: number, memoryMiB: MiB): MiB {
  const { platformId } = fleet.pick('host', hostId, 'platformId');
  return memoryMiB + overheadMiB(fleet.pick('platform', platformId, ...SPENDS), vcpu, memoryMiB);
}

export function platformOf(fleet: Fleet, hostId: string): Row<'platform'> {
  return fleet.need('platform', fleet.need('host', hostId).platformId);
}

/** Full size of a guest's volumes, in bytes. */
export function volumeBytes(fleet: Fleet, guestId: string): number {
  return fleet
    .referring('volume', 'guestId', guestId)
    .reduce((sum, volume) => sum + volume.bytes, 0);
}
