import { addressOf, contains, prefixOf } from '../address/index.js';
import { standard } from '../figure/index.js';
import type { Rule } from './finding.js';

/** A subnet's gateway is not in it. */
export const gatewayOutside: Rule<'subnet'> = {
  name: 'gateway-outside',
  kind: 'subnet',
  look: (fleet, id) => {
    const subnet = fleet.need('subnet', id);
    if (subnet.gateway === null || contains(prefixOf(subnet.prefix), addressOf(subnet.gateway)))
      return [];
    const network = fleet.need('network', subnet.networkId);
    return [
      {
        id: `gateway-outside|${id}`,
        rule: 'gateway-outside',
        severity: 'blocker',
        about: { kind: 'network', id: network.id, name: network.name },
        evidence: `The gateway ${subnet.gateway} of ${network.name} is not in ${subnet.prefix}.`,
        consequence:
          'Machines there do not install it: they reach nothing outside their own subnet.',
        remedy: 'Correct the gateway or the block; a digit is often swapped.',
        source: standard('A first hop is on a connected network: RFC 1122, section 3.3.1.1'),
        mend: { label: 'Open the network', kind: 'open', id: network.id },
      },
    ];
  },
};
