import { entitlementUse } from '../clone/index.js';
import { own } from '../figure/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';
import { daysUntil } from '../record/index.js';

const AHEAD = 30;

/** A licence is used beyond what it allows, or ends soon. */
export const entitlementFaults = ruleAt(
  'entitlement',
  'entitlement-exceeded',
  (fleet, entitlement, now): RuleFinding[] => {
    const { id, name, unit, count, until } = entitlement;
    const used = entitlementUse(fleet, id).value;
    const found: RuleFinding[] = [];
    if (used > count)
      found.push({
        severity: 'caution',
        evidence: `${name} allows ${count.toLocaleString('en-GB')}, counted by ${unit}; ${used.toLocaleString('en-GB')} are used.`,
        consequence: 'Copies run without a licence, and an audit asks for what is missing.',
        remedy: 'Obtain more, retire copies, gather them on fewer hosts, or mend what is counted.',
        source: own('The arithmetic of this licence, as it was entered'),
      });
    const days = until === null ? Infinity : daysUntil(fleet, until, now);
    if (days <= AHEAD)
      found.push({
        rule: 'entitlement-ends',
        severity: days < 0 ? 'blocker' : 'caution',
        evidence: `${name} ${days < 0 ? `ended on ${until}` : `ends on ${until}`}.`,
        consequence: 'What it covers runs without a licence then; some systems stop.',
        remedy: 'Renew it, and record the new day.',
        source: own(`Told ${AHEAD} days ahead`),
      });
    return found;
  },
);
