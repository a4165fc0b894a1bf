/** Racks, host groups, platforms, install media, backups, rules between guests. */
import { ADAPTER_MODELS, ARCHITECTURES, DISK_BUSES, FAMILIES, KINDS, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import { Described } from './described.js';
import {
  Among,
  Clearable,
  Day,
  Flag,
  Id,
  Ids,
  Name,
  OneOf,
  Optional,
  Sha256,
  Text,
  Time,
  Whole,
} from './rules.js';

export class EditSiteBody extends Described {
  @Optional() @Name() name?: string;
  /** First octets of generated MACs, such as 02:1f:0a; empty: any. */
  @Optional() @Text(20) macBlock?: string;
}

export class RecordRoutingDomainBody extends Described {
  @Name() name!: string;
}
export class EditRoutingDomainBody extends Described {
  @Optional() @Name() name?: string;
}

class RackFields extends Described {
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Whole(1, 60) units?: number;
  @Clearable() @Whole(1) feedWatts?: number | null;
  @Clearable() @Whole(0) upsMinutes?: number | null;
}
export class RecordRackBody extends RackFields {
  @Name() name!: string;
}
export class EditRackBody extends RackFields {
  @Optional() @Name() name?: string;
}

class HostGroupFields extends Described {
  @Optional() @Whole(1, 64) vcpuPerCore?: number;
  @Optional() @Whole(100, 400) memoryPercent?: number;
  @Optional() @Whole(0, 90) reservePercent?: number;
  @Clearable() @Whole(1, 1000) quorum?: number | null;
  @Optional() @Text() witness?: string;
  @Optional() @Flag() restarts?: boolean;
}
export class RecordHostGroupBody extends HostGroupFields {
  @Name() name!: string;
}
export class EditHostGroupBody extends HostGroupFields {
  @Optional() @Name() name?: string;
}

class PlatformFields extends Described {
  @Optional() @Flag() bareMetal?: boolean;
  @Optional() @Whole(0) keepsMiB?: number;
  @Optional() @Whole(0, 100) keepsPercent?: number;
  @Optional() @Whole(0) overheadMiB?: number;
  @Optional() @Whole(0) overheadPerVcpuMiB?: number;
  @Optional() @Whole(0, 100) overheadPercent?: number;
  @Optional() @Whole(0) videoMiB?: number;
  @Optional() @OneOf(ARCHITECTURES) architecture?: Row<'platform'>['architecture'];
  @Optional() @Whole(1, 4) minimumLevel?: number;
  @Optional() @Flag() needsVirtualisation?: boolean;
  @Optional() @Flag() needsWiredPort?: boolean;
  @Optional() @Whole(0) minimumMemoryMiB?: number;
  @Optional() @Whole(0) footprintBytes?: number;
  @Optional()
  @OneOf(KINDS.platform.fields.secureBoot!.choices!)
  secureBoot?: Row<'platform'>['secureBoot'];
  @Optional() @Flag() natShared?: boolean;
  @Clearable() @Whole(1, 65_535) consolePort?: number | null;
  @Optional() @Flag() runningMigration?: boolean;
  @Optional() @Flag() thinVolumes?: boolean;
  @Optional() @Flag() dependentClones?: boolean;
  @Optional() @Flag() adapterChangeNeedsRestart?: boolean;
  /** Best first, of those that guests can have. */
  @Optional() @Among(DISK_BUSES) diskBuses?: string[];
  @Optional() @Among(ADAPTER_MODELS) adapterModels?: string[];
  @Optional() @Flag() uefiGuests?: boolean;
  @Optional() @Flag() legacyGuests?: boolean;
  @Optional() @Flag() acceleratedGraphics?: boolean;
  /** {n} stands for the number of the adapter. */
  @Optional() @Text(40) interfacePattern?: string;
  @Optional() @Whole(0, 255) interfaceFirst?: number;
}
export class RecordPlatformBody extends PlatformFields {
  @Name() name!: string;
}
export class EditPlatformBody extends PlatformFields {
  @Optional() @Name() name?: string;
}

class MediumFields extends Described {
  /** 64 hexadecimal digits; empty while unknown. */
  @Optional() @Sha256() sha256?: string;
  @Optional() @Text() kept?: string;
  @Clearable() @Id() platformId?: string | null;
  @Optional() @OneOf(['none', ...FAMILIES]) family?: Row<'medium'>['family'];
  /** What it installs, without the release. */
  @Optional() @Text(100) system?: string;
  @Optional() @Text(40) release?: string;
  @Clearable() @Day() releasedOn?: string | null;
  @Optional() @OneOf(['full', 'network', 'drivers', 'other']) install?: Row<'medium'>['install'];
  /** Pool in which guests reach it. */
  @Clearable() @Id() poolId?: string | null;
}
export class RecordMediumBody extends MediumFields {
  @Name() name!: string;
  @Whole(1) bytes!: number;
}
export class EditMediumBody extends MediumFields {
  @Optional() @Name() name?: string;
  @Optional() @Whole(1) bytes?: number;
}

class BackupFields extends ChangeExtras {
  @Clearable() @Id() poolId?: string | null;
  @Optional() @Text() place?: string;
  @Clearable() @Id() storeGuestId?: string | null;
  @Clearable() @Whole(0) restoreMinutes?: number | null;
  @Clearable() @Time() lastSuccessAt?: string | null;
  @Clearable() @Time() lastRestoreTestAt?: string | null;
}
export class RecordBackupBody extends BackupFields {
  @Id() guestId!: string;
  @OneOf(['backup', 'replica']) way!: 'backup' | 'replica';
  @Whole(1) everyMinutes!: number;
  @Whole(0) takesMinutes!: number;
}
export class EditBackupBody extends BackupFields {
  @Optional() @OneOf(['backup', 'replica']) way?: 'backup' | 'replica';
  @Optional() @Whole(1) everyMinutes?: number;
  @Optional() @Whole(0) takesMinutes?: number;
}

export class PlacementRuleBody extends ChangeExtras {
  @Name() name!: string;
  @OneOf(['together', 'apart', 'pinned']) rule!: Row<'placementRule'>['rule'];
  @Optional() @OneOf(['host', 'rack', 'site']) scope?: Row<'placementRule'>['scope'];
  @Clearable() @Id() hostId?: string | null;
  @Ids(200) guestIds!: string[];
}
