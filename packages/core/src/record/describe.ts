/**
 * A change, described once: what is given, who may ask, how it stands to the world, what it alters. Its decider, a pure
 * function beside it, says what follows. Type, validator, document, form, door and stored form come from the description.
 */
import type { Decide, Role } from './decision.js';
import type { Fields } from './field.js';
import type { InputOf } from './input-field.js';

/** Insel does it; a person does it and ticks it; it can only be told afterwards, never planned. */
export type Carried = 'by Insel' | 'by hand' | 'only afterwards';

export interface Description<T extends string = string, F extends Fields = Fields> {
  readonly type: T;
  /** In the imperative, as on a button. */
  readonly title: string;
  readonly role: Exclude<Role, 'reader'>;
  readonly carried: Carried;
  /** Whether an entry of it can be taken back; a deed in the world is corrected by a later entry. */
  readonly undoable: boolean;
  /** A written reason is asked for, whatever it meets. */
  readonly reasonRequired: boolean;
  /** It says something without altering a row. */
  readonly wordsOnly: boolean;
  /** What its decider needs from outside the fleet. */
  readonly needs: 'nothing' | 'an entry of the log' | 'a pasted text';
  /** Number of the shape in which its input is stored. */
  readonly shape: number;
  /** References of the input, or lists of them, whose rows it alters: their revisions are expected. */
  readonly alters: readonly (keyof F & string)[];
  readonly input: F;
}

type Said = 'type' | 'title' | 'input';
const USUAL = {
  role: 'planner',
  carried: 'by Insel',
  undoable: true,
  reasonRequired: false,
  wordsOnly: false,
  needs: 'nothing',
  shape: 1,
  alters: [],
} as const;

/** Describes a change; what is left out is as usual: asked by planners, done by Insel, can be taken back. */
export const change = <const T extends string, F extends Fields>(
  description: Pick<Description<T, F>, Said> & Partial<Omit<Description<T, F>, Said>>,
): Description<T, F> => ({ ...USUAL, ...description });

/** The decider of a description. */
export type DeciderOf<D> = D extends Description<string, infer F> ? Decide<InputOf<F>> : never;
