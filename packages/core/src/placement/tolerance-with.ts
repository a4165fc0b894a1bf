/**
 * What guests that are planned do to tolerance: which hosts may fail now, and which may once the new guests serve. Asked of
 * the hosts they come to, then of the others at the same sites, up to a bound; how many were asked is said. Its cost grows
 * with the hosts asked and the guests on them.
 */
import type { Fleet, Patch } from '../record/index.js';
import { hostDomains, type FailureDomain } from './failure.js';
import { failureFates, type ToleranceLine } from './fleet-tolerance.js';

/** Hosts asked of at most: a form answers while it is typed. */
const MOST_ASKED = 40;

export interface ToleranceMoved {
  /** Hosts that were asked of, of how many at these sites. */
  tried: number;
  of: number;
  /** How many of those asked may fail, with all their guests up again. */
  before: number;
  after: number;
  /** Hosts that may fail now and may not then, or lose more guests than now. */
  worse: {
    id: string;
    name: string;
    answer: ToleranceLine['answer'];
    down: number;
    downNow: number;
    of: number;
  }[];
}

/**
 * @param patches what makes the guests; they count as serving, since nothing restarts what does not run
 * @returns null where no guest is made
 */
export function toleranceMoved(fleet: Fleet, patches: readonly Patch[]): ToleranceMoved | null {
  const hostIds = new Set(
    patches.flatMap((patch) =>
      patch.op === 'create' && patch.kind === 'guest' ? [String(patch.after.hostId)] : [],
    ),
  );
  if (hostIds.size === 0) return null;
  const siteIds = new Set([...hostIds].map((id) => fleet.need('host', id).siteId));
  const atTheseSites = [...fleet.all('host')].filter(({ siteId }) => siteIds.has(siteId));
  const near = hostDomains(
    fleet,
    atTheseSites.map(({ id }) => id),
  );
  const tried = [
    ...near.filter(({ id }) => hostIds.has(id)),
    ...near.filter(({ id }) => !hostIds.has(id)),
  ].slice(0, MOST_ASKED);
  const before = tried.map((domain) => failureFates(fleet, domain));
  const would = fleet.overlay(serving(patches));
  const after = tried.map((domain) => failureFates(would, domain));
  return {
    tried: tried.length,
    of: near.length,
    before: before.filter(({ answer }) => answer === 'all restart').length,
    after: after.filter(({ answer }) => answer === 'all restart').length,
    worse: tried.flatMap((domain, i) => worse(domain, before[i]!, after[i]!)),
  };
}

const serving = (patches: readonly Patch[]): Patch[] =>
  patches.map((patch) =>
    patch.op === 'create' && patch.kind === 'guest'
      ? { ...patch, after: { ...patch.after, state: 'in service' } }
      : patch,
  );

function worse(
  { id, name }: FailureDomain,
  before: ToleranceLine,
  after: ToleranceLine,
): ToleranceMoved['worse'] {
  const down = ({ counts }: ToleranceLine) => counts.waits + counts.backup + counts.lost;
  if (before.answer === after.answer && down(after) <= down(before)) return [];
  const of = Object.values(after.counts).reduce((sum, count) => sum + count, 0);
  return [{ id, name, answer: after.answer, down: down(after), downNow: down(before), of }];
}
