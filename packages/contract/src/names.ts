/** Zones, hosts files, reservations, pasted lists. */
import { Count, Optional, Text } from './rules.js';

export class ZoneQuery {
  @Text(253) domain!: string;
  @Text(253) primary!: string;
  @Text(253) mailbox!: string;
  /** Full names, parted by commas. */
  @Text(1000) servers!: string;
  @Optional() @Count(0, 2_147_483_647) ttl?: number;
  /** Serial of the zone that is served now. */
  @Optional() @Count(0, 4_294_967_295) oldSerial?: number;
  /** Block whose reverse zones are made, too. */
  @Optional() @Text(50) prefix?: string;
}

export class ReadNamesBody {
  @Text(2_000_000) text!: string;
  @Optional() @Text(253) origin?: string;
}

export class ReadListBody {
  @Text(1_000_000) text!: string;
}
