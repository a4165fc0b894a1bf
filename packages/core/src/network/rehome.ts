import type { Draft, Fleet, Row } from '../record/index.js';

/** Addresses, ranges and rests of a subnet go to the part they lie in. */
export function rehome(
  fleet: Fleet,
  draft: Draft,
  from: Row<'subnet'>,
  homeOf: (ip: string) => string,
): void {
  for (const address of fleet.referring('address', 'subnetId', from.id))
    draft.update('address', address.id, { subnetId: homeOf(address.ip) });
  for (const range of fleet.referring('range', 'subnetId', from.id))
    draft.update('range', range.id, { subnetId: homeOf(range.firstIp) });
  for (const rest of fleet.referring('quarantine', 'subnetId', from.id))
    draft.update('quarantine', rest.id, { subnetId: homeOf(rest.ip) });
}
