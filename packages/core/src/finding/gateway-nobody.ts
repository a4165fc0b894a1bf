import { counted } from '../quantity/index.js';
import { addressOf, contains, prefixOf } from '../address/index.js';
import { own } from '../figure/index.js';
import { ruleAt } from './rule-at.js';

/** A subnet's gateway is an address that no machine of the record has, or it has none at all though guests are in it. */
export const gatewayNobody = ruleAt('subnet', 'gateway-nobody', (fleet, subnet) => {
  const network = fleet.need('network', subnet.networkId);
  const about = { kind: 'network' as const, id: network.id, name: network.name };
  const source = own('A way out has a machine behind it');
  if (subnet.gateway === null) {
    const guests = fleet
      .referring('address', 'subnetId', subnet.id)
      .filter((row) => row.adapterId !== null).length;
    if (guests < 2 || inside(fleet, network.id)) return [];
    return [
      {
        severity: 'note',
        about,
        evidence: `${subnet.prefix} of ${network.name} has ${counted(guests, 'address', 'addresses')} of guests and no gateway.`,
        consequence: 'Its guests reach each other and nobody else.',
        remedy: 'Record the gateway, or note that the network is closed on purpose.',
        source,
      },
    ];
  }
  // A gateway outside its subnet is another rule's.
  if (!contains(prefixOf(subnet.prefix), addressOf(subnet.gateway))) return [];
  if (fleet.withIp(subnet.domainId, subnet.gateway).length > 0 || natBehind(fleet, network.id))
    return [];
  return [
    {
      severity: 'note',
      about,
      evidence: `Nobody in the record has the gateway ${subnet.gateway} of ${network.name}.`,
      consequence: 'Whether anything beyond the network is reached cannot be said.',
      remedy: 'Record the router with its ports and addresses.',
      source,
    },
  ];
});

/** A network of one host only that needs no way out. */
const inside = (fleet: Parameters<typeof gatewayNobody.look>[0], networkId: string): boolean =>
  fleet
    .referring('virtualSwitch', 'networkId', networkId)
    .some((found) => found.mode === 'guests only' || found.mode === 'host and guests');

/** The host itself is the gateway of its translated networks. */
const natBehind = (fleet: Parameters<typeof gatewayNobody.look>[0], networkId: string): boolean =>
  fleet.referring('virtualSwitch', 'networkId', networkId).some((found) => found.mode === 'NAT');
