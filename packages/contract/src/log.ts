import { Count, Day, Id, Optional, Text } from './rules.js';

export class LogQuery {
  /** Id of a record. */
  @Optional() @Id() subject?: string;
  @Optional() @Text(100) actor?: string;
  @Optional() @Text(100) type?: string;
  @Optional() @Text(100) q?: string;
  /** Parts of one import, by its id. */
  @Optional() @Text(60) importId?: string;
  /** Days (UTC) between which it was entered, both included, such as 2027-01-16. */
  @Optional() @Day() from?: string;
  @Optional() @Day() until?: string;
  /** Id of a site: entries about it, and about hosts and guests that stand there today. */
  @Optional() @Id() site?: string;
  /** Entries older than this revision. */
  @Optional() @Count(1, Number.MAX_SAFE_INTEGER) before?: number;
  @Optional() @Count(1, 200) take?: number;
}
