/** Where each clone of a batch is made: as it is written, else by the spread. */
import { counted } from '../quantity/index.js';
import { processorFit } from '../placement/index.js';
import { reaches } from '../host/index.js';
import { refuse, type Fleet, type Refusal, type Row } from '../record/index.js';
import type { MakeClones } from './make-clones.js';
import { poolFor, demandOfClone, spreadClones } from './spread.js';

/** A clone that is asked for, with its place. */
export interface Seated {
  hostId: string;
  poolId?: string;
}

/** As it is given, else by the spread, which sees what those with a written host take. */
export function seatsOf(fleet: Fleet, origin: Row<'guest'>, input: MakeClones): Seated[] | Refusal {
  const { copy, spread = 'beside', among = [], clones } = input;
  const written = clones.filter(({ hostId }) => hostId);
  const count = clones.length - written.length;
  const size = { vcpu: input.vcpu ?? origin.vcpu, memoryMiB: input.memoryMiB ?? origin.memoryMiB };
  const demand = demandOfClone(fleet, { origin, size, copy, groupId: input.groupId });
  const seats = spreadClones(fleet, demand, {
    count,
    how: spread,
    among,
    taken: written.map(({ hostId }) => hostId!),
  });
  const placed = seats.filter((seat) => seat !== null);
  if (placed.length < count)
    return refuse({
      code: 'no-seat',
      field: 'spread',
      sentence: `There is room for ${placed.length} of ${counted(count, 'clone')}: no ${among.length ? 'host of those chosen' : 'other host'} has memory, processors, networks and a pool for one more${demand.apart ? ', and no two of its role on one host' : ''}.`,
      remedy: 'Make fewer, or choose their hosts yourself and write why.',
    });
  let next = 0;
  return clones.map(({ hostId, poolId }) => {
    if (!hostId) {
      const seat = placed[next++]!;
      return { hostId: seat.hostId, poolId: poolId ?? seat.poolId ?? undefined };
    }
    const host = fleet.get('host', hostId);
    const away = host && !demand.volumes.every((volume) => reaches(fleet, hostId, volume.poolId));
    const found = away && copy !== 'dependent' ? poolFor(fleet, host, demand, new Map()) : null;
    return { hostId, poolId: poolId ?? found ?? undefined };
  });
}

/** A copy of a disk runs on no other architecture; a dependent one holds nothing without the blocks of its base beside it. */
export function cannotBe(
  fleet: Fleet,
  origin: Row<'guest'>,
  volumes: readonly Row<'volume'>[],
  copy: MakeClones['copy'],
  wish: Seated,
): Refusal | undefined {
  const host = fleet.get('host', wish.hostId);
  const [architecture] = host
    ? processorFit(origin, fleet.need('host', origin.hostId), host, 'stopped')
    : [];
  if (architecture?.never) {
    const { sentence, remedy } = architecture;
    return refuse({ code: 'other-architecture', field: 'hostId', sentence, remedy });
  }
  const base = volumes.find((volume) => wish.poolId && volume.poolId !== wish.poolId);
  if (copy !== 'dependent' || !base) return undefined;
  return refuse({
    code: 'away-from-base',
    field: 'poolId',
    sentence: `A dependent clone shares the blocks of ${base.label} of ${origin.name}, which lie in pool ${fleet.need('pool', base.poolId).name}: it lies there too.`,
    remedy: 'Leave the pool as it is, or make full clones.',
  });
}
