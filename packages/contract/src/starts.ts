/** Services, who provides them, who needs them, and the order of starting. */
import {
  type Circle,
  type ComesUp,
  type Expectation,
  type FailureOutcome,
  type Finding,
  type NodeKind,
  type Row,
} from '@insel/core';
import { Count, Id, OneOf, Optional } from './rules.js';
import type { Named } from './shared-views.js';

type What = Row<'service'>['what'];

export interface ServiceView {
  id: string;
  revision: number;
  name: string;
  what: What;
  hostGroup: Named | null;
  /** With the provider's row, to take it away. */
  providers: (Named & { kind: 'guest' | 'device'; provided: Expectation; state: string })[];
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
  /** Machines in service that never start by themselves: in a circle, or waiting behind one. */
  never: number;
  /** At most 200 rows a wave, those that take longest to be up first. */
  waves: { wave: number; total: number; begins: number; up: number; rows: StartRow[] }[];
  circles: (Pick<Circle, 'steps'> & {
    mends: { sentence: string; seconds: number; guestId?: string; need: Expectation | null }[];
    members: { kind: NodeKind; id: string; name: string }[];
  })[];
  /** What waits behind a circle, or for something that does not run; at most 100. */
  waiting: {
    total: number;
    rows: { kind: NodeKind; id: string; name: string; sentence: string }[];
  };
}

export const LOSES_POWER = ['feed', 'rack', 'site', 'group'] as const;

/** What loses its power, or is shut down on purpose. */
export class ShutDownQuery {
  @OneOf(LOSES_POWER) what!: (typeof LOSES_POWER)[number];
  @Id() id!: string;
  /** How long the UPS holds; left out: as recorded. */
  @Optional() @Count(0, 100_000) minutes?: number;
  /** How long it is waited for the power to come back, before anything is stopped. */
  @Optional() @Count(0, 100_000) waitMinutes?: number;
}

/** What becomes of guests when something fails, and when those that restart are of use. */
export interface FailureView extends FailureOutcome {
  /** Null: none restarts. */
  comesUp: ComesUp | null;
}

export interface StopRow {
  kind: 'host' | 'guest';
  id: string;
  name: string;
  /** Where a guest runs. */
  host: string;
  /** Seconds after the power went. */
  begins: number;
  down: number;
  after: string;
  /** It is told to stop although something that needs it may still run. */
  forced: boolean;
  /** It is still up when the UPS ends. */
  late: boolean;
}

export interface ShutDownView {
  name: string;
  hosts: number;
  guests: number;
  /** From the power's end until all are off, the waiting included. */
  seconds: number;
  waitMinutes: number;
  /** How long the UPS holds, and where that is from; null: nobody recorded it. */
  minutes: number | null;
  from: string;
  /** Machines that are still up when it ends. */
  late: number;
  /** The longest it may be waited; null: nobody knows how long the UPS holds; negative: not even at once. */
  mayWaitSeconds: number | null;
  /** Names on the longest way, the first to stop first. */
  longest: string[];
  /** At most 400, in order. */
  rows: StopRow[];
  total: number;
}
