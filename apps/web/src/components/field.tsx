import type { Problem } from '@insel/contract';
import type { UseFormRegisterReturn } from 'react-hook-form';
import { cloneElement, useId, type ReactElement, type ReactNode } from 'react';

/** What a control takes of a form. */
export interface Control extends UseFormRegisterReturn {
  value: string;
  'aria-invalid': true | undefined;
}
/** The same, and what is wrong with it. */
export interface Held extends Control {
  error: string | undefined;
}

/** A labelled control with its error beneath it. */
export function Field({
  label,
  of,
  error = of?.error,
  hint,
  children,
  wide = false,
}: {
  label: string;
  /** Where it stands for a field of a form. */
  of?: Held;
  error?: string;
  hint?: ReactNode;
  children: ReactElement<Record<string, unknown>>;
  wide?: boolean;
}) {
  const id = useId();
  return (
    <div className={`flex flex-col gap-0.5 ${wide ? 'col-span-full' : ''}`}>
      <label htmlFor={id} className="text-xs font-bold text-faint">
        {label}
      </label>
      {cloneElement(children, {
        ...controlOf(of),
        id,
        'aria-invalid': error ? true : undefined,
        'aria-describedby': error || hint ? `${id}-note` : undefined,
      })}
      {(error || hint) && (
        <span
          id={`${id}-note`}
          className={`text-xs ${error ? 'font-bold text-signal' : 'text-faint'}`}
        >
          {error ?? hint}
        </span>
      )}
    </div>
  );
}

function controlOf(held: Held | undefined) {
  if (!held) return {};
  const { error: _, ...control } = held;
  return control;
}

/** Sentences by the path of the field they stand at: "disks.3.bytes". */
export type Errors = Record<string, string>;

export const byField = (said: readonly { field: string; sentence: string }[]): Errors =>
  Object.fromEntries(said.map(({ field, sentence }) => [field, sentence]));

/** What a refusal says of fields. */
export const errorsOf = (problem: Problem | null): Errors =>
  problem
    ? byField(problem.errors ?? (problem.field ? [{ ...problem, field: problem.field }] : []))
    : {};

/** Why a text could not be read, and how to write it. */
export const whyUnread = ({
  sentence,
  suggestion,
}: {
  sentence: string;
  suggestion?: string;
}): string => (suggestion ? `${sentence} Write ${suggestion}.` : sentence);

/** What is wrong and stands at no field of its own; what the server refused is told by its note already. */
export const Wrong = ({ errors, problem }: { errors: Errors; problem: Problem | null }) => {
  const refused = new Set(Object.values(errorsOf(problem)));
  const sentences = new Set(Object.values(errors).filter((sentence) => !refused.has(sentence)));
  return [...sentences].map((sentence) => (
    <p key={sentence} role="alert" className="basis-full text-xs font-bold text-signal">
      {sentence}
    </p>
  ));
};
