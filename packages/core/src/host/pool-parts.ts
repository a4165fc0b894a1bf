/** What lies in a pool, or is held there, by what it is: volumes, snapshots, room for moves. */
import type { WorkingLine } from '../figure/index.js';
import { counted } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';

interface Part {
  count: number;
  bytes: number;
}

export const NONE: Part = { count: 0, bytes: 0 };

export interface Parts {
  /** Thick volumes that lie there. */
  thick: Part;
  /** Thick volumes of guests that are only planned. */
  planned: Part;
  thin: Part;
  /** Of the thin volumes, those of which it is recorded what they have written, and how much. */
  thinUsed: Part;
  held: Part;
  heldThin: Part;
  snapshots: Part;
}

export const EMPTY: Parts = {
  thick: NONE,
  planned: NONE,
  thin: NONE,
  thinUsed: NONE,
  held: NONE,
  heldThin: NONE,
  snapshots: NONE,
};

export function partsOf(fleet: Fleet, poolId: string): Parts {
  const volumes = fleet.referring('volume', 'poolId', poolId);
  const thin = volumes.filter((volume) => volume.thin);
  const thick = volumes.filter((volume) => !volume.thin);
  const isPlanned = (volume: Row<'volume'>) =>
    fleet.need('guest', volume.guestId).state === 'planned';
  const holds = fleet.referring('hold', 'poolId', poolId);
  const heldThin = holds.filter((hold) => holdsThin(fleet, hold));
  const sum = <R>(rows: readonly R[], bytes: (row: R) => number): Part => ({
    count: rows.length,
    bytes: rows.reduce((total, row) => total + bytes(row), 0),
  });
  return {
    thick: sum(
      thick.filter((volume) => !isPlanned(volume)),
      ({ bytes }) => bytes,
    ),
    planned: sum(thick.filter(isPlanned), ({ bytes }) => bytes),
    thin: sum(thin, ({ bytes }) => bytes),
    thinUsed: sum(
      thin.filter((volume) => volume.usedBytes !== null),
      ({ usedBytes }) => usedBytes!,
    ),
    held: sum(
      holds.filter((hold) => !heldThin.includes(hold)),
      ({ bytes }) => bytes,
    ),
    heldThin: sum(heldThin, ({ bytes }) => bytes),
    snapshots: sum(fleet.referring('snapshot', 'poolId', poolId), ({ bytes }) => bytes),
  };
}

/** Room held for a thin volume is a promise like the volume itself. */
function holdsThin(fleet: Fleet, hold: Row<'hold'>): boolean {
  return fleet.referring('volumeMove', 'migrationId', hold.migrationId).some((move) => {
    const volume = fleet.get('volume', move.volumeId);
    const here = hold.side === 'source' ? move.fromPoolId : move.toPoolId;
    return volume?.thin && volume.bytes === hold.bytes && here === hold.poolId;
  });
}

const named = (parts: Parts): [string, Part][] => [
  [counted(parts.thick.count, 'thick volume'), parts.thick],
  [`${counted(parts.planned.count, 'thick volume')} planned`, parts.planned],
  [counted(parts.thin.count, 'thin volume'), parts.thin],
  [counted(parts.held.count + parts.heldThin.count, 'hold') + ' of migrations', heldOf(parts)],
  [counted(parts.snapshots.count, 'snapshot'), parts.snapshots],
];

const heldOf = ({ held, heldThin }: Parts): Part => ({
  count: held.count + heldThin.count,
  bytes: held.bytes + heldThin.bytes,
});

export function linesOf(parts: Parts, thinWords?: string): WorkingLine[] {
  return named(parts)
    .filter(([, part]) => part.count > 0)
    .map(([label, part]) => ({
      label: part === parts.thin && thinWords ? thinWords : label,
      value: part.bytes,
      unit: 'bytes' as const,
      operator: '−' as const,
    }));
}

export const wordsOf = (parts: Parts): string =>
  named(parts)
    .filter(([, part]) => part.count > 0)
    .map(([label]) => label)
    .join(', ') || 'nothing';
