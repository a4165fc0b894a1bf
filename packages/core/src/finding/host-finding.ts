/** What the rules about hosts share. */
import { ruleAt, type RuleFinding } from './rule-at.js';
import type { Fleet, Row } from '../record/index.js';

/** A rule about hosts that are not retired. */
export const hostRule = (
  name: string,
  look: (fleet: Fleet, host: Row<'host'>, now: string) => RuleFinding[],
) => ruleAt('host', name, look);
