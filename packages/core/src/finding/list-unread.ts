import { own } from '../figure/index.js';
import { ruleAt } from './rule-at.js';

/** Something that a pasted list said of a device could not be read. */
export const listUnread = ruleAt('device', 'list-unread', (_, device) =>
  device.unread.map((fault, i) => ({
    at: String(i),
    severity: 'caution' as const,
    evidence: `${device.name}, ${fault}`,
    consequence:
      'What the list meant is not in the record: that address or MAC may be given out again.',
    remedy: 'Look at the machine, record what is true, and remove this remark.',
    source: own('Nothing of a list is dropped silently'),
  })),
);
