import { Count, Id, Optional, Text } from './rules.js';

export class LogQuery {
  /** Id of a record. */
  @Optional() @Id() subject?: string;
  @Optional() @Text(100) actor?: string;
  @Optional() @Text(100) type?: string;
  @Optional() @Text(100) q?: string;
  /** Entries older than this revision. */
  @Optional() @Count(1, Number.MAX_SAFE_INTEGER) before?: number;
  @Optional() @Count(1, 200) take?: number;
}
