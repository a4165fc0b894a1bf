import { ChangeExtras } from './extras.js';
import { Clearable, Flag, Id, Name, OneOf, Optional, Part, Parts, Text, Texts, Whole } from './rules.js';

export const RANGE_USES = ['dynamic', 'reserved'] as const;

export class RangeInput {
  @OneOf(RANGE_USES) use!: 'dynamic' | 'reserved';
  @Text(50) firstIp!: string;
  @Text(50) lastIp!: string;
  @Optional() @Text() purpose?: string;
}

export class SubnetPart {
  /** Such as 192.0.2.0/24 or 2001:db8:0:1::/64. */
  @Text(50) prefix!: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Optional() @Texts(8) nameServers?: string[];
  @Optional() @Parts(() => RangeInput) ranges?: RangeInput[];
}

export class RecordNetworkBody extends ChangeExtras {
  @Name() name!: string;
  @Optional() @Text() purpose?: string;
  @Clearable() @Whole(1, 4094) vlanId?: number | null;
  @Optional() @Whole(68, 65535) mtu?: number;
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Part(() => SubnetPart) subnet?: SubnetPart;
}

export class EditNetworkBody extends ChangeExtras {
  @Optional() @Name() name?: string;
  @Optional() @Text() purpose?: string;
  @Clearable() @Whole(1, 4094) vlanId?: number | null;
  @Optional() @Whole(68, 65535) mtu?: number;
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
}

export class RecordSubnetBody extends ChangeExtras {
  @Text(50) prefix!: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Optional() @Texts(8) nameServers?: string[];
  @Optional() @Parts(() => RangeInput) ranges?: RangeInput[];
}

export class EditSubnetBody extends ChangeExtras {
  @Optional() @Text(50) prefix?: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Optional() @Texts(8) nameServers?: string[];
}

export class RecordRangeBody extends ChangeExtras {
  @OneOf(RANGE_USES) use!: 'dynamic' | 'reserved';
  @Text(50) firstIp!: string;
  @Text(50) lastIp!: string;
  @Optional() @Text() purpose?: string;
}

export class SetAddressBody extends ChangeExtras {
  @Optional() @Id() hostId?: string;
  @Optional() @Id() adapterId?: string;
  @Optional() @Id() networkId?: string;
  /** Left out: the next free address. */
  @Optional() @Text(50) ip?: string;
  /** True: given out by Insel. False: found configured. */
  @Flag() assigned!: boolean;
  @Optional() @OneOf(['static', 'reservation', 'shared']) use?: 'static' | 'reservation' | 'shared';
  @Optional() @Text() purpose?: string;
  /** Address that this one replaces. */
  @Optional() @Id() replaces?: string;
}
