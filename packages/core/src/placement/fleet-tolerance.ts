/** What may fail of all that could: a line for each host, rack, site, switch and feed. */
import type { Exactly } from '../packing/index.js';
import type { Fleet } from '../record/index.js';
import {
  failureDomain,
  failureDomains,
  hostsConcerned,
  takenBy,
  type FailureDomain,
} from './failure.js';
import {
  answerOf,
  fallingOn,
  fateOf,
  fatesOf,
  noneOf,
  packThem,
  WAYS,
  type Falling,
  type Outcome,
  type Search,
  type Way,
} from './fates.js';
import { packedTogether } from './packed-together.js';

export interface ToleranceLine extends Outcome {
  failed: Pick<FailureDomain, 'kind' | 'id' | 'name'>;
}

export interface Tolerance {
  hosts: ToleranceLine[];
  racks: ToleranceLine[];
  sites: ToleranceLine[];
  switches: ToleranceLine[];
  feeds: ToleranceLine[];
}

/** The answer without what stays free afterwards, nor how old copies are: kept until what it was computed from alters. */
export function failureFates(
  fleet: Fleet,
  domain: FailureDomain,
  exactly?: Exactly,
): ToleranceLine {
  const { kind, id, name } = domain;
  // What is kept is searched for in one way, whoever asks.
  const kept = (by: string, solver?: Exactly) =>
    fleet.memo(id, `fate of a ${kind}${by}`, () => keptOutcome(fleet, domain, solver));
  let found = kept('');
  if (found.answer === 'not settled' && exactly) found = kept(BY_SOLVER, exactly);
  return { failed: { kind, id, name }, ...found };
}

const BY_SOLVER = ', by a solver';

/**
 * The sum of what is kept of each host and each lot that is packed together: after a change only the hosts and lots that it
 * alters are looked at again, however many guests a site has.
 */
function keptOutcome(fleet: Fleet, domain: FailureDomain, exactly?: Exactly): Outcome {
  const key = `${domain.kind} ${domain.id}`;
  const taken = () =>
    fleet.memo(key, 'taken by a failure', () =>
      // What belongs to it is read anew: it alters as well.
      takenBy(fleet, failureDomain(fleet, domain.kind, domain.id) ?? domain),
    );
  const fallingOf = (hostId: string): FallingKept =>
    fleet.memo(`${key} ${hostId}`, 'guests that fall', () => {
      const { stuck, ...falling } = fallingOn(fleet, taken(), hostId);
      const counts = noneOf();
      for (const one of stuck) counts[fateOf(fleet, one, null, taken()).way] += 1;
      return { ...falling, counts, stuck: stuck.length > 0 };
    });
  const packed = (hostIds: readonly string[], by: string, solver?: Exactly) =>
    fleet.memo(`${key} ${hostIds.join()}`, `who finds room${by}`, () => {
      const together = hostIds.flatMap((id) => fallingOf(id).movable);
      const packing = packThem(fleet, together, taken().fallen, { exactly: solver });
      const counts = noneOf();
      for (const one of together) counts[fateOf(fleet, one, packing, taken()).way] += 1;
      return { answer: packing.answer, counts };
    });
  const falling = [...hostsConcerned(fleet, taken())].map(fallingOf);
  const packings = packedTogether(falling).map((together) => {
    const hostIds = together.map(({ hostId }) => hostId).sort();
    const found = packed(hostIds, '');
    return found.answer === 'not settled' && exactly ? packed(hostIds, BY_SOLVER, exactly) : found;
  });
  const counts = noneOf();
  for (const one of [...falling, ...packings])
    for (const way of WAYS) counts[way] += one.counts[way];
  const stuck = falling.some((one) => one.stuck);
  return { counts, answer: answerOf(counts, stuck, packings) };
}

/** What is kept of the guests of one host: those who may go somewhere, and what becomes of the others. */
interface FallingKept extends Omit<Falling, 'stuck'> {
  counts: Record<Way, number>;
  stuck: boolean;
}

/** The same, kept by nobody. */
export function failureLine(
  fleet: Fleet,
  domain: FailureDomain,
  search: Search = {},
): ToleranceLine {
  const { kind, id, name } = domain;
  const { answer, counts } = fatesOf(fleet, domain, search);
  return { failed: { kind, id, name }, answer, counts };
}

/** The answer for every host, rack and site. @param pause called between failures, so that a worker can hear other questions or stop */
export async function tolerance(
  fleet: Fleet,
  pause: () => Promise<boolean> = () => Promise.resolve(true),
  exactly?: Exactly,
): Promise<Tolerance | null> {
  const found: Tolerance = { hosts: [], racks: [], sites: [], switches: [], feeds: [] };
  const of = {
    host: 'hosts',
    rack: 'racks',
    site: 'sites',
    switch: 'switches',
    feed: 'feeds',
  } as const;
  for (const domain of failureDomains(fleet)) {
    if (domain.kind === 'hosts') continue;
    if (!(await pause())) return null;
    found[of[domain.kind]].push(failureFates(fleet, domain, exactly));
  }
  return found;
}
