import { DEVICE_KINDS } from '@insel/core';
import { Count, Id, OneOf, Optional, Text } from './rules.js';

/** A window of a list: rows from a position, in an order. */
export class ListQuery {
  @Optional() @Text(100) q?: string;
  @Optional() @Text(40) sort?: string;
  @Optional() @OneOf(['up', 'down']) order?: 'up' | 'down';
  @Optional() @Text(40) state?: string;
  @Optional() @Id() siteId?: string;
  @Optional() @Id() hostId?: string;
  @Optional() @Id() networkId?: string;
  @Optional() @Id() profileId?: string;
  @Optional() @Id() groupId?: string;
  @Optional() @Id() poolId?: string;
  @Optional() @Count(0, 10_000_000) from?: number;
  @Optional() @Count(1, 200) take?: number;
}

export class DevicesQuery extends ListQuery {
  @Optional() @OneOf(DEVICE_KINDS) kind?: (typeof DEVICE_KINDS)[number];
}

export class SearchQuery {
  @Text(100) q!: string;
}

export class NextFreeQuery {
  @Optional() @Count(1, 200) count?: number;
  @Optional() @OneOf(['run', 'single']) taking?: 'run' | 'single';
}

/** One finding that is there now. */
export class FindingAgeQuery {
  @Text(300) id!: string;
}

/** What narrows the list of findings. */
export class FindingsQuery {
  @Optional() @OneOf(['blocker', 'caution', 'note']) severity?: 'blocker' | 'caution' | 'note';
  /** Kind of record it is about. */
  @Optional() @Text(40) kind?: string;
  @Optional() @Text(80) rule?: string;
  /** Who looks after what it is about. */
  @Optional() @Text(100) owner?: string;
  /** Name of the site that it stands in. */
  @Optional() @Text(100) site?: string;
  /** Part of its evidence or of the name of what it is about. */
  @Optional() @Text(100) q?: string;
  /** A day or a time: only what was not found then. */
  @Optional() @Text(40) newSince?: string;
}

/** A host as it would be on another platform; without one, on its own. */
export class SuitabilityQuery {
  @Optional() @Id() platformId?: string;
}

export interface ListWindow<T> {
  rows: T[];
  /** Rows that match, in all. */
  total: number;
  from: number;
  revision: number;
}

/** A window of the chart: hosts of a site, of a purpose or label, or of a network. */
export class ChartQuery {
  @Optional() @Id() siteId?: string;
  @Optional() @Text(200) label?: string;
  @Optional() @Id() networkId?: string;
  @Optional() @Count(0, 1_000_000) from?: number;
  @Optional() @Count(1, 200) take?: number;
}
