/** A check before a move, and what it is asked of. */
import type { Figure } from '../figure/index.js';
import type { Row } from '../record/index.js';

export interface Check {
  name: string;
  /** Null: nobody knows. */
  passed: boolean | null;
  sentence: string;
  remedy?: string;
  /** Good to have, not needed. */
  advice?: boolean;
  /** No written reason goes past it. */
  never?: boolean;
  figure?: Figure;
  field?: string;
}

export interface CheckInput {
  guest: Row<'guest'>;
  target: Row<'host'>;
  /** Pool that the volumes go to; null leaves them where they are. */
  targetPoolId: string | null;
  running: boolean;
  /** Left out: the age of backups is not looked at. */
  now?: string;
}
