import type { Figure } from '@insel/core';

/** A problem document (RFC 9457) as every failed request answers with. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  code: string;
  /** What happened, in one sentence. */
  sentence: string;
  field?: string;
  remedy?: string;
  /** The figure that fails, with its workings. */
  figure?: Figure;
  /** The plan can be made all the same with a written reason. */
  overridable?: boolean;
  /** Every field that was not understood. */
  errors?: { field: string; sentence: string }[];
  /** Seconds after which it is worth trying again. */
  retryAfterSeconds?: number;
  /** With 412: the record as it is now. */
  current?: unknown;
}

/** What a change answers with. */
export interface Written {
  revision: number;
  title: string;
  created: { kind: string; id: string }[];
  subjects: { kind: string; id: string; name: string }[];
}
