/** What is asked of the write path, and what it answers. */
import type { Written } from '@insel/contract';
import type { Change, Context, Expectation, Refusal, Unmet } from '@insel/core';

export interface WriteRequest {
  change: Change;
  actor: Context['actor'];
  /** What the client had read of the rows that are altered; not asked of ourselves. */
  expects?: readonly Expectation[];
  /** Key of the request and hash of its body: the same twice gives the first answer again. */
  idempotency?: { key: string; bodyHash: string };
  /** Time of the decision, where it is not now: the demo's history. */
  now?: string;
}

export type WriteResult =
  | { kind: 'written'; written: Written }
  | { kind: 'refused'; refusal: Refusal }
  | { kind: 'unmet'; unmet: Unmet }
  | { kind: 'forbidden' }
  | { kind: 'key-reused' };
