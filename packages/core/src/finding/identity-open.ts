import { aboutItem, LATE_DAYS, TIERS, type Tier } from '../guest/index.js';
import { practice } from '../figure/index.js';
import { counted } from '../quantity/index.js';
import type { Rule, Severity } from './finding.js';
import { isOlder } from '../record/index.js';

const DAY = 86_400_000;

/** A clone runs although items of its identity are still those of its origin. The gravest tier that is open says how bad it is. */
export const identityOpen: Rule<'guest'> = {
  name: 'identity-open',
  kind: 'guest',
  look: (fleet, id, now) => {
    const guest = fleet.need('guest', id);
    if (guest.state !== 'in service') return [];
    return fleet.referring('clone', 'guestId', id).flatMap((clone) => {
      const open = fleet
        .referring('identityItem', 'cloneId', clone.id)
        .filter((item) => item.doneAt === null)
        .sort((a, b) => TIERS.indexOf(tierOf(a)) - TIERS.indexOf(tierOf(b)));
      const [first] = open;
      if (!first) return [];
      const origin = fleet.need('guest', clone.originId);
      const names = open.map((item) => item.item).join(', ');
      const late = isOlder(fleet, clone.madeAt, LATE_DAYS * DAY, now);
      return [
        {
          id: `identity-open|${id}|${clone.id}`,
          rule: 'identity-open',
          severity: severityOf(tierOf(first), late),
          about: { kind: 'guest' as const, id, name: guest.name },
          evidence: `${guest.name} is in service, a clone of ${origin.name}, with ${counted(open.length, 'item')} of identity open: ${names}.`,
          consequence: `Two machines with one identity disturb each other: ${aboutItem(first.item).forgotten}.`,
          remedy: 'Give it its own and tick the items.',
          source: practice(`A clone gets its own identity ${tierOf(first)}`),
          mend: { label: `Open ${guest.name}`, kind: 'open' as const, id },
        },
      ];
    });
  },
};

const tierOf = ({ item }: { item: string }): Tier => aboutItem(item).tier;

const severityOf = (tier: Tier, late: boolean): Severity =>
  tier === 'before it touches a network'
    ? 'blocker'
    : tier === 'before service' || late
      ? 'caution'
      : 'note';
