import { taggedVlans } from '../reach/wiring.js';
import type { Fleet, Row } from '../record/index.js';

/** Whether a physical switch carries a network and passes smaller packets than it says. */
export function carriesLess(
  fleet: Fleet,
  found: Row<'physicalSwitch'>,
  network: Row<'network'>,
): boolean {
  const { vlanId, mtu } = network;
  if (vlanId === null || mtu <= found.mtu) return false;
  return fleet
    .referring('switchPort', 'physicalSwitchId', found.id)
    .some((port) => port.untaggedVlan === vlanId || taggedVlans(port).has(vlanId));
}
