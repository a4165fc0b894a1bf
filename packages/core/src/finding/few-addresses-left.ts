import { own } from '../figure/index.js';
import { subnetFigures } from '../network/index.js';
import type { Rule } from './finding.js';

/** From this share on a subnet is nearly full, in per cent. */
const NEARLY_FULL = 90;

/** A subnet has hardly any address left to give out. */
export const fewAddressesLeft: Rule<'subnet'> = {
  name: 'few-addresses-left',
  kind: 'subnet',
  look: (fleet, id) => {
    const { taken, free } = subnetFigures(fleet, id);
    if (taken.value === null || taken.value < NEARLY_FULL || free.value! > 16) return [];
    const subnet = fleet.need('subnet', id);
    const network = fleet.need('network', subnet.networkId);
    return [
      {
        id: `few-addresses-left|${id}`,
        rule: 'few-addresses-left',
        severity: free.value === 0 ? 'caution' : 'note',
        about: { kind: 'network', id: network.id, name: network.name },
        evidence: `${subnet.prefix} of ${network.name} has ${free.value} free ${free.value === 1 ? 'address' : 'addresses'} left to give out.`,
        consequence: 'The next guests there get none.',
        remedy: 'Release what is no longer used, shorten a range, or record a larger block.',
        source: own(`Nearly full from ${NEARLY_FULL} % and with at most 16 left`),
        mend: { label: 'Open the network', kind: 'open', id: network.id },
      },
    ];
  },
};
