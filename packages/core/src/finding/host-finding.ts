/** What the rules about hosts share. */
import { ruleAt, type RuleFinding } from './rule-at.js';
import type { Fleet, Row } from '../record/index.js';

/** A rule about hosts that are not retired. */
export const hostRule = (
  name: string,
  look: (fleet: Fleet, host: Row<'host'>, now: string) => RuleFinding[],
) => ruleAt('host', name, look);

/** Days from now until a date; negative when it has passed. */
export const daysUntil = (date: string, now: string): number =>
  (Date.parse(date) - Date.parse(now.slice(0, 10))) / 86_400_000;
