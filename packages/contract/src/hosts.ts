import { HOST_STATES, KINDS, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import { HardwareBody } from './hardware.js';
import {
  Clearable,
  Day,
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
  /** As configured on the machine. */
  @Optional() @Whole(0, 128) prefixLength?: number;
}

export class OutOfBandInput {
  @Text(50) ip!: string;
}

/** What may be said of a host beside its name and its size; every field may be left out. */
export class HostDetails extends ChangeExtras {
  @Clearable() @Id() siteId?: string | null;
  @Clearable() @Id() groupId?: string | null;
  @Clearable() @Id() rackId?: string | null;
  /** Lowest unit it takes, from the floor. */
  @Clearable() @Whole(1, 60) rackUnit?: number | null;
  @Optional() @Whole(1, 20) rackHeight?: number;
  /** The guest it is, when it is nested in another host. */
  @Clearable() @Id() outerGuestId?: string | null;
  @Optional() @Text() purpose?: string;
  /** From power-on until it starts guests, in seconds. */
  @Optional() @Whole(0, 86_400) bootSeconds?: number;
  @Optional() @Text() machineModel?: string;
  @Optional() @Text() serial?: string;
  @Clearable() @Day() warrantyUntil?: string | null;
  @Clearable() @Whole(1, 500) weightKg?: number | null;
  @Optional() @Whole(0, 8) powerSupplies?: number;
  @Clearable() @Whole(1, 100_000) drawWatts?: number | null;
  @Clearable() @Whole(1, 1024) memorySlots?: number | null;
  @Clearable() @Whole(0, 1024) bays?: number | null;
  @Optional() @Text() controller?: string;
  @Optional() @OneOf(choicesOf('controllerMode')) controllerMode?: Row<'host'>['controllerMode'];
  @Optional() @OneOf(choicesOf('bootMode')) bootMode?: Row<'host'>['bootMode'];
  @Optional() @OneOf(choicesOf('secureBoot')) secureBoot?: Row<'host'>['secureBoot'];
  @Optional() @OneOf(choicesOf('videoConnector')) videoConnector?: Row<'host'>['videoConnector'];
  @Optional() @Texts() passThrough?: string[];
  @Optional() @OneOf(choicesOf('architecture')) architecture?: Row<'host'>['architecture'];
  @Optional() @Text() processorModel?: string;
  @Clearable() @Whole(1, 100_000) baseMhz?: number | null;
  @Optional() @Text(8000) flags?: string;
  /** x86-64 level from a data sheet, while the flags are not known. */
  @Clearable() @Whole(1, 4) statedLevel?: number | null;
  @Optional() @OneOf(choicesOf('virtualisation')) virtualisation?: Row<'host'>['virtualisation'];
  /** MiB that the running system sees; null if nobody has looked. */
  @Clearable() @Whole(1) visibleMiB?: number | null;
  @Optional() @Text() licence?: string;
  @Clearable() @Day() licenceUntil?: string | null;
  @Optional() @Text() licenceKeyKept?: string;
  @Optional() @Text(253) domain?: string;
  @Optional() @Text() timeZone?: string;
  @Optional() @Text() keyboard?: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Clearable() @Text(50) gateway6?: string | null;
  @Optional() @Flag() noGateway?: boolean;
  @Optional() @Flag() gatewayOnLink?: boolean;
  @Optional() @Flag() forwards?: boolean;
  @Optional() @Texts(8) nameServers?: string[];
  @Clearable() @Whole(1, 65_535) consolePort?: number | null;
  /** SHA-256 in any usual notation; kept as 64 hexadecimal digits. */
  @Optional() @Text(200) certificateSha256?: string;
  @Clearable() @Day() certificateUntil?: string | null;
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
}

function choicesOf(field: string): readonly string[] {
  return KINDS.host.fields[field]!.choices!;
}

export class RecordHostBody extends HostDetails {
  @Name(63) name!: string;
  @OneOf(HOST_STATES) state!: Row<'host'>['state'];
  @Id() platformId!: string;
  @Whole(1, 64) sockets!: number;
  @Whole(1, 1024) coresPerSocket!: number;
  @Whole(1, 16) threadsPerCore!: number;
  /** MiB, sum of the modules. */
  @Whole(1) installedMiB!: number;
  @Parts(() => PoolInput) pools!: PoolInput[];
  @Optional() @Ids() reaches?: string[];
  @Optional() @Parts(() => CarriedNetwork) networks?: CarriedNetwork[];
  @Optional() @Part(() => ManagementInput) management?: ManagementInput;
  @Optional() @Part(() => OutOfBandInput) outOfBand?: OutOfBandInput;
  @Optional() @Part(() => HardwareBody) hardware?: HardwareBody;
}

/** Several hosts, all or none. */
export class RecordHostsBody extends ChangeExtras {
  @Parts(() => RecordHostBody, 500) hosts!: RecordHostBody[];
}

export class EditHostBody extends HostDetails {
  @Optional() @Name(63) name?: string;
  @Optional() @OneOf(HOST_STATES) state?: Row<'host'>['state'];
  @Optional() @Id() platformId?: string;
  @Optional() @Whole(1, 64) sockets?: number;
  @Optional() @Whole(1, 1024) coresPerSocket?: number;
  @Optional() @Whole(1, 16) threadsPerCore?: number;
  @Optional() @Whole(1) installedMiB?: number;
}

/** The same fields for several hosts. */
export class EditHostsBody extends EditHostBody {
  @Ids() ids!: string[];
}

export class CarryNetworkBody extends ChangeExtras {
  @Id() networkId!: string;
  @OneOf(SWITCH_MODES) mode!: SwitchMode;
}

export class RecordPoolBody extends ChangeExtras {
  @Name() name!: string;
  @Whole(0) usableBytes!: number;
  @Optional() @Whole(1, 1000) promiseLimitPercent?: number;
  @Clearable() @Id() arrayId?: string | null;
  @Clearable() @Id() diskId?: string | null;
  /** Where remote storage is. */
  @Optional() @Text() remote?: string;
  /** The guest that serves it, where a guest does. */
  @Clearable() @Id() serverGuestId?: string | null;
  @Optional() @Whole(1, 10) copies?: number;
  @Optional() @Whole(1, 100) fillAlarmPercent?: number;
  /** Bytes really used when somebody last looked. */
  @Clearable() @Whole(0) usedBytes?: number | null;
  @Ids() hostIds!: string[];
}

export class EditPoolBody extends ChangeExtras {
  @Optional() @Name() name?: string;
  @Optional() @Whole(0) usableBytes?: number;
  @Optional() @Whole(1, 1000) promiseLimitPercent?: number;
  @Clearable() @Id() arrayId?: string | null;
  @Clearable() @Id() diskId?: string | null;
  /** Where remote storage is. */
  @Optional() @Text() remote?: string;
  /** The guest that serves it, where a guest does. */
  @Clearable() @Id() serverGuestId?: string | null;
  @Optional() @Whole(1, 10) copies?: number;
  @Optional() @Whole(1, 100) fillAlarmPercent?: number;
  /** Bytes really used when somebody last looked. */
  @Clearable() @Whole(0) usedBytes?: number | null;
  @Optional() @Ids() hostIds?: string[];
}

export class SetUplinksBody extends ChangeExtras {
  @Ids(64) portIds!: string[];
}

export class RecordSiteBody extends ChangeExtras {
  @Name() name!: string;
}
