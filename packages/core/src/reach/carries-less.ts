import { taggedVlans } from './wiring.js';
import type { Fleet, Row } from '../record/index.js';

/** Whether a port of a physical switch carries the VLAN of a network. */
export const carriesOn = (
  fleet: Fleet,
  found: Row<'physicalSwitch'>,
  { vlanId }: Row<'network'>,
): boolean =>
  vlanId !== null &&
  fleet
    .referring('switchPort', 'physicalSwitchId', found.id)
    .some((port) => port.untaggedVlan === vlanId || taggedVlans(port).has(vlanId));

/** Whether it carries it and passes smaller packets than the network says. */
export const carriesLess = (
  fleet: Fleet,
  found: Row<'physicalSwitch'>,
  network: Row<'network'>,
): boolean => network.mtu > found.mtu && carriesOn(fleet, found, network);
