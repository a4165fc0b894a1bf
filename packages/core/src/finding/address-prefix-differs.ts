import { prefixOf } from '../address/index.js';
import { standard } from '../figure/index.js';
import { editAddress, holderOf } from '../network/index.js';
import { mendBy } from './mend.js';
import { ruleAt } from './rule-at.js';

/** An address is configured with another prefix length than its subnet has. */
export const addressPrefixDiffers = ruleAt('address', 'prefix-differs', (fleet, address) => {
  const subnet = fleet.get('subnet', address.subnetId);
  if (!subnet || address.prefixLength === null) return [];
  const { length } = prefixOf(subnet.prefix);
  // A /32 or /128 beside the subnet's own length is how shared and additional addresses are often carried.
  if (address.prefixLength === length || address.use === 'shared') return [];
  const holder = holderOf(fleet, address);
  const wide = address.prefixLength < length;
  return [
    {
      severity: 'caution',
      about: holder,
      evidence: `${holder.name} carries ${address.ip}/${address.prefixLength}, its subnet is ${subnet.prefix}.`,
      consequence: wide
        ? 'It looks for machines of other networks on its own, and finds none of them.'
        : 'It sends to its gateway what is next to it; replies are lost where the gateway does not help.',
      remedy: `Set the prefix length to /${length} on the machine, then here.`,
      source: standard('Prefix of an interface and of its subnet: RFC 4632, section 3.1'),
      mend: mendBy(fleet, `Record /${length}`, editAddress, {
        id: address.id,
        prefixLength: length,
      }),
    },
  ];
});
