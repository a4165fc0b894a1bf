import { standard } from '../figure/index.js';
import { holderOf, setAddress, heldIn } from '../network/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Finding, Rule } from './finding.js';
import { mendBy } from './mend.js';

/** Two machines carry one address in one routing domain, and not on purpose. */
export const duplicateAddress: Rule<'subnet'> = {
  name: 'duplicate-address',
  kind: 'subnet',
  look: (fleet, id) => {
    const found: Finding[] = [];
    let before: Row<'address'> | undefined;
    for (const address of heldIn(fleet, id)) {
      if (before?.ip === address.ip && address.use !== 'shared' && before.use !== 'shared')
        found.push(clash(fleet, id, before, address));
      before = address;
    }
    return found;
  },
};

function clash(
  fleet: Fleet,
  subnetId: string,
  one: Row<'address'>,
  other: Row<'address'>,
): Finding {
  const [a, b] = [holderOf(fleet, one), holderOf(fleet, other)];
  const wrong = other.assigned ? one : other;
  return {
    id: `duplicate-address|${subnetId}|${one.id}|${other.id}`,
    rule: 'duplicate-address',
    severity: 'blocker',
    about: wrong === one ? a : b,
    evidence: `${one.ip} is carried by ${a.name} and by ${b.name}.`,
    consequence: 'Whoever answers last gets the traffic: both lose connections.',
    remedy: 'Give one of them another address, or mark the address as shared if that is meant.',
    source: standard('Address conflicts: RFC 5227, section 1'),
    mend: mendBy(
      fleet,
      `Give ${wrong === one ? a.name : b.name} the next free address`,
      setAddress,
      { assigned: true, replaces: wrong.id },
    ),
  };
}
