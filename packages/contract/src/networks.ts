import { ADDRESS_POLICIES, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import {
  Clearable,
  Flag,
  Id,
  Ids,
  Name,
  OneOf,
  Optional,
  Part,
  Parts,
  Text,
  Texts,
  Whole,
} from './rules.js';

export const RANGE_USES = ['dynamic', 'reserved', 'static'] as const;

export class RangeInput {
  @OneOf(RANGE_USES) use!: Row<'range'>['use'];
  @Text(50) firstIp!: string;
  @Text(50) lastIp!: string;
  @Optional() @Text() purpose?: string;
}

export class SubnetPart {
  /** Such as 192.0.2.0/24 or 2001:db8:0:1::/64. */
  @Text(50) prefix!: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Optional() @Texts(8) nameServers?: string[];
  /** Routing domain; left out: the first one. */
  @Optional() @Id() domainId?: string;
  @Optional() @Text(253) domain?: string;
  @Optional() @OneOf(ADDRESS_POLICIES) policy?: Row<'subnet'>['policy'];
  @Optional() @Whole(0, 365) quarantineDays?: number;
  @Optional() @Parts(() => RangeInput) ranges?: RangeInput[];
}

export class RecordNetworkBody extends ChangeExtras {
  @Name() name!: string;
  @Optional() @Text() purpose?: string;
  @Clearable() @Whole(1, 4094) vlanId?: number | null;
  @Optional() @Whole(68, 65535) mtu?: number;
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Flag() untrusted?: boolean;
  /** Sites it reaches beside its own. */
  @Optional() @Ids(100) alsoAt?: string[];
  @Optional() @Part(() => SubnetPart) subnet?: SubnetPart;
}

export class EditNetworkBody extends ChangeExtras {
  @Optional() @Name() name?: string;
  @Optional() @Text() purpose?: string;
  @Clearable() @Whole(1, 4094) vlanId?: number | null;
  @Optional() @Whole(68, 65535) mtu?: number;
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Flag() untrusted?: boolean;
  @Optional() @Ids(100) alsoAt?: string[];
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
}

export class RecordSubnetBody extends ChangeExtras {
  @Text(50) prefix!: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Optional() @Texts(8) nameServers?: string[];
  /** Routing domain; left out: the first one. */
  @Optional() @Id() domainId?: string;
  @Optional() @Text(253) domain?: string;
  @Optional() @OneOf(ADDRESS_POLICIES) policy?: Row<'subnet'>['policy'];
  @Optional() @Whole(0, 365) quarantineDays?: number;
  @Optional() @Parts(() => RangeInput) ranges?: RangeInput[];
}

export class EditSubnetBody extends ChangeExtras {
  @Optional() @Text(50) prefix?: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Optional() @Texts(8) nameServers?: string[];
  @Optional() @Text(253) domain?: string;
  @Optional() @OneOf(ADDRESS_POLICIES) policy?: Row<'subnet'>['policy'];
  @Optional() @Whole(0, 365) quarantineDays?: number;
}

export class RecordRangeBody extends ChangeExtras {
  @OneOf(RANGE_USES) use!: Row<'range'>['use'];
  @Text(50) firstIp!: string;
  @Text(50) lastIp!: string;
  @Optional() @Text() purpose?: string;
}

export class SetAddressBody extends ChangeExtras {
  @Optional() @Id() hostId?: string;
  @Optional() @Id() adapterId?: string;
  @Optional() @Id() devicePortId?: string;
  @Optional() @Id() networkId?: string;
  /** Takes the next free address of this subnet, where a network has several. */
  @Optional() @Id() subnetId?: string;
  /** Left out: the next free address. */
  @Optional() @Text(50) ip?: string;
  /** True: given out by Insel. False: found configured. */
  @Flag() assigned!: boolean;
  @Optional() @OneOf(['static', 'reservation', 'shared']) use?: 'static' | 'reservation' | 'shared';
  @Optional() @Text() purpose?: string;
  @Optional() @Whole(0, 128) prefixLength?: number;
  /** Address that this one replaces. */
  @Optional() @Id() replaces?: string;
}

export class EditAddressBody extends ChangeExtras {
  /** As configured on the machine. */
  @Clearable() @Whole(0, 128) prefixLength?: number | null;
  @Optional() @OneOf(['static', 'reservation', 'shared', 'lease']) use?: Row<'address'>['use'];
  @Optional() @Text() purpose?: string;
  @Clearable() @Id() virtualSwitchId?: string | null;
}

export class ReleaseAddressBody extends ChangeExtras {
  /** Days it rests before it is given out again; left out: as its subnet says. */
  @Optional() @Whole(0, 365) restDays?: number;
}

export class PlannedNetworkPart {
  @Name() name!: string;
  @Optional() @Text() purpose?: string;
  @Clearable() @Whole(1, 4094) vlanId?: number | null;
  @Clearable() @Id() siteId?: string | null;
  @Part(() => SubnetPart) subnet!: SubnetPart;
}
export class RecordNetworksBody extends ChangeExtras {
  @Parts(() => PlannedNetworkPart, 512) networks!: PlannedNetworkPart[];
}

export class SplitSubnetBody extends ChangeExtras {
  @Whole(1, 128) length!: number;
}
export class JoinSubnetsBody extends ChangeExtras {
  @Id() otherId!: string;
}
