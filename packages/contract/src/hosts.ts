import { HOST_STATES, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import { Clearable, Id, Ids, Name, OneOf, Optional, Part, Parts, Text, Texts, Whole } from './rules.js';

export const SWITCH_MODES = ['bridged', 'NAT', 'host and guests', 'guests only', 'routed'] as const;
export type SwitchMode = (typeof SWITCH_MODES)[number];

export class PoolInput {
  @Name() name!: string;
  /** Bytes after redundancy and file system. */
  @Whole(0) usableBytes!: number;
  @Optional() @Whole(1, 1000) promiseLimitPercent?: number;
}

export class CarriedNetwork {
  @Id() networkId!: string;
  @Optional() @OneOf(SWITCH_MODES) mode?: SwitchMode;
}

export class ManagementInput {
  /** Left out: the next free address of the network. */
  @Optional() @Text(50) ip?: string;
  @Optional() @Id() networkId?: string;
}

export class RecordHostBody extends ChangeExtras {
  @Name(63) name!: string;
  @OneOf(HOST_STATES) state!: Row<'host'>['state'];
  @Clearable() @Id() siteId?: string | null;
  @Id() platformId!: string;
  @Optional() @Text() purpose?: string;
  @Optional() @Text() processorModel?: string;
  @Whole(1, 64) sockets!: number;
  @Whole(1, 1024) coresPerSocket!: number;
  @Whole(1, 16) threadsPerCore!: number;
  /** MiB, sum of the modules. */
  @Whole(1) installedMiB!: number;
  /** MiB that the running system sees; null if nobody has looked. */
  @Clearable() @Whole(1) visibleMiB?: number | null;
  @Optional() @Text(20_000) notes?: string;
  @Parts(() => PoolInput) pools!: PoolInput[];
  @Optional() @Ids() reaches?: string[];
  @Optional() @Parts(() => CarriedNetwork) networks?: CarriedNetwork[];
  @Optional() @Part(() => ManagementInput) management?: ManagementInput;
}

export class EditHostBody extends ChangeExtras {
  @Optional() @Name(63) name?: string;
  @Optional() @OneOf(HOST_STATES) state?: Row<'host'>['state'];
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Id() platformId?: string;
  @Optional() @Text() purpose?: string;
  @Optional() @Text() processorModel?: string;
  @Optional() @Whole(1, 64) sockets?: number;
  @Optional() @Whole(1, 1024) coresPerSocket?: number;
  @Optional() @Whole(1, 16) threadsPerCore?: number;
  @Optional() @Whole(1) installedMiB?: number;
  @Clearable() @Whole(1) visibleMiB?: number | null;
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
}

export class CarryNetworkBody extends ChangeExtras {
  @Id() networkId!: string;
  @OneOf(SWITCH_MODES) mode!: SwitchMode;
}

export class RecordPoolBody extends ChangeExtras {
  @Name() name!: string;
  @Whole(0) usableBytes!: number;
  @Optional() @Whole(1, 1000) promiseLimitPercent?: number;
  @Ids() hostIds!: string[];
}

export class EditPoolBody extends ChangeExtras {
  @Optional() @Name() name?: string;
  @Optional() @Whole(0) usableBytes?: number;
  @Optional() @Whole(1, 1000) promiseLimitPercent?: number;
  @Optional() @Ids() hostIds?: string[];
}

export class RecordSiteBody extends ChangeExtras {
  @Name() name!: string;
}
