/** A form that makes a change: checked by the class the server checks with, previewed while it is typed, sent, and forgotten. */
import { checkInput, type Preview, type Problem, type Written } from '@insel/contract';
import type { ChangeType, Input } from '@insel/core';
import { useEffect, type BaseSyntheticEvent } from 'react';
import type { FieldValues } from 'react-hook-form';
import { useChange, type MakeOptions } from '../client/change.js';
import { byField, type Errors } from './field.js';
import { usePreview } from './use-preview.js';
import { markRefused, resolving, type FieldOf, type KeptForm } from './kept-form.js';

export interface ChangeForm<V extends FieldValues> extends KeptForm<V> {
  preview: Preview | undefined;
  busy: boolean;
  problem: Problem | null;
  /** Checks, makes the change, forgets what was typed. */
  send: (event?: BaseSyntheticEvent) => Promise<void>;
}

type Make = ReturnType<typeof useChange>['make'];

/** Sentences by field; nothing where nothing is wrong. */
export type Faults = Readonly<Record<string, string | undefined>>;

export interface ChangeFormOptions<T extends ChangeType, V extends FieldValues> {
  type: T;
  /** What is sent of what is typed; and what cannot be read of it, by field of what is sent. */
  read: (values: V) => [input: object, faults?: Faults];
  /** Fields of what is sent that are typed in a field of another name. */
  typedIn?: Record<string, FieldOf<V>>;
  /** Whether all is there that a preview needs; without it none is asked for. */
  previews?: (values: V) => boolean;
  /** What the change needs before it, such as a site of a new name. @returns nothing where that did not go */
  before?: (input: Input<T>, make: Make) => Promise<Input<T> | undefined>;
  options?: MakeOptions;
  sent: (written: Written) => void;
}

export function useChangeForm<T extends ChangeType, V extends FieldValues>(
  form: KeptForm<V>,
  how: ChangeFormOptions<T, V>,
): ChangeForm<V> {
  const { type, typedIn = {}, before, options, sent } = how;
  const { make, busy, problem, setProblem } = useChange();
  const resolver = resolving<V>((values) => checkedOf(how, values).errors, typedIn);
  useEffect(() => void (form.check.current = resolver));
  const { input, errors } = checkedOf(how, form.values);
  const ready = Object.keys(errors).length === 0;
  const previewed = ready && how.previews?.(form.values) === true;
  const preview = usePreview(type, previewed ? input : null);
  useEffect(() => markRefused(form, problem, typedIn), [problem]);
  const submit = async () => {
    setProblem(null);
    const { input: checked } = checkedOf(how, form.form.getValues());
    const whole = before ? await before(checked, make) : checked;
    if (!whole) return;
    const { reason, override } = form.form.getValues() as { reason?: string; override?: string };
    const written = await make(type, whole, { reason, override, ...options });
    if (!written) return;
    form.forget();
    sent(written);
  };
  return {
    ...form,
    preview,
    busy,
    problem,
    send: form.form.handleSubmit(submit),
  };
}

/** The input, and the sentences that stand against it: of what cannot be read first, since what is sent instead is made up. */
function checkedOf<T extends ChangeType, V extends FieldValues>(
  { type, read }: Pick<ChangeFormOptions<T, V>, 'type' | 'read'>,
  values: V,
): { input: Input<T>; errors: Errors } {
  const [input, faults = {}] = read(values);
  const unread = Object.entries(faults).filter(([, why]) => why !== undefined);
  const result = checkInput(type, input);
  return {
    input: result.ok ? result.value : (input as Input<T>),
    errors: {
      ...(result.ok ? {} : byField(result.complaints)),
      ...(Object.fromEntries(unread) as Errors),
    },
  };
}
