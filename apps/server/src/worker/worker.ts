/**
 * The one long-lived computation worker. It reads the record itself, follows the log entries it is sent, and answers a
 * job once its replica has reached the job's revision.
 */
import { parentPort, workerData } from 'node:worker_threads';
import type { ReadName } from '@insel/contract';
import { setImmediate } from 'node:timers/promises';
import { GroundMoved, prepareFindings, type Fleet, type LogEntry } from '@insel/core';
import { ProblemException } from '../problem-exception.js';
import { loadSolver } from '../computation/exact.js';
import { EVERY_READ } from '../reads/every-read.js';
import type { Read } from '../reads/read.js';
import { HeapCeiling } from '../record/heap-ceiling.js';
import { loadFleet } from '../record/load.js';
import { OrderCache } from '../views/orders.js';
import { Following } from '../computation/following.js';
import type { AnyJob, FromWorker, Over, ToWorker, WorkerData } from '../computation/jobs.js';
import { answerToChange } from '../changes/long-change.js';

const port = parentPort!;
const say = (message: FromWorker) => port.postMessage(message);

/** Takes a few hundredths of a second. */
const ROWS_AT_ONCE = 300;
const { databaseUrl, heapCeilingMiB, waits } = workerData as WorkerData;
const ceiling = new HeapCeiling(heapCeilingMiB);
const replica = new Following();
const orders = new OrderCache();
let waiting: AnyJob[] = [];
let mayRead = (): void => undefined;
const readAllowed = waits ? new Promise<void>((resolve) => (mayRead = resolve)) : undefined;

port.on('message', (message: ToWorker) => {
  if (message.type === 'read') return mayRead();
  if (message.type === 'entries') follow(message.entries);
  else waiting.push(message);
  work();
});

function follow(entries: readonly LogEntry[]): void {
  replica.hear(entries);
  if (replica.fleet) ceiling.look(replica.fleet);
}

function work(): void {
  const { fleet } = replica;
  if (!fleet) return;
  const ready = waiting.filter((job) => job.revision <= fleet.revision);
  waiting = waiting.filter((job) => job.revision > fleet.revision);
  for (const job of ready) {
    answer(fleet, job).then(
      (found) => say({ type: 'done', id: job.id, answer: found }),
      (error: unknown) => say(failure(job.id, error)),
    );
  }
}

async function answer(fleet: Fleet, job: AnyJob): Promise<unknown> {
  if (job.type === 'change') return answerToChange(fleet, job);
  if (job.type === 'figures') return ceiling.figures(fleet);
  const { name, query, over, then } = job;
  if ([over, then].some((laid) => laid && laid.base !== fleet.revision)) throw new GroundMoved();
  const read = EVERY_READ[name] as Read<ReadName>;
  if (typeof read === 'function' || !('inWorker' in read))
    throw new Error(`${name} is no read of the worker`);
  const asking = {
    ...job.asking,
    ...(then && { then: { fleet: laidOver(fleet, then), now: then.now } }),
  };
  return over
    ? read.inWorker(laidOver(fleet, over), query as never, {
        ...asking,
        orders: new OrderCache(),
      })
    : read.inWorker(fleet, query as never, { ...asking, orders });
}

function laidOver(fleet: Fleet, { patches, revision }: Over): Fleet {
  const would = fleet.overlay(patches);
  would.revision = revision;
  return would;
}

const failure = (id: number, error: unknown): FromWorker =>
  error instanceof GroundMoved
    ? { type: 'moved', id }
    : error instanceof ProblemException
      ? { type: 'refused', id, problem: error.problem }
      : { type: 'failed', id, message: (error as Error).message };

await loadSolver();
await readAllowed;
const { fleet: read } = await loadFleet(databaseUrl);
replica.begin(read);
say({ type: 'ready', revision: read.revision });
work();
// The first look at all findings takes seconds in a large fleet: taken in small steps, between which questions are answered.
while (!prepareFindings(read, new Date().toISOString(), ROWS_AT_ONCE)) await setImmediate();
