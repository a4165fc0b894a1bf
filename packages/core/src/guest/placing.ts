/** What is asked of a place for a guest. */
import type { Bytes } from '../quantity/index.js';
import type { Row } from '../record/index.js';
import type { Size } from './size-faults.js';

export const BUDGET = 20000;
export interface Placing extends Size {
  /** Sum of its volumes. */
  bytes: Bytes;
  networkIds: string[];
  processorMode: Row<'guest'>['processorMode'];
  family: Row<'guest'>['family'];
  profileId: string | null;
  groupId: string | null;
  ruleIds: string[];
}
