/**
 * Why a change is not made: what was wrong, at which field, and what to do instead. A refusal of a *plan* can be
 * overridden with a written reason; a refusal of an impossible record cannot.
 */
import type { Figure } from '../figure/index.js';

export interface Refusal {
  refused: true;
  code: string;
  sentence: string;
  /** Path of the field in the request, such as "adapters.0.ip". */
  field?: string;
  remedy?: string;
  /** The figure that fails, with its workings. */
  figure?: Figure;
  overridable: boolean;
  /** Who may go past it with a written reason, where not everybody who plans may. */
  by?: 'administrator';
}

type Reason = Omit<Refusal, 'refused' | 'overridable'>;

/** For what the record can never hold. */
export const refuse = (reason: Reason): Refusal => ({
  refused: true,
  overridable: false,
  ...reason,
});

/** For what a plan should not do, though the world could. */
export const objection = (reason: Reason): Refusal => ({
  refused: true,
  overridable: true,
  ...reason,
});

export function isRefusal(value: unknown): value is Refusal {
  return typeof value === 'object' && value !== null && (value as Refusal).refused === true;
}
