/** What mends a finding at the press of a button: a change that is made as it stands. */
import { expectationsOf, type Expectation } from '../change/expectations.js';
import type { Change } from '../change/index.js';
import type { Fleet } from '../record/index.js';

export interface Mend {
  kind: 'change';
  /** Words for its button. */
  label: string;
  change: Change;
  /** What the change alters, as it was when the mend was found. */
  expects: readonly Expectation[];
}

export const mendBy = (fleet: Fleet, label: string, change: Change): Mend => ({
  kind: 'change',
  label,
  change,
  expects: expectationsOf(fleet, change),
});
