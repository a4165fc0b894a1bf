/** Questions about the whole fleet: the chart, the waterline, findings, what may fail, the order of starting, search. */
import type { ReadAnswer, ReadQuery } from '@insel/contract';
import {
  allFindings,
  failureDomain,
  failureOutcome,
  pairTolerance,
  restartOrder,
  tolerance,
  waterline,
  type Finding,
  type Fleet,
  type Tolerance,
} from '@insel/core';
import { exactly } from '../computation/exact.js';
import { notFound } from '../problem-exception.js';
import { chartView } from '../views/chart.js';
import { searchHits } from '../views/search.js';
import { shutDownView } from '../views/shut-down.js';
import { serviceViews, startOrderView } from '../views/starts.js';
import type { Asking, Reads } from './read.js';

/** A list of more findings than this is no list any more. */
const MOST_FINDINGS = 500;
/** More names than anybody reads on a waterline. */
const MOST_NAMED = 20;

export const WHOLE_FLEET_READS: Reads<
  | 'chart'
  | 'tolerance'
  | 'toleranceCounts'
  | 'pairs'
  | 'failure'
  | 'waterline'
  | 'findings'
  | 'search'
  | 'startOrder'
  | 'shutDown'
  | 'services'
> = {
  chart: (fleet, query, { now }) => chartView(fleet, query, now),

  tolerance: { inWorker: (fleet) => toleranceAt(fleet) },

  toleranceCounts: {
    async inWorker(fleet) {
      const { hosts } = await toleranceAt(fleet);
      const mayNot = hosts.filter(({ answer }) => answer === 'some do not');
      return {
        hosts: hosts.length,
        mayNot: mayNot.length,
        notSettled: hosts.filter(({ answer }) => answer === 'not settled').length,
        first: mayNot.slice(0, MOST_NAMED).map(({ failed: { id, name } }) => ({ id, name })),
      };
    },
  },

  /** Every two hosts of a group at once. */
  pairs: {
    inWorker: (fleet) => untilSettled(fleet, (pause) => pairTolerance(fleet, pause, exactly())),
  },

  /** What happens to each guest when this host, rack, site or switch fails, or these hosts at once. */
  failure: {
    inWorker(fleet, { kind, id }, { now }) {
      const domain = failureDomain(fleet, kind, id);
      if (!domain) throw notFound(`${kind}, as something that can fail,`);
      const outcome = failureOutcome(fleet, domain, now, { exactly: exactly() });
      const { restart, replica } = outcome.counts;
      return {
        ...outcome,
        comesUp: restart + replica > 0 ? restartOrder(fleet, outcome.guests) : null,
      };
    },
  },

  waterline: (fleet) => ({ revision: fleet.revision, levels: waterline(fleet), findings: null }),

  findings: { inWorker: (fleet, query, { now, then }) => findingsThat(fleet, query, now, then) },

  search: (fleet, { q }) => searchHits(fleet, q),

  startOrder: { inWorker: (fleet) => startOrderView(fleet) },
  shutDown: { inWorker: shutDownView },

  services: (fleet, _, { now }) => serviceViews(fleet, now),
};

/** The answer over the whole fleet is kept while it stays the same. */
const settled = new WeakMap<Fleet, { revision: number; answer: Promise<Tolerance> }>();

function toleranceAt(fleet: Fleet): Promise<Tolerance> {
  const { revision } = fleet;
  const held = settled.get(fleet);
  if (held?.revision === revision) return held.answer;
  const answer = untilSettled(fleet, (pause) => tolerance(fleet, pause, exactly()));
  settled.set(fleet, { revision, answer });
  return answer;
}

/** Attempts that leave room for other questions; the next one goes through, so that a busy record starves nobody. */
const POLITE = 3;

/**
 * Taken up again when the record alters meanwhile: what was found of a failure is kept until something alters that it was
 * computed from. Other questions are heard between two failures.
 */
async function untilSettled<T>(
  fleet: Fleet,
  ask: (pause: () => Promise<boolean>) => Promise<T | null>,
): Promise<T> {
  for (let attempt = 0; ; attempt += 1) {
    const { revision } = fleet;
    const politely = () =>
      new Promise<boolean>((resolve) => setImmediate(() => resolve(fleet.revision === revision)));
    const found = await ask(
      attempt < POLITE ? politely : () => Promise.resolve(fleet.revision === revision),
    );
    if (found) return found;
  }
}

/** All findings of a fleet on a day, with what is counted over them. */
interface AllFindings extends Omit<ReadAnswer<'findings'>, 'matching'> {
  key: string;
}
const kept = new WeakMap<Fleet, AllFindings>();

function findingsOn(fleet: Fleet, now: string): AllFindings {
  // To the minute: rules note themselves when time alters what they say.
  const key = `${fleet.revision}|${now.slice(0, 16)}`;
  const held = kept.get(fleet);
  if (held?.key === key) return held;
  const findings = allFindings(fleet, now);
  const counts = { blocker: 0, caution: 0, note: 0 };
  for (const finding of findings) if (!finding.accepted) counts[finding.severity] += 1;
  const distinct = (of: (finding: Finding) => string) => [...new Set(findings.map(of))].sort();
  const all = {
    key,
    findings,
    counts,
    kinds: distinct(({ about }) => about.kind),
    rules: distinct(({ rule }) => rule),
    owners: distinct((finding) => ownerOf(fleet, finding)).filter(Boolean),
    sites: distinct((finding) => siteOf(fleet, finding)).filter(Boolean),
  };
  kept.set(fleet, all);
  return all;
}

/** Who looks after what a finding is about; empty where nobody is named. */
function ownerOf(fleet: Fleet, { about }: Finding): string {
  if (about.kind === 'migration') {
    const { guestId } = fleet.need('migration', about.id);
    return fleet.need('guest', guestId).owner;
  }
  const row = fleet.get(about.kind, about.id);
  return row && 'confirmedBy' in row && 'owner' in row ? String(row.owner) : '';
}

/** Name of the site that a host stands in, or the host of a guest; empty for what stands nowhere. */
function siteOf(fleet: Fleet, { about }: Finding): string {
  const hostId =
    about.kind === 'host'
      ? about.id
      : about.kind === 'guest'
        ? fleet.get('guest', about.id)?.hostId
        : null;
  const host = fleet.get('host', hostId);
  return fleet.get('site', host?.siteId)?.name ?? '';
}

function findingsThat(
  fleet: Fleet,
  { severity, kind, rule, owner, site, q }: ReadQuery<'findings'>,
  now: string,
  then: Asking['then'],
): ReadAnswer<'findings'> {
  const { key: _, findings, ...all } = findingsOn(fleet, now);
  const words = q?.trim().toLowerCase();
  const known = new Set(then && allFindings(then.fleet, then.now).map(({ id }) => id));
  const matching = findings.filter(
    (finding) =>
      !known.has(finding.id) &&
      (!severity || finding.severity === severity) &&
      (!kind || finding.about.kind === kind) &&
      (!rule || finding.rule === rule) &&
      (!owner || ownerOf(fleet, finding) === owner) &&
      (!site || siteOf(fleet, finding) === site) &&
      (!words || `${finding.about.name} ${finding.evidence}`.toLowerCase().includes(words)),
  );
  return { ...all, findings: matching.slice(0, MOST_FINDINGS), matching: matching.length };
}
