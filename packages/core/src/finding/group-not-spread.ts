import { own, practice } from '../figure/index.js';
import { groupSpread } from '../guest/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** Members of a group that one failure takes all together, or more of than need be. */
export const groupNotSpread = ruleAt(
  'guestGroup',
  'group-not-spread',
  (fleet, group): RuleFinding[] => {
    const spread = groupSpread(fleet, group);
    if (!spread) return [];
    const [fullest] = spread.domains as [(typeof spread.domains)[number]];
    const one = fullest.members.length === 1;
    const evidence = `${fullest.members.length} of ${spread.members} in ${group.name} ${one ? 'is' : 'are'} on ${group.spread} ${fullest.name}: ${fullest.members.join(', ')}.`;
    if (!spread.enough) {
      const better = spread.members - spread.best >= spread.needed;
      return [
        {
          severity: 'caution',
          evidence,
          consequence: `When it fails, ${spread.left} ${spread.left === 1 ? 'is' : 'are'} left, ${spread.needed} ${spread.needed === 1 ? 'is' : 'are'} needed.`,
          remedy: better
            ? `Move one to another ${group.spread}: there are ${spread.available}.`
            : `Spread over what there is (${spread.available} ${group.spread}${spread.available === 1 ? '' : 's'}), too few would be left: add members, or a ${group.spread}.`,
          source: practice('Replicas do not share what can fail'),
        },
      ];
    }
    if (fullest.members.length <= spread.best) return [];
    return [
      {
        rule: 'group-uneven',
        severity: 'note',
        evidence,
        consequence: `Spread evenly over the ${spread.available} ${group.spread}s there are, the fullest would hold ${spread.best}.`,
        remedy: `Move one to another ${group.spread}.`,
        source: own('Even spread: the fullest holds n ÷ d, rounded up'),
      },
    ];
  },
);
