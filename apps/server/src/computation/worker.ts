/**
 * The one long-lived computation worker. It reads the record itself, follows the log entries it is sent, and answers a
 * job once its replica has reached the job's revision.
 */
import { parentPort, workerData } from 'node:worker_threads';
import {
  allFindings,
  failureDomains,
  failureOutcome,
  tolerance,
  upcast,
  type Fleet,
  type LogEntry,
  type Tolerance,
} from '@insel/core';
import { loadFleet } from '../record/load.js';
import { contextAt } from '../record/context.js';
import { sizeAnswer } from '../views/sizing.js';
import { startOrderView } from '../views/starts.js';
import { patchTable } from '../views/wiring.js';
import { matrixView, reachAnswer } from './reach.js';
import type { FromWorker, Job, Jobs, ToWorker } from './jobs.js';

const port = parentPort!;
const say = (message: FromWorker) => port.postMessage(message);

const replica: { fleet?: Fleet } = {};
const early: LogEntry[] = [];
let waiting: Job[] = [];
let kept: { key: string; output: Jobs['findings']['output'] } | undefined;

port.on('message', (message: ToWorker) => {
  if (message.type === 'entries') {
    if (replica.fleet) follow(message.entries);
    else early.push(...message.entries);
  } else waiting.push(message);
  work();
});

function follow(entries: readonly LogEntry[]): void {
  for (const entry of entries)
    if (entry.revision === replica.fleet!.revision + 1)
      replica.fleet!.apply(upcast(entry), entry.revision);
}

function work(): void {
  const { fleet } = replica;
  if (!fleet) return;
  const ready = waiting.filter((job) => job.revision <= fleet.revision);
  waiting = waiting.filter((job) => job.revision > fleet.revision);
  for (const job of ready) {
    answer(fleet, job).then(
      (output) => say({ type: 'done', id: job.id, output }),
      (error: Error) => say({ type: 'failed', id: job.id, message: error.message }),
    );
  }
}

async function answer(fleet: Fleet, job: Job): Promise<Jobs[Job['name']]['output']> {
  switch (job.name) {
    case 'findings':
      return findings(fleet, job.input);
    case 'tolerance':
      return toleranceNow(fleet, job.input.now);
    case 'reach':
      return reachAnswer(fleet, job.input);
    case 'matrix':
      return matrixView(fleet, job.input.ids);
    case 'patchTable':
      return patchTable(fleet, job.input);
    case 'sizeGuest':
      return sizeAnswer(
        fleet,
        job.input.body,
        contextAt(job.input.now, { id: 'sizing', name: 'sizing', role: 'planner' }),
      );
    case 'startOrder':
      return startOrderView(fleet);
    case 'failure': {
      const domain = failureDomains(fleet).find(
        ({ kind, id }) => kind === job.input.kind && id === job.input.id,
      );
      return domain ? failureOutcome(fleet, domain, job.input.now) : null;
    }
  }
}

let settled: { key: string; answer: Promise<Tolerance> } | undefined;

/** Taken up again from the beginning when the record alters meanwhile; other questions are heard between two failures. */
function toleranceNow(fleet: Fleet, now: string): Promise<Tolerance> {
  const key = `${fleet.revision}|${now.slice(0, 13)}`;
  if (settled?.key !== key) settled = { key, answer: untilSettled(fleet, now) };
  return settled.answer;
}

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

function findings(
  fleet: Fleet,
  { now, most }: Jobs['findings']['input'],
): Jobs['findings']['output'] {
  const key = `${fleet.revision}|${now.slice(0, 10)}|${most}`;
  if (kept?.key === key) return kept.output;
  const all = allFindings(fleet, now);
  const counts = { blocker: 0, caution: 0, note: 0 };
  for (const finding of all) if (!finding.accepted) counts[finding.severity] += 1;
  kept = { key, output: { findings: all.slice(0, most), counts } };
  return kept.output;
}

replica.fleet = await loadFleet((workerData as { databaseUrl: string }).databaseUrl);
follow(early.splice(0));
say({ type: 'ready', revision: replica.fleet.revision });
work();
