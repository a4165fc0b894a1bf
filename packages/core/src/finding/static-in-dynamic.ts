import { addressOf } from '../address/index.js';
import { practice } from '../figure/index.js';
import { nextFree, holderOf, setAddress, heldIn } from '../network/index.js';
import type { Rule } from './finding.js';
import { mendBy } from './mend.js';

/** A machine holds a fixed address inside a range from which a server hands out addresses. */
export const staticInDynamic: Rule<'subnet'> = {
  name: 'static-in-dynamic',
  kind: 'subnet',
  look: (fleet, id) => {
    const ranges = fleet
      .referring('range', 'subnetId', id)
      .filter((range) => range.use === 'dynamic');
    if (ranges.length === 0) return [];
    return heldIn(fleet, id).flatMap((address) => {
      if (address.use === 'reservation') return [];
      const { value } = addressOf(address.ip);
      const range = ranges.find(
        (found) =>
          value >= addressOf(found.firstIp).value && value <= addressOf(found.lastIp).value,
      );
      if (!range) return [];
      const holder = holderOf(fleet, address);
      const [next] = nextFree(fleet, id);
      return [
        {
          id: `static-in-dynamic|${id}|${address.id}`,
          rule: 'static-in-dynamic',
          severity: 'caution' as const,
          about: holder,
          evidence: `${address.ip} is held by ${holder.name} and lies in the dynamic range ${range.firstIp} – ${range.lastIp}.`,
          consequence:
            'The server may hand it out again: then two machines have one address, and both lose their connections.',
          remedy: next
            ? `Give it ${next} instead, or make the range shorter.`
            : 'Make the range shorter.',
          source: practice('Static addresses stay outside dynamic ranges'),
          mend: next
            ? mendBy(fleet, `Take ${next} instead`, setAddress, {
                assigned: true,
                replaces: address.id,
              })
            : undefined,
        },
      ];
    });
  },
};
