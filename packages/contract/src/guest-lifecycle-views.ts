/** Roles and groups of guests, media in their drives, snapshots, the steps of a build, the end. */
import type { Finding, GuestBuild, Referrer, Row, Spread } from '@insel/core';
import type { Named } from './shared-views.js';

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

/** First-start files as they are written, what of its identity they set, and what they leave to do by hand. */
export interface FirstStartView {
  /** The numbers, from 0, of lines that differ from the sibling's. */
  files: {
    name: 'user-data' | 'meta-data' | 'network-config';
    text: string;
    differs: number[];
  }[];
  /** Another clone of the same origin, which the files are compared with. */
  sibling: Named | null;
  /** What a copy runs that was not generalised: a shell script of its own. */
  script: string;
  sets: string[];
  left: string[];
}
