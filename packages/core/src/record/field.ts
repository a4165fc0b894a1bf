import type { InputOf } from './input-field.js';

/**
 * What a field may hold: of a record, or of what is asked for in a change. From one description per kind follow its
 * TypeScript type, the allow-list of patches, the references to keep whole and the mapping to a database row; from one per
 * change the type of its input, its validator, its document and its form. An input field that means a field of a kind *is*
 * that field, or derived from it.
 */
export type FieldType =
  | 'text'
  | 'choice'
  | 'integer'
  | 'flag'
  | 'time'
  | 'date'
  | 'address'
  | 'prefix'
  | 'mac'
  | 'ref'
  | 'texts'
  | 'addresses'
  | InputType;

/** Of inputs only: no column holds them. */
export type InputType = 'refs' | 'integers' | 'choices' | 'pasted' | 'list' | 'part' | 'oneOf';

/** What a number counts, where its name does not say it. */
export type FieldUnit =
  | 'bytes'
  | 'MiB'
  | '%'
  | 's'
  | 'min'
  | 'days'
  | 'W'
  | 'kg'
  | 'MHz'
  | 'bit/s'
  | 'vCPU'
  | 'cores'
  | 'bytes/day'
  | '1/1000 vCPU';

export type Read =
  { ok: true; value: string } | { ok: false; sentence: string; suggestion?: string };

export interface Field<T> {
  readonly type: FieldType;
  readonly nullable: boolean;
  /** May be left out of an input: as it is, or as its kind begins it. */
  readonly omittable?: true;
  readonly unit?: FieldUnit;
  /** Smallest and largest value of an integer, both allowed; shortest and longest text; longest list. */
  readonly min?: number;
  readonly max?: number;
  readonly choices?: readonly string[];
  /** Form of a text, and what is said of one that does not have it. */
  readonly form?: { pattern: RegExp; sentence: string };
  /** Reads a text in whatever notation: gives it as it is kept, or says what is wrong with it. */
  readonly reads?: (text: string) => Read;
  /** Kept in lower case. */
  readonly lower?: true;
  /** Kind that a reference points to. */
  readonly to?: string;
  /** Taken where a creation leaves the field out. */
  readonly initial?: T;
  /** Fields of a part, or of each in a list. */
  readonly of?: Fields;
  /** Of a one-of, by its tag `as`. */
  readonly variants?: Readonly<Record<string, Fields>>;
  /** The field of a kind that this one was derived from. */
  readonly from?: Field<unknown>;
  /** Why an input asks for less than the record may hold: policy, said once. */
  readonly why?: string;
  /** First shape of the log that has it; older rows are read as if it had held its initial value. */
  readonly since?: number;
  /** Only carries the type; never set. */
  readonly __value?: T;
}
export type Fields = Readonly<Record<string, Field<unknown>>>;

/** A field that a creation may leave out. */
export type Begun<T> = Field<T> & { readonly initial: T };

const LARGEST = Number.MAX_SAFE_INTEGER;
/** Longest text that means an address, a prefix or a MAC, in whatever notation. */
export const LONGEST_ADDRESS = 50;

export const text = (max = 200): Begun<string> => ({
  type: 'text',
  nullable: false,
  max,
  initial: '',
});
export const name = (): Field<string> => ({ type: 'text', nullable: false, min: 1, max: 100 });
export const choice = <const C extends string>(...choices: C[]): Field<C> => ({
  type: 'choice',
  nullable: false,
  choices,
});
export const integer = (min = 0, max = LARGEST, unit?: FieldUnit): Field<number> => ({
  type: 'integer',
  nullable: false,
  min,
  max,
  ...(unit ? { unit } : {}),
});
export const flag = (initial = false): Begun<boolean> => ({
  type: 'flag',
  nullable: false,
  initial,
});
export const time = (): Field<string> => ({ type: 'time', nullable: false });
export const date = (): Field<string> => ({ type: 'date', nullable: false });
export const address = (): Field<string> => ({ type: 'address', nullable: false });
export const prefix = (): Field<string> => ({ type: 'prefix', nullable: false });
export const mac = (): Field<string> => ({ type: 'mac', nullable: false });
export const ref = (to: string): Field<string> => ({ type: 'ref', nullable: false, to });
export const texts = (max = 100): Begun<readonly string[]> => ({
  type: 'texts',
  nullable: false,
  initial: [],
  max,
});
export const addresses = (): Begun<readonly string[]> => ({
  type: 'addresses',
  nullable: false,
  initial: [],
  max: 8,
});
/** SHA-256 (FIPS 180-4): 64 hexadecimal digits; empty while it is not known. */
export const sha256 = (): Begun<string> => ({
  ...text(64),
  lower: true,
  form: {
    pattern: /^([0-9a-fA-F]{64})?$/,
    sentence: 'A SHA-256 has 64 hexadecimal digits; leave it empty while it is not known.',
  },
});
export const optional = <T>(field: Field<T>): Begun<T | null> => ({
  ...(field as Field<T | null>),
  nullable: true,
  initial: null,
});
export const initially = <T>(field: Field<T>, initial: NoInfer<T>): Begun<T> => ({
  ...field,
  initial,
});
/** A field that came with a later shape of the log. */
export const since = <T, F extends Begun<T>>(shape: number, field: F): F => ({
  ...field,
  since: shape,
});
export const among = (field: Begun<readonly string[]>, choices: readonly string[]) => ({
  ...field,
  choices,
});

/** Ids of rows of a kind. */
export const refs = (to: string, max = 500): Field<readonly string[]> => ({
  type: 'refs',
  nullable: false,
  to,
  max,
});
export const integers = (min: number, max: number, most: number): Field<readonly number[]> => ({
  type: 'integers',
  nullable: false,
  min,
  max: most,
  of: { each: integer(min, max) },
});
/** Some of the choices. */
export const choices = <const C extends string>(...all: readonly C[]): Field<readonly C[]> => ({
  type: 'choices',
  nullable: false,
  choices: all,
  max: all.length,
});
/** A long text that was pasted: text at the door, a hash in the log. */
export const pasted = (max: number): Field<string> => ({ type: 'pasted', nullable: false, max });
export const list = <F extends Fields>(of: F, most: number): Field<readonly InputOf<F>[]> => ({
  type: 'list',
  nullable: false,
  of,
  max: most,
});
export const part = <F extends Fields>(of: F): Field<InputOf<F>> => ({
  type: 'part',
  nullable: false,
  of,
});
/** Exactly one of several, told apart by its tag `as`. */
export const oneOf = <V extends Readonly<Record<string, Fields>>>(
  variants: V,
): Field<{ [T in keyof V]: { readonly as: T } & InputOf<V[T]> }[keyof V]> => ({
  type: 'oneOf',
  nullable: false,
  variants,
});
