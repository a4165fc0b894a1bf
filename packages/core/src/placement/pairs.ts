/**
 * Two hosts at once. Asked of hosts that back each other, since hosts of different groups take no guests from each other;
 * what lies on a pool that both groups reach is asked with the host that holds it. Costs pairs · a failure.
 */
import type { Exactly } from '../packing/index.js';
import type { Fleet, Row } from '../record/index.js';
import { togetherDomain } from './failure.js';
import { failureLine, type ToleranceLine } from './fleet-tolerance.js';

/** In larger groups the pairs are too many to be asked one by one. */
const LARGEST_OF_PAIRS = 60;

export interface PairTolerance {
  /** Pairs that were asked of. */
  pairs: number;
  mayFail: number;
  /** Pairs whose guests do not all find a place, the worst first. */
  mayNot: ToleranceLine[];
  notSettled: ToleranceLine[];
  /** Groups that are too large to be asked. */
  leftOut: string[];
}

/** More than anybody reads. */
const MOST = 300;

/** @param pause called between pairs, so that a worker can hear other questions or stop */
export async function pairTolerance(
  fleet: Fleet,
  pause: () => Promise<boolean> = () => Promise.resolve(true),
  exactly?: Exactly,
): Promise<PairTolerance | null> {
  const found: PairTolerance = { pairs: 0, mayFail: 0, mayNot: [], notSettled: [], leftOut: [] };
  for (const [groupId, hosts] of groupsOf(fleet)) {
    if (hosts.length > LARGEST_OF_PAIRS) {
      found.leftOut.push(fleet.get('hostGroup', groupId)?.name ?? 'hosts of no group');
      continue;
    }
    for (const [i, one] of hosts.entries())
      for (const other of hosts.slice(i + 1)) {
        if (!(await pause())) return null;
        const line = failureLine(fleet, togetherDomain([one, other]), { exactly });
        found.pairs += 1;
        if (line.answer === 'all restart') found.mayFail += 1;
        else (line.answer === 'some do not' ? found.mayNot : found.notSettled).push(line);
      }
  }
  const down = ({ counts }: ToleranceLine) =>
    counts.lost * 1e6 + counts.backup * 1e3 + counts.waits;
  found.mayNot.sort((a, b) => down(b) - down(a) || a.failed.name.localeCompare(b.failed.name));
  found.mayNot.splice(MOST);
  found.notSettled.splice(MOST);
  return found;
}

function groupsOf(fleet: Fleet): Map<string | null, Row<'host'>[]> {
  const groups = new Map<string | null, Row<'host'>[]>();
  for (const host of fleet.all('host')) {
    if (host.state !== 'in service' && host.state !== 'maintenance') continue;
    const held = groups.get(host.groupId);
    if (held) held.push(host);
    else groups.set(host.groupId, [host]);
  }
  return groups;
}
