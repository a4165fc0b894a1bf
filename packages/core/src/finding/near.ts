/** Findings at the records that a change alters or names: few enough to be asked for while somebody types. */
import type { Fleet, Patch } from '../record/index.js';
import type { Finding } from './finding.js';
import { allFindingsAt, asksHeavy } from './registry.js';

/** @param heavy whether to ask rules that look at the whole fleet */
export function findingsNear(
  fleet: Fleet,
  patches: readonly Patch[],
  now: string,
  heavy = true,
): Finding[] {
  const near = new Set<string>();
  for (const patch of patches) {
    near.add(patch.id);
    for (const values of [
      patch.op === 'create' ? {} : patch.before,
      patch.op === 'delete' ? {} : patch.after,
    ]) {
      for (const value of Object.values(values))
        if (typeof value === 'string' && value.length === 36) near.add(value);
    }
  }
  return allFindingsAt(fleet, near, now, heavy);
}

/** Blockers that these patches bring there; in a large fleet those of rules that look at one record. */
export function blockersAppearing(fleet: Fleet, patches: readonly Patch[], now: string): Finding[] {
  const heavy = asksHeavy(fleet);
  const before = new Set(findingsNear(fleet, patches, now, heavy).map(({ id }) => id));
  return findingsNear(fleet.overlay(patches), patches, now, heavy).filter(
    ({ id, severity, accepted }) => severity === 'blocker' && !accepted && !before.has(id),
  );
}
