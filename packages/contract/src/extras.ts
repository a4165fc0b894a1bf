import { Optional, Text, Time } from './rules.js';

/** What every change may carry beside its subject. */
export class ChangeExtras {
  /** Why, in your own words; stands in the log. */
  @Optional() @Text(1000) reason?: string;
  /** Written reason for going against an objection to a plan. */
  @Optional() @Text(1000) override?: string;
  /** When it happened in the world, UTC. */
  @Optional() @Time() happenedAt?: string;
}
