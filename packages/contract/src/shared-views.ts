/** Shapes that answers about hosts, guests and networks have in common. */
import type { Expectation, Row, Severity } from '@insel/core';

export interface Named {
  readonly id: string;
  readonly name: string;
}

/** Gravest finding at a record, and how many there are. */
export interface FindingMark {
  severity: Severity;
  count: number;
}

/** Something a machine cannot start its work without: one of the two. */
export interface NeedView extends Expectation {
  purpose: string;
  service: Named | null;
  guest: Named | null;
}

export interface AddressView extends Expectation {
  ip: string;
  assigned: boolean;
  use: string;
  purpose: string;
  network: Named | null;
  prefixLength: number | null;
  gateway: string | null;
}

export interface BackupView extends Row<'backup'> {
  pool: Named | null;
  storeGuest: Named | null;
}

export interface MigrationListRow extends Expectation {
  guest: Named;
  source: Named;
  target: Named;
  state: Row<'migration'>['state'];
  running: boolean;
  bytes: number;
  estimateSeconds: number | null;
  copySeconds: number | null;
  plannedAt: string;
  startedAt: string | null;
  switchedAt: string | null;
  endedAt: string | null;
  finding: FindingMark | null;
}
