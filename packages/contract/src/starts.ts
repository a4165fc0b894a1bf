/** Services, who provides them, who needs them, and the order of starting. */
import { SERVICE_KINDS, type Circle, type Finding, type NodeKind, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import { Clearable, Id, Name, OneOf, Optional, Text } from './rules.js';
import type { Named } from './shared-views.js';

type What = Row<'service'>['what'];

export class RecordServiceBody extends ChangeExtras {
  @Name() name!: string;
  @OneOf(SERVICE_KINDS) what!: What;
  /** Group of hosts that it manages or serves. */
  @Clearable() @Id() hostGroupId?: string | null;
}
export class EditServiceBody extends ChangeExtras {
  @Optional() @Name() name?: string;
  @Optional() @OneOf(SERVICE_KINDS) what?: What;
  @Clearable() @Id() hostGroupId?: string | null;
  @Optional() @Text(20_000) notes?: string;
}
/** Exactly one of the two. */
export class AddProviderBody extends ChangeExtras {
  @Clearable() @Id() guestId?: string | null;
  @Clearable() @Id() deviceId?: string | null;
}
/** One host or guest that needs, one service or guest that is needed. */
export class RecordNeedBody extends ChangeExtras {
  @Clearable() @Id() hostId?: string | null;
  @Clearable() @Id() guestId?: string | null;
  @Clearable() @Id() serviceId?: string | null;
  @Clearable() @Id() onGuestId?: string | null;
  @Optional() @Text() purpose?: string;
}

export interface ServiceView {
  id: string;
  revision: number;
  name: string;
  what: What;
  hostGroup: Named | null;
  /** With the id of the provider's row, to take it away. */
  providers: (Named & { kind: 'guest' | 'device'; providerId: string; state: string })[];
  needed: number;
  findings: Finding[];
}

export interface StartRow {
  kind: NodeKind;
  id: string;
  name: string;
  /** Where a guest runs. */
  host: string;
  /** Seconds after the power came back. */
  begins: number;
  up: number;
  after: string;
}

export interface StartOrderView {
  seconds: number;
  /** At most 200 rows a wave, those that take longest to be up first. */
  waves: { wave: number; total: number; begins: number; up: number; rows: StartRow[] }[];
  circles: (Pick<Circle, 'steps' | 'mends'> & {
    members: { kind: NodeKind; id: string; name: string }[];
  })[];
  /** What waits behind a circle, or for something that does not run; at most 100. */
  waiting: {
    total: number;
    rows: { kind: NodeKind; id: string; name: string; sentence: string }[];
  };
}
