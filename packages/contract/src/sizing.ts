/** Sizing a guest: role and load in; size, places, devices and names out, with their reasons. */
import {
  FAMILIES,
  type DeviceAdvice,
  type SizeFault,
  type HostRank,
  type Row,
  type SuggestedSize,
} from '@insel/core';
import { Clearable, Flag, Id, Ids, OneOf, Optional, Text, Whole } from './rules.js';

export class SizeGuestBody {
  @Id() profileId!: string;
  /** In the unit of its role. */
  @Clearable() @Whole(0) load?: number | null;
  @Optional() @Whole(0, 1000) growthPercent?: number;
  @Optional() @Whole(0, 20) years?: number;
  /** Sizes chosen instead of the suggested ones. */
  @Clearable() @Whole(1, 4096) vcpu?: number | null;
  @Clearable() @Whole(1) memoryMiB?: number | null;
  @Clearable() @Whole(0) systemBytes?: number | null;
  @Clearable() @Whole(0) dataBytes?: number | null;
  @Ids(16) networkIds!: string[];
  @Clearable() @Id() groupId?: string | null;
  @Optional() @Ids(16) ruleIds?: string[];
  /** Chosen host; left out: the best one. */
  @Clearable() @Id() hostId?: string | null;
  @Optional() @OneOf(FAMILIES) family?: Row<'guest'>['family'];
  /** It has to change hosts while running. */
  @Optional() @Flag() movesRunning?: boolean;
  @Optional() @Text(63) name?: string;
}

/** What guests of the same role were measured to use. */
export interface SimilarUse {
  guests: number;
  samples: number;
  /** 95th percentiles (type 7), the largest among them, in vCPU and MiB; null where not measured. */
  vcpuP95: number | null;
  memoryP95MiB: number | null;
}

export interface SizeAnswer {
  suggested: SuggestedSize;
  chosen: { vcpu: number; memoryMiB: number; systemBytes: number; dataBytes: number };
  faults: SizeFault[];
  /** Best first; at most a hundred of them. */
  hosts: HostRank[];
  hostsInAll: number;
  hostId: string | null;
  devices: DeviceAdvice[];
  /** What its adapters are expected to be called inside. */
  interfaces: string[];
}
