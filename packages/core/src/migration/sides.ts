/** The two sides of a move: each a host, or a computer that runs no guests. */
import type { Fleet, Row } from '../record/index.js';

export interface MoveSides {
  sourceHostId: string | null;
  targetHostId: string | null;
  sourceDeviceId?: string | null;
  targetDeviceId?: string | null;
}

export interface MoveSide {
  kind: 'host' | 'device';
  id: string;
  name: string;
}

/** @throws Error where neither host nor computer of that side is recorded */
export function sideOf(fleet: Fleet, sides: MoveSides, side: 'source' | 'target'): MoveSide {
  const hostId = side === 'source' ? sides.sourceHostId : sides.targetHostId;
  if (hostId !== null) return { kind: 'host', id: hostId, name: fleet.need('host', hostId).name };
  const deviceId = side === 'source' ? sides.sourceDeviceId : sides.targetDeviceId;
  const { id, name } = fleet.need('device', deviceId ?? '');
  return { kind: 'device', id, name };
}

/** Both sides, each once. */
export const sidesOf = (fleet: Fleet, sides: MoveSides): MoveSide[] => {
  const [source, target] = [sideOf(fleet, sides, 'source'), sideOf(fleet, sides, 'target')];
  return source.id === target.id ? [source] : [source, target];
};

const idOf = (host: string | null, device: string | null | undefined): string =>
  host ?? device ?? '';

export const sameSides = (one: MoveSides, other: MoveSides): boolean =>
  idOf(one.sourceHostId, one.sourceDeviceId) === idOf(other.sourceHostId, other.sourceDeviceId) &&
  idOf(one.targetHostId, one.targetDeviceId) === idOf(other.targetHostId, other.targetDeviceId);

/** The hardware sheet of a computer; null: none is recorded. */
export const computerOf = (fleet: Fleet, deviceId: string): Row<'computer'> | null =>
  fleet.referring('computer', 'deviceId', deviceId)[0] ?? null;

/** Where a volume of a move comes from and where it goes, in words: a pool, or a disk of the computer. */
export function endsOf(fleet: Fleet, move: Row<'volumeMove'>): { from: string; to: string } {
  const disk = fleet.get('computerDisk', move.computerDiskId)?.bay ?? '';
  const place = (poolId: string | null) => fleet.get('pool', poolId)?.name ?? disk;
  return { from: place(move.fromPoolId), to: place(move.toPoolId) };
}

/** Whether a computer is, was or becomes that guest by a move that was not taken back: one machine at two places, with one name. */
export const isOneMachine = (fleet: Fleet, guestId: string, deviceId: string): boolean =>
  fleet
    .referring('migration', 'guestId', guestId)
    .some(
      ({ state, keepsBoth, sourceDeviceId, targetDeviceId }) =>
        state !== 'rolled back' &&
        !keepsBoth &&
        (sourceDeviceId === deviceId || targetDeviceId === deviceId),
    );
