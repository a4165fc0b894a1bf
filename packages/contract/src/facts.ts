import { Clearable, Id, Text } from './rules.js';

/** What the facts script printed, or a Redfish system. */
export class ReadFactsBody {
  @Text(2_000_000) text!: string;
  @Clearable() @Id() hostId?: string | null;
}
