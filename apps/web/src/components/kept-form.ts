/** What is typed, on React Hook Form: kept in this tab until it is sent, so that a reload or a lost connection loses nothing. */
import { toNestErrors } from '@hookform/resolvers';
import type { Problem } from '@insel/contract';
import { useCallback, useEffect, useMemo, useRef, type RefObject } from 'react';
import {
  get,
  useForm,
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type PathValue,
  type Resolver,
  type UseFormRegisterReturn,
  type UseFormReturn,
} from 'react-hook-form';
import { errorsOf, type Control, type Errors, type Held } from './field.js';

/** Path of a field: its name, or within a part "cells.3.name". */
export type FieldOf<V extends FieldValues> = (keyof V & string) | `${keyof V & string}.${string}`;

export interface KeptForm<V extends FieldValues> {
  form: UseFormReturn<V>;
  /** What checks it; a form without one lets everything pass. */
  check: RefObject<Resolver<V> | undefined>;
  /** As typed up to now. */
  values: V;
  set: (change: Partial<V>) => void;
  /** @example <Field label="Name" of={held('name')}><input /></Field> */
  held: (name: FieldOf<V>) => Held;
  /** @example <input aria-label="Name" {...control('name')} /> */
  control: (name: FieldOf<V>) => Control;
  /** @example <input type="checkbox" {...ticked('thin')} /> */
  ticked: (name: FieldOf<V>) => UseFormRegisterReturn & { checked: boolean };
  /** Sentences by the path of the field they stand at. */
  errors: Errors;
  /** What is kept is no longer wanted: it was sent, or dropped. */
  forget: () => void;
}

/** One of a few fields: what is typed goes with it. */
export const useShortForm = <V extends FieldValues>(initial: () => V): KeptForm<V> =>
  useKeptForm<V>(null, initial);

/** @param kept name under which it is kept; another one is another form */
export function useKeptForm<V extends FieldValues>(
  kept: string | null,
  initial: () => V,
): KeptForm<V> {
  const place = kept === null ? null : `draft:${kept}`;
  const first = useMemo(() => ({ ...initial(), ...read<V>(place) }), [place]);
  const check = useRef<Resolver<V>>(undefined);
  const form = useForm<V>({
    defaultValues: first as DefaultValues<V>,
    resolver: (...typed) => check.current?.(...typed) ?? { values: typed[0], errors: {} },
  });
  const values = form.watch();
  // Under another name it begins anew, with what is kept under that one.
  const begun = useRef(place);
  useEffect(() => {
    if (begun.current !== place) form.reset(first);
    begun.current = place;
  }, [form, place, first]);
  useEffect(
    () =>
      form.subscribe({
        formState: { values: true },
        callback: (state) => write(place, state.values),
      }),
    [form, place],
  );
  const { errors: found, isSubmitted } = form.formState;
  const set = useCallback(
    (change: Partial<V>) => {
      for (const [name, value] of Object.entries(change))
        form.setValue(name as Path<V>, value as PathValue<V, Path<V>>, {
          shouldValidate: isSubmitted,
        });
    },
    [form, isSubmitted],
  );
  const errors = flat(found);
  const control = (name: FieldOf<V>): Control => ({
    ...form.register(name as Path<V>),
    value: (get(values, name) as string | undefined) ?? '',
    'aria-invalid': errors[name] === undefined ? undefined : true,
  });
  const held = (name: FieldOf<V>): Held => ({ ...control(name), error: errors[name] });
  const ticked = (name: FieldOf<V>) => ({
    ...form.register(name as Path<V>),
    checked: get(values, name) === true,
  });
  const forget = useCallback(() => write(place, null), [place]);
  return { form, check, values, set, held, control, ticked, errors, forget };
}

/**
 * A resolver of the library, out of what is said against the values.
 * @param typedIn fields of what is sent that are typed in a field of another name
 */
export const resolving =
  <V extends FieldValues>(
    against: (values: V) => Errors,
    typedIn: Record<string, string> = {},
  ): Resolver<V> =>
  (values, _, about) => {
    const said = Object.entries(against(values)).map(([field, message]) => [
      typedIn[field] ?? field,
      { type: 'value', message },
    ]);
    if (said.length === 0) return { values, errors: {} };
    return { values: {}, errors: toNestErrors<V>(Object.fromEntries(said) as FieldErrors, about) };
  };

/** What is wrong at no field of its own: within a part, or between fields; not again what a field says already. */
export function unplaced<V extends FieldValues>({ errors, values }: KeptForm<V>): Errors {
  const all = Object.entries(errors);
  const placed = new Set(all.flatMap(([path, why]) => (path in values ? [why] : [])));
  return Object.fromEntries(all.filter(([, why]) => !placed.has(why)));
}

/** What the server refused stands at its field until that field is altered. */
export function markRefused<V extends FieldValues>(
  { form }: KeptForm<V>,
  problem: Problem | null,
  typedIn: Record<string, string> = {},
): void {
  for (const [field, message] of Object.entries(errorsOf(problem)))
    form.setError((typedIn[field] ?? field) as Path<V>, { type: 'server', message });
}

function read<V>(place: string | null): Partial<V> {
  if (place === null) return {};
  try {
    return JSON.parse(sessionStorage.getItem(place) ?? '{}') as Partial<V>;
  } catch {
    return {};
  }
}

/** A text that is too long for the tab's storage is not kept through a reload; it is still here. */
function write(place: string | null, values: object | null): void {
  if (place === null) return;
  try {
    if (values) return sessionStorage.setItem(place, JSON.stringify(values));
  } catch {
    // Nothing is kept then.
  }
  sessionStorage.removeItem(place);
}

/** What an error of the library holds beside the errors of its parts. */
const OWN = new Set(['type', 'message', 'types', 'ref']);

/** Messages of a form's errors by path: "disks.3.bytes". What is wrong with a list as a whole stands at the list. */
function flat(error: object, at = ''): Errors {
  const { message } = error as { message?: unknown };
  const parts = Object.entries(error).filter(([name, part]) => !OWN.has(name) && part);
  return Object.assign(
    typeof message === 'string' ? { [at]: message } : {},
    ...parts.map(([name, part]: [string, object]) =>
      flat(part, name === 'root' ? at : at ? `${at}.${name}` : name),
    ),
  ) as Errors;
}
