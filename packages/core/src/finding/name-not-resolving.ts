import { standard } from '../figure/index.js';
import { fullName, lastVerification, NAME_TESTS } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** The last verification found the host's own name missing, forward or reverse. */
export const nameNotResolving = hostRule('name-not-resolving', (fleet, host) =>
  (lastVerification(fleet, host.id)?.tests ?? [])
    .filter((test) => !test.passed && NAME_TESTS.includes(test.test))
    .map((test) => ({
      at: test.test,
      severity: 'caution' as const,
      evidence: `The ${test.test.includes('reverse') ? 'reverse' : 'forward'} name of ${fullName(host)} was missing or different when it was last tested${test.remark ? ` (${test.remark})` : ''}.`,
      consequence: 'A controller that joins the host by name fails, often without saying why.',
      remedy: 'Add the name to the zone, test again, record the result.',
      source: standard('Forward and reverse names agree: RFC 1912, section 2.1'),
    })),
);
