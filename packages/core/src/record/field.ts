/**
 * What a field of a record may hold. From one description per kind follow its TypeScript type, the allow-list of
 * patches, the references to keep whole and the mapping to a database row.
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
  | 'addresses';

export interface Field<T> {
  type: FieldType;
  nullable: boolean;
  /** Smallest and largest value of an integer, both allowed; longest text. */
  min?: number;
  max?: number;
  choices?: readonly string[];
  /** Kind that a reference points to. */
  to?: string;
  /** Taken where a creation leaves the field out. */
  initial?: T;
  /** Only carries the type; never set. */
  readonly __value?: T;
}

const LARGEST = Number.MAX_SAFE_INTEGER;

export const text = (max = 200): Field<string> => ({
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
export const integer = (min = 0, max = LARGEST): Field<number> => ({
  type: 'integer',
  nullable: false,
  min,
  max,
});
export const flag = (initial = false): Field<boolean> => ({
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
export const texts = (): Field<readonly string[]> => ({
  type: 'texts',
  nullable: false,
  initial: [],
  max: 100,
});
export const addresses = (): Field<readonly string[]> => ({
  type: 'addresses',
  nullable: false,
  initial: [],
  max: 8,
});
export const optional = <T>(field: Field<T>): Field<T | null> =>
  ({ ...field, nullable: true, initial: null }) as Field<T | null>;
export const initially = <T>(field: Field<T>, initial: T): Field<T> => ({ ...field, initial });
