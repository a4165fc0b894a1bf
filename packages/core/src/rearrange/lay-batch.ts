/**
 * Guests that do not exist yet, in lots of which all are alike, laid over the record: in service, on a host that stands for
 * nowhere, from which they are to be brought to hosts that take them. So a batch is asked of everything that a guest of the
 * record is asked of. Costs as many rows as there are guests.
 */
import { poolFigures } from '../host/index.js';
import { counted, formatBinary } from '../quantity/index.js';
import { draftOf, type Fleet, type NewFields, type Row } from '../record/index.js';

export const BATCH_AIMS = ['fewest', 'even', 'licences'] as const;
export type BatchAim = (typeof BATCH_AIMS)[number];

export interface Lot {
  /** Of their names, as clones have them: `net-{n}`. */
  pattern: string;
  count: number;
  family: Row<'guest'>['family'];
  profileId: string | null;
  /** By which licences may be given. */
  labels: readonly string[];
  guestGroupId: string | null;
  vcpu: number;
  memoryMiB: number;
  /** Of its volume; 0: none. */
  bytes: number;
  thin: boolean;
  /** Null: in a pool of the host that it comes to. */
  poolId: string | null;
  networkIds: readonly string[];
  processorMode: Row<'guest'>['processorMode'];
  /** No two of the lot in one. */
  apart: 'none' | Row<'placementRule'>['scope'];
}

export interface BatchAsk {
  /** Hosts that back each other; null: those of no group. */
  groupId: string | null;
  lots: readonly Lot[];
  aim: BatchAim;
  /** What one unit of a licence costs beyond those that are allowed; 1 where it is not said. */
  prices: readonly { entitlementId: string; price: number }[];
  /** Guests that stand there may move, so that others find a place. */
  makesRoom: boolean;
  /** Hosts that may fail now must still be able to. */
  keepTolerance: boolean;
  /** Slowest link between the hosts, in bit/s: for times of moves. */
  linkBitsPerSecond: number;
}

export interface LaidBatch {
  /** The record with all of them, nowhere yet. */
  fleet: Fleet;
  outsideId: string;
  /** By lot. */
  guestIds: string[][];
  /** Of a lot that is not laid whole: its shared pool has room for so many only. */
  short: (Short | null)[];
}

export interface Short {
  count: number;
  why: string;
  mend: string | null;
}

/** @returns null where no host of the group is in service */
export function layBatch(fleet: Fleet, { groupId, lots }: BatchAsk): LaidBatch | null {
  const [mate] = fleet.backing(groupId);
  if (mate === undefined) return null;
  let made = 0;
  const draft = draftOf(fleet, { newId: () => `new ${(made += 1)}` });
  const { id: _, revision: __, ...like } = fleet.need('host', mate);
  const outsideId = draft.create('host', {
    ...(like as NewFields<'host'>),
    name: NOWHERE,
    ...{ rackId: null, rackUnit: null, siteId: null, outerGuestId: null },
  });
  const outsidePool = draft.create('pool', { name: NOWHERE, usableBytes: Number.MAX_SAFE_INTEGER });
  draft.create('poolReach', { poolId: outsidePool, hostId: outsideId });
  const { fits, short } = inSharedPools(fleet, lots);
  const guestIds = lots.map((lot, i) => {
    const { family, profileId, guestGroupId, vcpu, memoryMiB, processorMode } = lot;
    const labels = [...lot.labels];
    const ids = Array.from({ length: fits[i]! }, (_, n) => {
      const guestId = draft.create('guest', {
        name: `${lot.pattern} ${n + 1}`,
        state: 'in service',
        hostId: outsideId,
        ...{ family, profileId, labels, groupId: guestGroupId, vcpu, memoryMiB, processorMode },
        nestedVirtualisation: fleet.get('profile', profileId)?.nested ?? false,
      });
      const { bytes, thin } = lot;
      if (bytes > 0)
        draft.create('volume', {
          ...{ guestId, bytes, thin, label: 'system' },
          poolId: lot.poolId ?? outsidePool,
        });
      for (const [position, networkId] of lot.networkIds.entries())
        draft.create('adapter', { guestId, networkId, position });
      return guestId;
    });
    if (lot.apart !== 'none' && ids.length > 1) {
      const ruleId = draft.create('placementRule', {
        name: `${lot.pattern} apart`,
        rule: 'apart',
        scope: lot.apart,
      });
      for (const guestId of ids) draft.create('placementMember', { ruleId, guestId });
    }
    return ids;
  });
  return { fleet: fleet.overlay(draft.patches()), outsideId, guestIds, short };
}

const NOWHERE = 'nowhere yet';

/** How many of each lot their shared pools have room for, the first lot first. */
function inSharedPools(
  fleet: Fleet,
  lots: readonly Lot[],
): { fits: number[]; short: (Short | null)[] } {
  const left = new Map<string, { promise: number; real: number }>();
  const short: (Short | null)[] = [];
  const fits = lots.map(({ poolId, bytes, thin, count }, i) => {
    short[i] = null;
    if (poolId === null || bytes === 0) return count;
    const figures = poolFigures(fleet, poolId);
    const room = left.get(poolId) ?? { promise: figures.left.value, real: figures.free.value };
    const most = Math.floor(
      Math.max(0, thin ? room.promise : Math.min(room.promise, room.real)) / bytes,
    );
    const held = Math.min(count, most);
    room.promise -= held * bytes;
    if (!thin) room.real -= held * bytes;
    left.set(poolId, room);
    if (held < count) {
      const { name } = fleet.need('pool', poolId);
      const lacks =
        (count - held) * bytes -
        Math.max(0, thin ? room.promise : Math.min(room.promise, room.real));
      short[i] = {
        count: count - held,
        why: `pool ${name} has room for ${counted(held, 'volume')} of ${formatBinary(bytes, 'up')}`,
        mend: `${name} would do with ${formatBinary(lacks, 'up')} more.`,
      };
    }
    return held;
  });
  return { fits, short };
}
