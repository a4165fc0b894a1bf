import { addressOf, contains, containing, formatPrefix, prefixOf } from '../address/index.js';
import { standard } from '../figure/index.js';
import { managementAddresses } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** The gateway configured on a host is not in the subnet of its own address. */
export const hostGatewayOutside = hostRule('host-gateway-outside', (fleet, host) => {
  const [address] = managementAddresses(fleet, host.id);
  if (!host.gateway || !address) return [];
  const subnet = fleet.get('subnet', address.subnetId);
  const block =
    address.prefixLength === null
      ? subnet && prefixOf(subnet.prefix)
      : containing(addressOf(address.ip), address.prefixLength);
  const gateway = addressOf(host.gateway);
  if (!block || block.family !== gateway.family || contains(block, gateway)) return [];
  return [
    {
      severity: 'blocker' as const,
      evidence: `The gateway ${host.gateway} of ${host.name} is not in its own subnet ${formatPrefix(block)}.`,
      consequence:
        'The host does not install that route: it reaches its own subnet and nothing else.',
      remedy: 'Correct the gateway or the prefix length at the console; a digit is often swapped.',
      source: standard('A first hop is on a connected network: RFC 1122, section 3.3.1.1'),
    },
  ];
});
