/** Questions about the whole fleet: the chart, the waterline, findings, what may fail, the order of starting, search. */
import type { ReadAnswer } from '@insel/contract';
import {
  allFindings,
  failureDomains,
  failureOutcome,
  tolerance,
  waterline,
  type Fleet,
  type Tolerance,
} from '@insel/core';
import { notFound } from '../http/problem-exception.js';
import { chartView } from '../views/chart.js';
import { searchHits } from '../views/search.js';
import { serviceViews, startOrderView } from '../views/starts.js';
import type { Reads } from './read.js';

/** A list of more findings than this is no list any more. */
const MOST_FINDINGS = 500;
/** More names than anybody reads on a waterline. */
const MOST_LINES = 200;

export const WHOLE_FLEET_READS: Reads<
  | 'chart'
  | 'tolerance'
  | 'failure'
  | 'waterline'
  | 'findings'
  | 'search'
  | 'startOrder'
  | 'services'
> = {
  chart: (fleet, query, { now }) => chartView(fleet, query, now),

  tolerance: {
    async inWorker(fleet, _, { now }) {
      const found = await toleranceAt(fleet, now);
      const line = {
        mayFail: found.hosts.filter(({ answer }) => answer === 'all restart').length,
        mayNot: found.hosts.filter(({ answer }) => answer === 'some do not').slice(0, MOST_LINES),
        notSettled: found.hosts
          .filter(({ answer }) => answer === 'not settled')
          .slice(0, MOST_LINES),
      };
      return { tolerance: found, line };
    },
  },

  /** What happens to each guest when this host, rack or site fails. */
  failure: {
    inWorker(fleet, { kind, id }, { now }) {
      const domain = failureDomains(fleet).find((one) => one.kind === kind && one.id === id);
      if (!domain) throw notFound(`${kind}, as something that can fail,`);
      return failureOutcome(fleet, domain, now);
    },
  },

  waterline: (fleet) => ({ revision: fleet.revision, levels: waterline(fleet), findings: null }),

  findings: { inWorker: (fleet, _, { now }) => findingsOf(fleet, now) },

  search: (fleet, { q }) => searchHits(fleet, q),

  startOrder: { inWorker: (fleet) => startOrderView(fleet) },

  services: (fleet, _, { now }) => serviceViews(fleet, now),
};

/** Answers over the whole fleet are kept while it and the hour stay the same. */
const settled = new WeakMap<Fleet, { key: string; answer: Promise<Tolerance> }>();

function toleranceAt(fleet: Fleet, now: string): Promise<Tolerance> {
  const key = `${fleet.revision}|${now.slice(0, 13)}`;
  const held = settled.get(fleet);
  if (held?.key === key) return held.answer;
  const answer = untilSettled(fleet, now);
  settled.set(fleet, { key, answer });
  return answer;
}

/** Taken up again from the beginning when the record alters meanwhile; other questions are heard between two failures. */
async function untilSettled(fleet: Fleet, now: string): Promise<Tolerance> {
  for (;;) {
    const { revision } = fleet;
    const found = await tolerance(
      fleet,
      now,
      () => new Promise((resolve) => setImmediate(() => resolve(fleet.revision === revision))),
    );
    if (found) return found;
  }
}

const kept = new WeakMap<Fleet, { key: string; answer: ReadAnswer<'findings'> }>();

function findingsOf(fleet: Fleet, now: string): ReadAnswer<'findings'> {
  const key = `${fleet.revision}|${now.slice(0, 10)}`;
  const held = kept.get(fleet);
  if (held?.key === key) return held.answer;
  const all = allFindings(fleet, now);
  const counts = { blocker: 0, caution: 0, note: 0 };
  for (const finding of all) if (!finding.accepted) counts[finding.severity] += 1;
  const answer = { findings: all.slice(0, MOST_FINDINGS), counts };
  kept.set(fleet, { key, answer });
  return answer;
}
