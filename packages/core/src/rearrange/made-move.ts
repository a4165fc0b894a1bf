/** One move in the words of the record: what travels, how long, its patches, and whether the record would hold it. */
import { capacity, load, poolFigures } from '../host/index.js';
import { bytesToCopy, routeEstimate } from '../migration/index.js';
import { processorFit } from '../placement/index.js';
import type { Fleet, Patch, Row } from '../record/index.js';
import { disksOf, ownPoolOf } from './problem.js';
import type { RearrangedMove } from './rearranged.js';

export function moveOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  toHostId: string,
  linkBitsPerSecond: number,
): Omit<RearrangedMove, 'why'> {
  const [source, target] = [fleet.need('host', guest.hostId), fleet.need('host', toHostId)];
  const { own } = disksOf(fleet, guest.id);
  const pool = own.length > 0 ? ownPoolOf(fleet, toHostId) : null;
  // Only where nothing speaks against it does a running guest move while running.
  const running =
    guest.state === 'in service' &&
    processorFit(guest, source, target, 'running').every(({ fits }) => fits === true);
  const route = {
    guestId: guest.id,
    sourceHostId: source.id,
    targetHostId: target.id,
    running,
    linkBitsPerSecond,
    movesStorage: pool !== null,
  };
  const built = guest.state === 'in service' || guest.state === 'stopped';
  return {
    guestId: guest.id,
    name: guest.name,
    state: guest.state,
    fromHostId: source.id,
    from: source.name,
    toHostId: target.id,
    to: target.name,
    toPoolId: pool?.id ?? null,
    toPool: pool?.name ?? null,
    running,
    bytes: built ? bytesToCopy(fleet, route) : 0,
    seconds: built ? routeEstimate(fleet, route).expected.value : 0,
  };
}

export function patchesOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  { toHostId, toPoolId }: Pick<RearrangedMove, 'toHostId' | 'toPoolId'>,
): Patch[] {
  const volumes = toPoolId === null ? [] : disksOf(fleet, guest.id).own;
  return [
    {
      op: 'update',
      kind: 'guest',
      id: guest.id,
      seen: guest.revision,
      before: { hostId: guest.hostId },
      after: { hostId: toHostId },
    },
    ...volumes.map(({ id, revision, poolId }): Patch => ({
      op: 'update',
      kind: 'volume',
      id,
      seen: revision,
      before: { poolId },
      after: { poolId: toPoolId },
    })),
  ];
}

/** Why a move cannot be, asked of the record with the move made; empty where it can. */
export function notHeld(
  would: Fleet,
  fleet: Fleet,
  { toHostId, toPoolId, to }: Omit<RearrangedMove, 'why'>,
): string {
  const [has, used, before] = [
    capacity(would, toHostId),
    load(would, toHostId),
    load(fleet, toHostId),
  ];
  const over = (of: 'memoryMiB' | 'vcpu', room: number) => used[of] > room && used[of] > before[of];
  if (over('memoryMiB', has.memory.value)) return `${to} has not the memory for it`;
  if (over('vcpu', has.vcpu.value)) return `${to} has not the processors for it`;
  if (toPoolId !== null && poolFigures(would, toPoolId).left.value < 0)
    return `no pool of ${to} alone has the room for its disks`;
  return '';
}
