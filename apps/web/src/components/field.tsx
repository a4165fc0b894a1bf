import { cloneElement, useId, type ReactElement, type ReactNode } from 'react';

/** A labelled control with its error beneath it. */
export function Field({
  label,
  error,
  hint,
  children,
  wide = false,
}: {
  label: string;
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

/** Errors by field from a problem document or from the contract's own check. */
export type Errors = Record<string, string>;

export function errorsOf(
  problem: {
    field?: string;
    sentence: string;
    errors?: { field: string; sentence: string }[];
  } | null,
): Errors {
  if (!problem) return {};
  const list =
    problem.errors ?? (problem.field ? [{ field: problem.field, sentence: problem.sentence }] : []);
  return Object.fromEntries(list.map(({ field, sentence }) => [field, sentence]));
}
