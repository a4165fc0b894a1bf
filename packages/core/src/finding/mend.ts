/** What mends a finding at the press of a button: a change that is made as it stands. */
import type { Change } from '../change/index.js';
import {
  expectationsOf,
  type Description,
  type Expectation,
  type Fleet,
  type InputOf,
} from '../record/index.js';

export interface Mend {
  kind: 'change';
  /** Words for its button. */
  label: string;
  change: Change;
  /** What the change alters, as it was when the mend was found. */
  expects: readonly Expectation[];
}

type Described = Pick<Description<Change['type']>, 'type' | 'alters' | 'input'>;

/** @param description of the change: who knows all of them knows the rules as well, and would be imported in a circle */
export const mendBy = <D extends Described>(
  fleet: Fleet,
  label: string,
  description: D,
  input: InputOf<D['input']>,
): Mend => ({
  kind: 'change',
  label,
  change: { type: description.type, input } as unknown as Change,
  expects: expectationsOf(fleet, description, input),
});
