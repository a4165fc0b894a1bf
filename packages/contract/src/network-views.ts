/** What is shown of networks, subnets and their addresses. */
import type { Expectation, Subject, Row, Figure, Finding } from '@insel/core';
import type { Named, FindingMark } from './shared-views.js';

export interface SubnetBrief {
  id: string;
  prefix: string;
  free: number | null;
  takenPercent: number | null;
  held: number;
}

export interface NetworkListRow extends Named, Expectation {
  site: string;
  vlanId: number | null;
  subnets: SubnetBrief[];
  finding: FindingMark | null;
}

export interface RunView {
  kind: string;
  first: string;
  last: string;
  /** Number of addresses, as text: a /64 has more than a double counts. */
  count: string;
}

export interface HeldView extends Expectation {
  ip: string;
  assigned: boolean;
  use: string;
  holder: Subject;
  inRange: boolean;
}

export interface SubnetView extends Row<'subnet'> {
  runs: RunView[];
  held: HeldView[];
  ranges: Row<'range'>[];
  resting: Row<'quarantine'>[];
  routingDomain: Named;
  /** Subnets that lie side by side with it and could be joined with it. */
  joinable: (Expectation & { prefix: string })[];
  next: string | null;
  free: Figure;
  taken: Figure;
}

export interface NetworkSheet {
  network: Row<'network'>;
  site: Named | null;
  subnets: SubnetView[];
  carriedBy: (Named & { mode: string })[];
  alsoAt: Named[];
  devices: (Named & { port: string })[];
  findings: Finding[];
}
