/** Plans as they are shown: steps with what they come to, and what the record would be. */
import type { Finding, Row, Waterline } from '@insel/core';

export interface PlanRow extends Row<'plan'> {
  /** Steps in all, and those that are carried out. */
  steps: number;
  done: number;
}

/** What a step comes to on what stands below it. */
export interface PlanOutcome {
  /** What it would do, in words; empty where it no longer can. */
  title: string;
  /** What differs, in one line. */
  difference: string;
  /** What it goes past. */
  objections: string[];
  /** Why it can no longer be done, and what mends that; null where it can. */
  refusal: { sentence: string; remedy: string } | null;
  appearing: Finding[];
  vanishing: Finding[];
  /** Values below it that are others than when it was drawn. */
  overtaken: { name: string; field: string; was: string; is: string }[];
  /** Of a plan that needs approval: whether this was approved as it is. */
  approval: 'not needed' | 'approved' | 'never' | 'no longer';
}

export interface PlanStepView extends Row<'planStep'> {
  /** The change, as on its button. */
  change: string;
  /** Null once it is carried out. */
  outcome: PlanOutcome | null;
}

/** A record that a plan touches. */
export interface PlanMark {
  kind: Finding['about']['kind'];
  id: string;
  name: string;
  how: 'new' | 'altered' | 'gone';
}

/** What a guest takes of a host, with the platform's overhead. */
export interface Taking {
  hostId: string;
  vcpu: number;
  memoryMiB: number;
}

/** A guest that takes another room, or takes it elsewhere. */
export interface PlanMove {
  guestId: string;
  name: string;
  /** Null: it takes none. */
  was: Taking | null;
  is: Taking | null;
  /** Where a migration of the plan brings it; it stands where it is until then. */
  goesTo: Taking | null;
}

export interface PlanSheet {
  plan: Row<'plan'>;
  /** The plan it stands on, where it does, and whether that is still to be done. */
  standsOn: { id: string; name: string; open: number } | null;
  steps: PlanStepView[];
  before: Waterline;
  after: Waterline;
  appearing: Finding[];
  vanishing: Finding[];
  /** Rules that look at the whole fleet were asked as well; in a large fleet they are not. */
  wholeFleet: boolean;
  marks: PlanMark[];
  moves: PlanMove[];
  /** Addresses that are given out, or given back. */
  addresses: { subnetId: string; ip: string; how: 'new' | 'gone' }[];
}

/** What one of two plans comes to. */
export interface PlanBeside {
  id: string;
  name: string;
  steps: number;
  /** Steps that no longer decide. */
  refused: number;
  after: Waterline;
  /** Findings that appear or vanish with this one, and not with the other. */
  appearing: Finding[];
  vanishing: Finding[];
  /** Hosts that may fail with all their guests up again. */
  mayFail: number;
}

export interface PlansCompared {
  now: { levels: Waterline; mayFail: number; hosts: number };
  one: PlanBeside;
  other: PlanBeside;
}
