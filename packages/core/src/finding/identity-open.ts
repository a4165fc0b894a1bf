import { practice } from '../figure/index.js';
import type { Rule } from './finding.js';

/** A clone runs although items of its identity are still those of its origin. */
export const identityOpen: Rule<'guest'> = {
  name: 'identity-open',
  kind: 'guest',
  look: (fleet, id) => {
    const guest = fleet.need('guest', id);
    if (guest.state !== 'in service') return [];
    return fleet.referring('clone', 'guestId', id).flatMap((clone) => {
      const open = fleet
        .referring('identityItem', 'cloneId', clone.id)
        .filter((item) => item.doneAt === null);
      if (open.length === 0) return [];
      const origin = fleet.need('guest', clone.originId);
      const names = open.map((item) => item.item).join(', ');
      return [
        {
          id: `identity-open|${id}|${clone.id}`,
          rule: 'identity-open',
          severity: 'caution' as const,
          about: { kind: 'guest' as const, id, name: guest.name },
          evidence: `${guest.name} is in service, a clone of ${origin.name}, with ${open.length === 1 ? 'one item' : `${open.length} items`} of identity open: ${names}.`,
          consequence:
            'Two machines with one identity disturb each other: equal machine identifiers draw the same lease although the MACs differ.',
          remedy: 'Give it its own and tick the items.',
          source: practice('A clone gets its own identity before it runs'),
          mend: { label: `Open ${guest.name}`, kind: 'open' as const, id },
        },
      ];
    });
  },
};
