/** The fleet as it was: an overlay of what the entries since then take back (design 2, section 5). */
import type { Fleet } from './fleet.js';
import { upcast, type LogEntry } from './log.js';
import type { Patch } from './patch.js';

/**
 * @param since entries after that revision, newest first, down to the next one
 * @throws Error if they do not reach down to it
 */
export function fleetAsOf(
  fleet: Fleet,
  revision: number,
  since: readonly LogEntry[],
): { was: Fleet; patches: Patch[] } {
  if (since.length !== fleet.revision - revision)
    throw new Error(`${since.length} entries do not lead from ${fleet.revision} to ${revision}`);
  const patches = since.flatMap((entry) => [...upcast(entry)].reverse().map(turnedRound));
  const was = fleet.overlay(patches);
  was.revision = revision;
  return { was, patches };
}

/** The patch that takes another one back. */
export function turnedRound(patch: Patch): Patch {
  const { kind, id } = patch;
  switch (patch.op) {
    case 'create':
      return { op: 'delete', kind, id, seen: 0, before: patch.after };
    case 'delete':
      return { op: 'create', kind, id, after: patch.before };
    case 'update':
      return { op: 'update', kind, id, seen: 0, before: patch.after, after: patch.before };
  }
}
