/** Shapes that answers about hosts, guests and networks have in common. */
import type { Row, Severity } from '@insel/core';

export interface Named {
  id: string;
  name: string;
}

/** Gravest finding at a record, and how many there are. */
export interface FindingMark {
  severity: Severity;
  count: number;
}

/** Something a machine cannot start its work without: one of the two. */
export interface NeedView {
  id: string;
  purpose: string;
  service: Named | null;
  guest: Named | null;
}

export interface AddressView {
  id: string;
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

export interface MigrationListRow {
  id: string;
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
