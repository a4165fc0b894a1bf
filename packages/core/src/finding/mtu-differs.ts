import { standard } from '../figure/index.js';
import { carriesLess } from '../reach/index.js';
import { ruleAt } from './rule-at.js';

/** A physical switch passes smaller packets than a network that it carries. */
export const mtuDiffers = ruleAt('physicalSwitch', 'mtu-differs', (fleet, found) => {
  return [...fleet.all('network')].flatMap((network) => {
    if (!carriesLess(fleet, found, network)) return [];
    return [
      {
        at: network.id,
        severity: 'blocker' as const,
        evidence: `${network.name} has an MTU of ${network.mtu}, and ${found.name}, which carries it, passes ${found.mtu}.`,
        consequence:
          'Large packets are dropped without a word: small ones pass, so that a ping works and a copy hangs.',
        remedy: `Raise the MTU of ${found.name}, or lower that of ${network.name} on all its machines.`,
        source: standard('No fragmentation on layer 2: IEEE Std 802.3; path MTU: RFC 1191'),
      },
    ];
  });
});
