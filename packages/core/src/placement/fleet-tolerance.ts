/** What may fail of all that could: a line for each host, rack, site, switch and feed. */
import type { Exactly } from '../packing/settle.js';
import type { Fleet } from '../record/fleet.js';
import { type FailureDomain, failureDomain, failureDomains } from './failure.js';
import { fatesOf, type Fates, type Search } from './fates.js';

export interface ToleranceLine {
  failed: Pick<FailureDomain, 'kind' | 'id' | 'name'>;
  answer: Fates['answer'];
  counts: Fates['counts'];
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
  const { kind, id } = domain;
  // What belongs to it is read anew: it alters as well. What is kept is searched for in one way, whoever asks.
  const kept = (name: string, search: Search) =>
    fleet.memo(id, name, () =>
      failureLine(fleet, failureDomain(fleet, kind, id) ?? domain, search),
    );
  const line = kept(`fate of a ${kind}`, {});
  return line.answer === 'not settled' && exactly
    ? kept(`fate of a ${kind}, by a solver`, { exactly })
    : line;
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
