/** What a pool has promised and what is left of it. Full size counts, thin or not: the limit says how far to promise. */
import { fromRecord, practice, type Figure } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';

type Sure = Figure & { value: number };

export interface PoolFigures {
  /** Bytes left to promise; negative when promised beyond the limit. */
  left: Sure;
  /** Promised share of the limit, in per cent. */
  taken: Sure;
  promisedBytes: number;
  limitBytes: number;
}

export function poolFigures(fleet: Fleet, poolId: string): PoolFigures {
  return fleet.memo(poolId, 'figures', () => {
    const pool = fleet.need('pool', poolId);
    const volumes = fleet.referring('volume', 'poolId', poolId);
    const promised = volumes.reduce((sum, volume) => sum + volume.bytes, 0);
    const holds = fleet.referring('hold', 'poolId', poolId);
    const held = holds.reduce((sum, hold) => sum + hold.bytes, 0);
    const snapshots = fleet.referring('snapshot', 'poolId', poolId);
    const kept = snapshots.reduce((sum, snapshot) => sum + snapshot.bytes, 0);
    const limit = Math.floor((pool.usableBytes * pool.promiseLimitPercent) / 100);
    const value = limit - promised - held - kept;
    const share =
      limit === 0
        ? promised + held + kept > 0
          ? 100
          : 0
        : ((promised + held + kept) / limit) * 100;
    const sources = [
      fromRecord('Sizes: the record; a thin volume counts with its full size'),
      practice('Promise limit'),
    ];
    return {
      promisedBytes: promised + held + kept,
      limitBytes: limit,
      left: {
        name: 'pool-left',
        title: `Left to promise, pool ${pool.name}`,
        value,
        unit: 'bytes',
        lines: [
          {
            label: 'Usable',
            value: pool.usableBytes,
            unit: 'bytes',
            operator: '·',
            from: { kind: 'pool', id: poolId },
          },
          {
            label: 'Promise limit',
            value: pool.promiseLimitPercent,
            unit: 'percent',
            operator: '×',
          },
          { label: `${volumes.length} volumes`, value: promised, unit: 'bytes', operator: '−' },
          ...(holds.length
            ? [
                {
                  label: `${holds.length} holds of migrations`,
                  value: held,
                  unit: 'bytes' as const,
                  operator: '−' as const,
                },
              ]
            : []),
          ...(snapshots.length
            ? [
                {
                  label: `${snapshots.length} snapshots`,
                  value: kept,
                  unit: 'bytes' as const,
                  operator: '−' as const,
                },
              ]
            : []),
          { label: 'Left', value, unit: 'bytes', operator: '=' },
        ],
        sources,
        policy: 'Promise limit of the pool',
      },
      taken: {
        name: 'pool-taken',
        title: `Promised, pool ${pool.name}`,
        value: share,
        unit: 'percent',
        lines: [
          {
            label: `${volumes.length} volumes${holds.length ? `, ${holds.length} holds` : ''}${snapshots.length ? `, ${snapshots.length} snapshots` : ''}`,
            value: promised + held + kept,
            unit: 'bytes',
            operator: '·',
          },
          {
            label: `Usable × ${pool.promiseLimitPercent} %`,
            value: limit,
            unit: 'bytes',
            operator: '÷',
          },
          { label: 'Promised', value: share, unit: 'percent', operator: '=' },
        ],
        sources,
        policy: 'Promise limit of the pool',
      },
    };
  });
}

/** Pools that a host reaches. */
export function poolsOf(fleet: Fleet, hostId: string): Row<'pool'>[] {
  return fleet
    .referring('poolReach', 'hostId', hostId)
    .map((reach) => fleet.need('pool', reach.poolId));
}

export function reaches(fleet: Fleet, hostId: string, poolId: string): boolean {
  return fleet
    .memo(
      poolId,
      'reached by',
      () => new Set(fleet.referring('poolReach', 'poolId', poolId).map((reach) => reach.hostId)),
    )
    .has(hostId);
}

/** Whether guests of a host can be joined to a network there. */
export function carriesNetwork(fleet: Fleet, hostId: string, networkId: string): boolean {
  return fleet
    .referring('virtualSwitch', 'hostId', hostId)
    .some((found) => found.networkId === networkId);
}
