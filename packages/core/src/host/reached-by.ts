/** Which pools a host reaches, and which hosts a pool. */
import type { Fleet, Row } from '../record/index.js';

/** Pools that a host reaches. */
export function poolsOf(fleet: Fleet, hostId: string): Row<'pool'>[] {
  return fleet
    .referring('poolReach', 'hostId', hostId)
    .map((reach) => fleet.need('pool', reach.poolId));
}

/** Hosts that reach a pool. */
export const reachedBy = (fleet: Fleet, poolId: string): ReadonlySet<string> =>
  fleet.memo(
    poolId,
    'reached by',
    () => new Set(fleet.partsOnly('poolReach', 'poolId', poolId).map((reach) => reach.hostId)),
  );

export const reaches = (fleet: Fleet, hostId: string, poolId: string): boolean =>
  reachedBy(fleet, poolId).has(hostId);

/** Whether guests of a host can be joined to a network there. */
export function carriesNetwork(fleet: Fleet, hostId: string, networkId: string): boolean {
  return fleet
    .partsOnly('virtualSwitch', 'hostId', hostId)
    .some((found) => found.networkId === networkId);
}
