import type { Fleet, Row } from '../record/index.js';
import type { MoveMethod } from './method.js';
import { methodOf, routeOf, type Route } from './route.js';
import { sameSides } from './sides.js';

/** Answers of a past run hold for so long. Common practice, no source. */
const PATTERN_DAYS = 90;
const DAY_MS = 86_400_000;

export interface LastTime {
  migrationId: string;
  guest: string;
  /** When it switched over. */
  at: string;
  method: MoveMethod;
  linkBitsPerSecond: number;
  copySeconds: number | null;
  /** What was written at its steps: what was different from the plan. */
  remarks: { step: string; remark: string }[];
}

/** The newest finished run between these two sides in the same way, as a pattern; null: none within 90 days. Its cost grows with the moves on record. */
export function lastTime(fleet: Fleet, route: Route, now: string): LastTime | null {
  const since = new Date(Date.parse(now) - PATTERN_DAYS * DAY_MS).toISOString();
  let newest: Row<'migration'> | null = null;
  for (const past of fleet.all('migration')) {
    if (past.state !== 'accepted' && past.state !== 'switched') continue;
    const { switchedAt, running } = past;
    if (!switchedAt || switchedAt < since || switchedAt > now) continue;
    if (running !== route.running || !sameSides(past, route)) continue;
    if (!newest || switchedAt > newest.switchedAt!) newest = past;
  }
  if (!newest) return null;
  const { id, guestId, switchedAt, linkBitsPerSecond, copySeconds } = newest;
  return {
    ...{ migrationId: id, at: switchedAt!, linkBitsPerSecond, copySeconds },
    guest: fleet.need('guest', guestId).name,
    method: methodOf(routeOf(fleet, newest)),
    remarks: fleet
      .referring('moveStep', 'migrationId', id)
      .sort((a, b) => a.position - b.position)
      .flatMap(({ title, remark }) => (remark.trim() ? [{ step: title, remark }] : [])),
  };
}
