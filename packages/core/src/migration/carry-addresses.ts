import type { Draft, Fleet, Row } from '../record/index.js';

/**
 * Addresses go over between the ports of a computer and the adapters of a guest, each to the one in the same network.
 * @returns those that found none, and stay
 */
export function carryAddresses(
  fleet: Fleet,
  draft: Draft,
  { guestId, deviceId, to }: { guestId: string; deviceId: string; to: 'guest' | 'device' },
): Row<'address'>[] {
  const adapters = fleet
    .referring('adapter', 'guestId', guestId)
    .sort((a, b) => a.position - b.position);
  const ports = fleet
    .referring('devicePort', 'deviceId', deviceId)
    .sort((a, b) => a.name.localeCompare(b.name));
  const [from, there] = to === 'guest' ? [ports, adapters] : [adapters, ports];
  const held = to === 'guest' ? 'devicePortId' : 'adapterId';
  return from.flatMap((end) => {
    const [first] = there.filter(({ networkId }) => networkId === end.networkId);
    const addresses = fleet.referring('address', held, end.id);
    if (!first) return addresses;
    for (const { id } of addresses)
      draft.update('address', id, {
        adapterId: to === 'guest' ? first.id : null,
        devicePortId: to === 'guest' ? null : first.id,
      });
    return [];
  });
}
