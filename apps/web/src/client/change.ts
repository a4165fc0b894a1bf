/** Making a change from a screen: one key until it succeeds, everything read anew afterwards, a toast that can undo it. */
import type { Preview, Problem, Written } from '@insel/contract';
import type { Change, ChangeType, Expectation, Extras, Input } from '@insel/core';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { call, problemOf } from './api.js';
import { because } from './because.js';
import { untilReleased } from './pressed.js';
import { say, sayRefused } from './say.js';
import { fromStandpoint } from './standpoint.js';

const QUICK_MS = 400;

/** A row as it was read; what a change alters is named with it. */
export type Seen = Expectation;

export interface MakeOptions extends Extras {
  /** Rows that the change alters, as they are shown. */
  seen?: Seen | readonly Seen[];
  /** Say nothing on success; the screen itself shows it. */
  quiet?: boolean;
}

/** What is sent: the change, and the revisions that were read of what it alters. */
function bodyOf(
  input: object,
  { seen = [], reason, override, happenedAt }: MakeOptions = {},
): object {
  const why = reason || because()?.trim();
  const expects = [seen].flat().map(({ id, revision }: Seen) => ({ id, revision }));
  return {
    input,
    ...(expects.length ? { expects } : {}),
    ...(why ? { reason: why } : {}),
    ...(override ? { override } : {}),
    ...(happenedAt ? { happenedAt } : {}),
  };
}

/** Where it is made; with a plan drawn in it is drawn there instead. What is about plans is always made. */
const pathOf = (type: ChangeType): string =>
  /^plan(-step)?\./.test(type) || type === 'undo'
    ? `changes/${type}`
    : fromStandpoint(`changes/${type}`);

/** What a change would do; alters nothing. */
export const previewOf = <T extends ChangeType>(type: T, input: Input<T>): Promise<Preview> =>
  call<Preview>('POST', fromStandpoint(`changes/${type}/preview`), { body: bodyOf(input) });

export function useChange() {
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const key = useRef<{ of: string; key: string }>(undefined);
  const last = useRef<{ type: ChangeType; input: Input<ChangeType>; options: MakeOptions }>(
    undefined,
  );

  const make = useCallback(
    async <T extends ChangeType>(
      type: T,
      input: Input<T>,
      options: MakeOptions = {},
    ): Promise<Written | undefined> => {
      last.current = { type, input, options };
      const body = bodyOf(input, options);
      const of = JSON.stringify([pathOf(type), body]);
      if (key.current?.of !== of) key.current = { of, key: crypto.randomUUID() };
      setBusy(true);
      try {
        const written = await call<Written>('POST', pathOf(type), {
          body,
          key: key.current.key,
        });
        await untilReleased();
        key.current = undefined;
        setProblem(null);
        const fresh = client.invalidateQueries();
        if (!options.quiet) {
          void say(capital(written.title), {
            label: 'Undo',
            onClick: () => void undo(written.revision).then(() => client.invalidateQueries()),
          });
        }
        // Whoever edits on at once must not meet the revision of before: what is shown is read anew first, as long as that is quick.
        await Promise.race([fresh, new Promise((resolve) => setTimeout(resolve, QUICK_MS))]);
        await untilReleased();
        return written;
      } catch (error) {
        await untilReleased();
        setProblem(problemOf(error));
        return undefined;
      } finally {
        setBusy(false);
      }
    },
    [client],
  );
  /** A change that is a value already, such as the mend of a finding. */
  const makeThis = useCallback(
    (change: Change, options?: MakeOptions) =>
      make(change.type, change.input as Input<ChangeType>, { ...change, ...options }),
    [make],
  );
  /** The change that met an objection, once more and with the reason why it is made all the same. */
  const anyway = useCallback(
    (override: string) => {
      const { type, input, options } = last.current!;
      void make(type, input, { ...options, override });
    },
    [make],
  );
  return { make, makeThis, anyway, busy, problem, setProblem };
}

/** Takes back one entry of the log; says how it went. */
export async function undo(revision: number): Promise<void> {
  const refused = await undone(revision, ({ title }) => void say(capital(title)));
  if (refused) void sayRefused(refused);
}

/** Takes an entry back. @returns why it cannot be, in words; empty where it was */
export async function undone(
  revision: number,
  onUndone: (written: Written) => void = () => {},
): Promise<string> {
  try {
    const body = bodyOf({ revision });
    onUndone(await call<Written>('POST', 'changes/undo', { body, key: crypto.randomUUID() }));
    return '';
  } catch (error) {
    const problem = problemOf(error);
    return [problem.sentence, problem.remedy].filter(Boolean).join(' ');
  }
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** One field of a row, as a change edits it: where an `Editable` stands. */
export interface At {
  type: ChangeType;
  seen: Seen;
  field: string;
}

/** Fields that an edit of this type may be given. */
type FieldsOf<T extends ChangeType> = Exclude<keyof Input<T> & string, 'id'>;

/** @example const at = editing('host.edit', host); <Editable at={at('name')} … /> */
export const editing =
  <T extends ChangeType>(type: T, { id, revision }: Seen) =>
  (field: FieldsOf<T>): At => ({ type, seen: { id, revision }, field });
