/** Fields of a kind as fields of what a change asks for: some of them, some of them left out, some with other bounds. */
import type { Field, Fields } from './field.js';

export type Omittable<F> = F & { readonly omittable: true };

type ValueOf<F> = F extends Field<infer T> ? T : never;

type OmittableKeys<F> = {
  [K in keyof F]: F[K] extends { readonly omittable: true } ? K : never;
}[keyof F];

/** The type of an input: fields that may be left out are optional. */
export type InputOf<F> = {
  readonly [K in Exclude<keyof F, OmittableKeys<F>>]: ValueOf<F[K]>;
} & { readonly [K in OmittableKeys<F>]?: ValueOf<F[K]> };

const derived = <F extends Field<unknown>>(field: F): { readonly from: Field<unknown> } => ({
  from: field.from ?? field,
});

/** May be left out. Another question than null, which clears. */
export const omittable = <F extends Field<unknown>>(field: F): Omittable<F> => ({
  ...field,
  ...derived(field),
  omittable: true,
});

/** Has to be said, although its kind begins it with something. */
export const said = <T>(field: Field<T>): Field<T> => ({ ...field, ...derived(field) });

/** Narrower than the record allows, and why. */
export const tighter = <F extends Field<unknown>>(
  field: F,
  why: string,
  bounds: { min?: number; max?: number; choices?: readonly string[] },
): F => ({ ...field, ...derived(field), ...bounds, why });

/** Some of a kind's fields, each of which may be left out: the input of an edit. */
export const some = <F extends Fields, K extends keyof F & string>(
  fields: F,
  ...names: readonly K[]
): { readonly [N in K]: Omittable<F[N]> } =>
  Object.fromEntries(names.map((found) => [found, omittable(fields[found]!)])) as never;

export type Beginning<F> = F extends { readonly initial: unknown } ? Omittable<F> : F;

/** Some of a kind's fields, of which those that it begins may be left out: the input of a creation. */
export const beginning = <F extends Fields, K extends keyof F & string>(
  fields: F,
  ...names: readonly K[]
): { readonly [N in K]: Beginning<F[N]> } =>
  Object.fromEntries(
    names.map((found) => {
      const field = fields[found]!;
      return [found, field.initial === undefined ? field : omittable(field)];
    }),
  ) as never;

/** Names of a kind's fields, without some. */
export const without = <F extends Fields, K extends keyof F & string>(
  fields: F,
  ...left: readonly K[]
): readonly Exclude<keyof F & string, K>[] =>
  Object.keys(fields).filter((found) => !(left as readonly string[]).includes(found)) as never;
