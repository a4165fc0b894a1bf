/** Services, who provides them, who needs them, and the order of starting. */
import { type Circle, type Expectation, type Finding, type NodeKind, type Row } from '@insel/core';
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
