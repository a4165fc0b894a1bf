/** A form that is sent as the body of a request which makes no change of the record: an account, a token. */
import { checked, type Problem } from '@insel/contract';
import { useEffect, useState, type BaseSyntheticEvent } from 'react';
import type { FieldValues } from 'react-hook-form';
import { problemOf } from '../client/api.js';
import { byField } from './field.js';
import { markRefused, resolving, useShortForm, type KeptForm } from './kept-form.js';

export interface BodyForm<V extends FieldValues> extends KeptForm<V> {
  problem: Problem | null;
  send: (event?: BaseSyntheticEvent) => Promise<void>;
}

/** @param type class of the contract that checks what is typed, here as on the server */
export const useBodyForm = <V extends FieldValues>(
  type: new () => object,
  initial: () => V,
  sent: (body: V) => Promise<void>,
): BodyForm<V> => useReadBodyForm(type, initial, (typed) => typed, sent);

/** @param read the body of what is typed, where these differ */
export function useReadBodyForm<V extends FieldValues, B extends object>(
  type: new () => object,
  initial: () => V,
  read: (typed: V) => B,
  sent: (body: B) => Promise<void>,
): BodyForm<V> {
  const kept = useShortForm<V>(initial);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    kept.check.current = resolving<V>((values) => {
      const found = checked(type, read(values));
      return found.ok ? {} : byField(found.complaints);
    });
  });
  const send = kept.form.handleSubmit(async (typed) => {
    try {
      await sent(read(typed));
      setProblem(null);
    } catch (error) {
      const refused = problemOf(error);
      setProblem(refused);
      markRefused(kept, refused);
    }
  });
  return { ...kept, problem, send };
}
