/**
 * The one long-lived computation worker. It reads the record itself, follows the log entries it is sent, and answers a
 * job once its replica has reached the job's revision.
 */
import { parentPort, workerData } from 'node:worker_threads';
import { allFindings, upcast, type Fleet, type LogEntry } from '@insel/core';
import { loadFleet } from '../record/load.js';
import type { FromWorker, Jobs, ToWorker } from './jobs.js';

const port = parentPort!;
const say = (message: FromWorker) => port.postMessage(message);

const replica: { fleet?: Fleet } = {};
const early: LogEntry[] = [];
let waiting: Extract<ToWorker, { type: 'job' }>[] = [];
let kept: { key: string; output: Jobs['findings']['output'] } | undefined;

port.on('message', (message: ToWorker) => {
  if (message.type === 'entries') {
    if (replica.fleet) follow(message.entries);
    else early.push(...message.entries);
  } else waiting.push(message);
  work();
});

function follow(entries: readonly LogEntry[]): void {
  for (const entry of entries) if (entry.revision === replica.fleet!.revision + 1) replica.fleet!.apply(upcast(entry), entry.revision);
}

function work(): void {
  const { fleet } = replica;
  if (!fleet) return;
  const ready = waiting.filter((job) => job.revision <= fleet.revision);
  waiting = waiting.filter((job) => job.revision > fleet.revision);
  for (const job of ready) {
    try {
      say({ type: 'done', id: job.id, output: findings(fleet, job.input) });
    } catch (error) {
      say({ type: 'failed', id: job.id, message: (error as Error).message });
    }
  }
}

function findings(fleet: Fleet, { now, most }: Jobs['findings']['input']): Jobs['findings']['output'] {
  const key = `${fleet.revision}|${now.slice(0, 10)}|${most}`;
  if (kept?.key === key) return kept.output;
  const all = allFindings(fleet, now);
  const counts = { blocker: 0, caution: 0, note: 0 };
  for (const finding of all) counts[finding.severity] += 1;
  kept = { key, output: { findings: all.slice(0, most), counts } };
  return kept.output;
}

replica.fleet = await loadFleet((workerData as { databaseUrl: string }).databaseUrl);
follow(early.splice(0));
say({ type: 'ready', revision: replica.fleet.revision });
work();
