/** Roles and groups of guests, media in their drives, snapshots, the steps of a build, the end. */
import {
  BOOT_FIRST,
  CLEARED,
  CRITICALITIES,
  FAMILIES,
  GUEST_STATES,
  IDENTITY_ITEMS,
  type Cleared,
  type Finding,
  type GuestBuild,
  type Referrer,
  type Row,
  type Spread,
} from '@insel/core';
import { ChangeExtras } from './extras.js';
import { Described } from './described.js';
import { RecordGuestBody } from './guests.js';
import {
  Clearable,
  Day,
  Flag,
  Id,
  Ids,
  Name,
  OneOf,
  Optional,
  Parts,
  Text,
  Texts,
  Time,
  Whole,
} from './rules.js';
import type { Named } from './shared-views.js';

class ProfileFields extends Described {
  @Optional() @OneOf(['text', 'graphical']) display?: Row<'profile'>['display'];
  @Optional() @Whole(1, 4096) minimumVcpu?: number;
  @Optional() @Whole(1) minimumMemoryMiB?: number;
  @Optional() @Whole(0) minimumBytes?: number;
  @Optional() @Whole(1, 4096) usualVcpu?: number;
  @Optional() @Whole(1) usualMemoryMiB?: number;
  @Optional() @Whole(0) usualBytes?: number;
  @Optional() @Whole(0) usualDataBytes?: number;
  /** What its load is counted in; empty: none. */
  @Optional() @Text(40) loadUnit?: string;
  @Optional() @Whole(0) usualLoad?: number;
  @Optional() @Whole(1) loadStep?: number;
  /** Thousandths of a vCPU for each step of load. */
  @Optional() @Whole(0) stepMilliVcpu?: number;
  @Optional() @Whole(0) stepMemoryMiB?: number;
  @Optional() @Whole(0) stepDataBytes?: number;
  @Optional() @Whole(1, 16) adapters?: number;
  @Optional() @Flag() paravirtualDisk?: boolean;
  @Optional() @Flag() paravirtualNetwork?: boolean;
  @Optional() @Flag() uefi?: boolean;
  @Optional() @Flag() legacyBoot?: boolean;
  @Optional() @Flag() nested?: boolean;
  @Optional() @Flag() forwards?: boolean;
  @Optional() @Flag() apart?: boolean;
  @Optional() @Whole(0, 86_400) startSeconds?: number;
  /** Of the items of identity; empty: all of them. */
  @Optional() @Texts(IDENTITY_ITEMS.length) identity?: string[];
}
export class RecordProfileBody extends ProfileFields {
  @Name() name!: string;
  @OneOf(FAMILIES) family!: Row<'profile'>['family'];
}
export class EditProfileBody extends ProfileFields {
  @Optional() @Name() name?: string;
  @Optional() @OneOf(FAMILIES) family?: Row<'profile'>['family'];
}

class GuestGroupFields extends Described {
  @Optional() @Text() purpose?: string;
  @Optional() @OneOf(['none', 'host', 'rack', 'site']) spread?: Row<'guestGroup'>['spread'];
  @Optional() @Whole(0, 1000) needed?: number;
}
export class RecordGuestGroupBody extends GuestGroupFields {
  @Name() name!: string;
}
export class EditGuestGroupBody extends GuestGroupFields {
  @Optional() @Name() name?: string;
}

export class AttachMediumBody extends ChangeExtras {
  @Id() mediumId!: string;
  @Optional() @Flag() atPowerOn?: boolean;
}
export class EditDriveBody extends ChangeExtras {
  @Flag() atPowerOn!: boolean;
}

class SnapshotFields extends ChangeExtras {
  @Optional() @Text() why?: string;
  @Optional() @Whole(0) bytes?: number;
  @Optional() @Whole(0) growthBytesPerDay?: number;
  @Clearable() @Day() keepUntil?: string | null;
}
export class RecordSnapshotBody extends SnapshotFields {
  @Name() name!: string;
  @Id() poolId!: string;
  @Time() takenAt!: string;
}
export class EditSnapshotBody extends SnapshotFields {
  @Optional() @Name() name?: string;
}

export class OrderAdaptersBody extends ChangeExtras {
  /** All adapters of the guest, the first one first. */
  @Ids(64) ids!: string[];
}

export class TickStepBody extends ChangeExtras {
  @Name() step!: string;
  /** Null takes the tick back. */
  @Clearable() @OneOf(['done', 'failed', 'not needed']) outcome!:
    Row<'buildTick'>['outcome'] | null;
  @Optional() @Text(500) remark?: string;
}

export class RetireGuestBody extends ChangeExtras {
  @Texts(CLEARED.length) clear!: Cleared[];
}

/** The same fields for several guests. */
export class EditGuestsBody extends ChangeExtras {
  @Ids() ids!: string[];
  @Optional() @OneOf(GUEST_STATES) state?: Row<'guest'>['state'];
  @Optional() @OneOf(FAMILIES) family?: Row<'guest'>['family'];
  @Optional() @Text() purpose?: string;
  @Clearable() @Id() profileId?: string | null;
  @Clearable() @Id() groupId?: string | null;
  @Optional()
  @OneOf(['unknown', 'host', 'v1', 'v2', 'v3', 'v4'])
  processorMode?: Row<'guest'>['processorMode'];
  @Optional() @OneOf(['unknown', 'UEFI', 'legacy']) firmware?: Row<'guest'>['firmware'];
  @Optional() @OneOf(BOOT_FIRST) bootFirst?: Row<'guest'>['bootFirst'];
  @Optional() @Flag() heldWhenStopped?: boolean;
  @Optional() @OneOf(CRITICALITIES) criticality?: Row<'guest'>['criticality'];
  @Optional() @Text(100) outageWindow?: string;
  @Clearable() @Day() endDate?: string | null;
  @Optional() @Whole(0, 86_400) startSeconds?: number;
  @Optional() @Text(253) domain?: string;
  @Optional() @Text(100) owner?: string;
  @Optional() @Texts() labels?: string[];
  @Clearable() @Time() confirmedAt?: string | null;
  @Optional() @Text(100) confirmedBy?: string;
}

/** Many guests that exist, all or none: from a table. */
export class RecordGuestsBody extends ChangeExtras {
  @Parts(() => RecordGuestBody, 500) guests!: RecordGuestBody[];
}

export interface ProfileView extends Row<'profile'> {
  guests: number;
}

export interface GuestGroupView extends Row<'guestGroup'> {
  guests: (Named & { host: string; state: string })[];
  spreadNow: Spread | null;
  findings: Finding[];
}

export interface DriveView {
  id: string;
  revision: number;
  medium: Named;
  atPowerOn: boolean;
}

export interface SnapshotView extends Row<'snapshot'> {
  pool: Named;
  days: number;
}

export interface TickView {
  outcome: Row<'buildTick'>['outcome'];
  at: string;
  by: string;
  remark: string;
}

export interface GuestBuildView extends GuestBuild {
  ticks: Record<string, TickView>;
  /** Steps ticked, and all of them. */
  done: number;
  total: number;
}

export interface GuestEndView {
  referrers: Referrer[];
}

export interface MediumView extends Row<'medium'> {
  pool: Named | null;
  platform: Named | null;
  /** Guests that have it in a drive. */
  attached: (Named & { atPowerOn: boolean; state: string })[];
  /** A later release of the same system. */
  newer: Named | null;
  findings: Finding[];
}
