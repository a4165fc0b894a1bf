import { refuse, type Refusal } from '../record/index.js';

/** A window ends after it begins, and has an end where it has a beginning. */
export function windowFault({
  windowFrom,
  windowUntil,
}: {
  windowFrom?: string | null;
  windowUntil?: string | null;
}): Refusal | undefined {
  if (windowFrom == null || windowUntil == null || windowUntil > windowFrom) return undefined;
  return refuse({
    code: 'window-backwards',
    field: 'windowUntil',
    sentence: 'The window ends before it begins.',
  });
}
