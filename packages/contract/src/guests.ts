import {
  ADAPTER_MODELS,
  BOOT_FIRST,
  CRITICALITIES,
  DISK_BUSES,
  FAMILIES,
  GUEST_STATES,
  KINDS,
  type Row,
} from '@insel/core';
import { ChangeExtras } from './extras.js';
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
  Time,
  Whole,
} from './rules.js';

export class VolumePart {
  @Id() poolId!: string;
  /** Whole bytes. */
  @Whole(1) bytes!: number;
  @Optional() @Name() label?: string;
  @Optional() @Flag() thin?: boolean;
  @Optional() @OneOf(DISK_BUSES) bus?: Row<'volume'>['bus'];
  @Optional() @OneOf(['disk', 'UEFI variables']) use?: Row<'volume'>['use'];
  /** Kept in several files. */
  @Optional() @Flag() split?: boolean;
}

export class AddressChoice {
  @OneOf(['next', 'given', 'none']) take!: 'next' | 'given' | 'none';
  @Optional() @Text(50) ip?: string;
}

export class AdapterPart {
  @Clearable() @Id() networkId!: string | null;
  /** Left out: generated when planning, unknown when recording. */
  @Optional() @Text(20) mac?: string;
  @Optional() @OneOf(ADAPTER_MODELS) model?: Row<'adapter'>['model'];
  /** What the guest forwards out here gets its address. */
  @Optional() @Flag() masquerade?: boolean;
  @Part(() => AddressChoice) address!: AddressChoice;
}

/** What a guest is for, its devices, and until when: said when it is made, and later. */
class GuestCare extends ChangeExtras {
  @Clearable() @Id() profileId?: string | null;
  @Clearable() @Id() groupId?: string | null;
  @Optional() @OneOf(['unknown', 'UEFI', 'legacy']) firmware?: Row<'guest'>['firmware'];
  @Optional() @OneOf(BOOT_FIRST) bootFirst?: Row<'guest'>['bootFirst'];
  @Optional()
  @OneOf(['unknown', 'none', 'basic', 'accelerated'])
  graphics?: Row<'guest'>['graphics'];
  @Optional() @OneOf(CRITICALITIES) criticality?: Row<'guest'>['criticality'];
  /** As in "Sat, Sun 02:00-06:00", UTC. */
  @Optional() @Text(100) outageWindow?: string;
  @Clearable() @Day() endDate?: string | null;
}

class GuestParts extends GuestCare {
  @Name(63) name!: string;
  @Id() hostId!: string;
  @OneOf(FAMILIES) family!: Row<'guest'>['family'];
  @Optional() @Text() purpose?: string;
  @Whole(1, 4096) vcpu!: number;
  /** Whole MiB. */
  @Whole(1) memoryMiB!: number;
  @Optional() @Flag() template?: boolean;
  @Optional() @Flag() heldWhenStopped?: boolean;
  @Optional()
  @OneOf(KINDS.guest.fields.processorMode!.choices!)
  processorMode?: Row<'guest'>['processorMode'];
  @Optional() @Flag() nestedVirtualisation?: boolean;
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
  @Optional() @Whole(0, 86_400) startSeconds?: number;
  @Optional() @Flag() forwards?: boolean;
  @Parts(() => VolumePart) volumes!: VolumePart[];
  @Parts(() => AdapterPart) adapters!: AdapterPart[];
  /** Install images put into its drives. */
  @Optional() @Ids(8) mediumIds?: string[];
}

export class PlanGuestBody extends GuestParts {
  /** Rules of placement that it joins. */
  @Optional() @Ids(16) ruleIds?: string[];
}

export class RecordGuestBody extends GuestParts {
  @OneOf(GUEST_STATES) state!: Row<'guest'>['state'];
}

export class EditGuestBody extends GuestCare {
  @Optional() @Name(63) name?: string;
  @Optional() @Id() hostId?: string;
  @Optional() @OneOf(FAMILIES) family?: Row<'guest'>['family'];
  @Optional() @Text() purpose?: string;
  @Optional() @Whole(1, 4096) vcpu?: number;
  @Optional() @Whole(1) memoryMiB?: number;
  @Optional() @Flag() template?: boolean;
  @Optional() @Flag() heldWhenStopped?: boolean;
  @Optional()
  @OneOf(KINDS.guest.fields.processorMode!.choices!)
  processorMode?: Row<'guest'>['processorMode'];
  @Optional() @Flag() nestedVirtualisation?: boolean;
  /** From power-on until it is of use, in seconds. */
  @Optional() @Whole(0, 86_400) startSeconds?: number;
  @Optional() @Text(253) domain?: string;
  @Clearable() @Text(50) gateway?: string | null;
  @Clearable() @Text(50) gateway6?: string | null;
  @Optional() @Flag() noGateway?: boolean;
  @Optional() @Flag() gatewayOnLink?: boolean;
  /** It passes on packets of others: a router guest. */
  @Optional() @Flag() forwards?: boolean;
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
  @Clearable() @Time() confirmedAt?: string | null;
  @Optional() @Text(100) confirmedBy?: string;
}

export class SetGuestStateBody extends ChangeExtras {
  @OneOf(GUEST_STATES) state!: Row<'guest'>['state'];
}

export class AddVolumeBody extends ChangeExtras {
  @Id() poolId!: string;
  @Whole(1) bytes!: number;
  @Name() label!: string;
  @Optional() @Flag() thin?: boolean;
  @Optional() @OneOf(DISK_BUSES) bus?: Row<'volume'>['bus'];
  @Optional() @OneOf(['disk', 'UEFI variables']) use?: Row<'volume'>['use'];
  @Optional() @Flag() split?: boolean;
}

export class EditVolumeBody extends ChangeExtras {
  @Optional() @Name() label?: string;
  @Optional() @Whole(1) bytes?: number;
  @Optional() @Flag() thin?: boolean;
  @Optional() @Id() poolId?: string;
  @Optional() @OneOf(DISK_BUSES) bus?: Row<'volume'>['bus'];
  @Optional() @OneOf(['disk', 'UEFI variables']) use?: Row<'volume'>['use'];
  @Optional() @Flag() split?: boolean;
  @Clearable() @Whole(0) usedBytes?: number | null;
}

export class EditAdapterBody extends ChangeExtras {
  @Clearable() @Id() networkId?: string | null;
  /** Empty text: have one generated. */
  @Clearable() @Text(20) mac?: string | null;
  @Optional() @Flag() connected?: boolean;
  /** What the guest forwards out here gets its address. */
  @Optional() @Flag() masquerade?: boolean;
  @Optional() @OneOf(ADAPTER_MODELS) model?: Row<'adapter'>['model'];
  /** What the guest calls it, where that differs from the pattern. */
  @Optional() @Text(60) nameInside?: string;
}
