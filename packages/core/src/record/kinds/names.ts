/** Names as they stand in a zone or a hosts file somewhere, and addresses that rest after their release. */
import { address as ip, choice, date, name, ref, text } from '../field.js';

const NAME_RECORD_TYPES = ['A', 'AAAA', 'CNAME', 'PTR'] as const;

/** One line of a zone file or hosts file that was looked at. Names in lower case, full, without the last point. */
export const nameRecord = {
  fields: {
    owner: name(),
    type: choice(...NAME_RECORD_TYPES),
    /** The address of A and AAAA, the target of CNAME and PTR. */
    data: text(255),
    /** File it was read from. */
    source: text(),
  },
} as const;

/** A released address that is not given out again before its day: others may still remember it. */
export const quarantine = {
  owner: 'subnetId',
  fields: { subnetId: ref('subnet'), ip: ip(), until: date(), was: text() },
} as const;
