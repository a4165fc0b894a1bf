/**
 * A routine move accepts itself a day after the switch, unless a step failed, something it prints is not as it was, or a
 * blocker stands at it. Routine: between hosts of one
 * platform, or of storage alone. Common practice, no source.
 */
import type { Fleet, Row } from '../record/index.js';
import { compareReadings, type MoveKind, kindOfMove, readingsOf } from '../migration/index.js';
import { findingsOn } from './about.js';

const DAY_MS = 86_400_000;
const ROUTINE = new Set<MoveKind>(['between hosts', 'storage only']);

export interface AcceptsItself {
  /** When it does, if nothing stands against it then. */
  at: string;
  /** What stands against it now; empty: nothing. */
  against: string[];
}

/** @returns null for a move that a named user accepts, or that waits for no acceptance */
export function acceptsItself(
  fleet: Fleet,
  migration: Row<'migration'>,
  now: string,
): AcceptsItself | null {
  const { state, switchedAt, guestId, id } = migration;
  if (state !== 'switched' || !switchedAt) return null;
  if (!ROUTINE.has(kindOfMove(fleet, migration))) return null;
  const paused = migration.pausedAt ? [`paused: ${migration.pausedWhy}`] : [];
  const failed = fleet
    .referring('moveStep', 'migrationId', id)
    .filter((step) => step.state === 'failed')
    .map(({ title }) => `failed: ${title}`);
  // A caution may have stood there for a year; what a move breaks is a blocker, or is not as it was.
  const found = findingsOn(fleet, 'guest', guestId, now)
    .filter(({ severity }) => severity === 'blocker')
    .map(({ evidence }) => evidence);
  const [before] = readingsOf(fleet, id, 'before');
  const [after] = readingsOf(fleet, id, 'after');
  const altered = compareReadings(fleet, migration, before?.lines ?? [], after?.lines ?? [])
    .filter(({ holds }) => after && holds === false)
    .map(({ what, sentence }) => `${what}: ${sentence}`);
  return {
    at: new Date(Date.parse(switchedAt) + DAY_MS).toISOString(),
    against: [...paused, ...failed, ...altered, ...found],
  };
}

/** Migrations whose time has come. Its cost grows with the moves that wait for acceptance. */
export const acceptingThemselves = (fleet: Fleet, now: string): Row<'migration'>[] =>
  [...fleet.all('migration')].filter((migration) => {
    const itself = acceptsItself(fleet, migration, now);
    return itself !== null && itself.at <= now && itself.against.length === 0;
  });
