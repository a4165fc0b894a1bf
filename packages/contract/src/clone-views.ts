/** Clones with what they came from: lines of origins, templates with their versions, licences, what guests are known by. */
import type { Expectation, Figure, Finding, IdentityVerdict, Row, VersionState } from '@insel/core';
import { Id, Ids, Text } from './rules.js';
import type { Named } from './shared-views.js';

export interface CloneListRow extends Expectation {
  guest: Named;
  state: string;
  origin: Named;
  copy: string;
  madeAt: string;
  done: number;
  items: number;
  host: Named;
}

/** One item of identity of one clone, as the board shows it. */
export type IdentityCell = Pick<Row<'identityItem'>, 'id' | 'item' | 'doneAt' | 'doneBy'>;

export interface Lineage {
  origin: Named & { state: string; template: boolean };
  clones: LineClone[];
}

export interface LineClone extends CloneListRow {
  guest: Named & Expectation;
  address: string;
  /** Names of the files of its volumes. */
  disks: string[];
  open: string[];
  identity: IdentityCell[];
}

/** A clone as it hangs from the version it came from. */
export interface HangingClone extends Named {
  readonly revision: number;
  state: string;
  host: string;
  group: string;
  copy: Row<'clone'>['copy'];
  madeAt: string;
  /** Items of identity that are open. */
  open: number;
  /** Versions that were sealed since. */
  behind: number;
  /** What it has written beside the blocks of its base; null where nobody knows. */
  grownBytes: number | null;
}

export interface VersionView extends Row<'templateVersion'> {
  state: VersionState;
  /** Days since it was sealed. */
  age: number | null;
  generalised: boolean;
  guest: Named & { state: string; host: string };
  medium: Named | null;
  /** Of its volumes: allocated, and full size. */
  allocatedBytes: number;
  bytes: number;
  items: Row<'sealItem'>[];
  clones: HangingClone[];
  dependents: number;
  /** Bytes that dependent clones do not take, since they share them. */
  savedBytes: number;
}

export interface TemplateView extends Row<'template'> {
  /** The newest first. */
  versions: VersionView[];
  currentId: string | null;
  findings: Finding[];
}

export interface EntitlementView extends Row<'entitlement'> {
  used: Figure;
  profile: Named | null;
  findings: Finding[];
}

/** What a guest was seen to be known by. */
export interface KnownByView {
  facts: Row<'identityFact'>[];
}

/** What was printed by the proof script of a guest. */
export class ReadProofBody {
  @Text(50_000) text!: string;
  @Id() guestId!: string;
}
export type ReadProofView =
  { ok: true; verdicts: IdentityVerdict[] } | { ok: false; sentence: string };

/** First-start files of several guests. */
export class FirstStartsQuery {
  @Ids(200) ids!: string[];
}

/** When a batch would be made and ready, with the fastest and slowest in seconds; ready is nothing that is only copied. */
export interface BatchTimeView {
  made: Figure;
  ready: Figure | null;
  range: { made: [number, number]; ready: [number, number] };
}
