/** The main thread's side of the computation worker: starts it, feeds it, asks it. */
import { Worker } from 'node:worker_threads';
import type { Preview, ReadName, ThreadFigures } from '@insel/contract';
import { GroundMoved, type Change, type Context } from '@insel/core';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { CONFIG, type Config } from '../config.js';
import { ProblemException } from '../problem-exception.js';
import { safeText } from '../logging/safe-text.js';
import { FleetKeeper } from '../record/keeper.js';
import type { AnyJob, FromWorker, Job, ToWorker, WorkerData } from './jobs.js';
import type { Decided } from '../changes/long-change.js';

type WithoutId<J> = J extends AnyJob ? Omit<J, 'id' | 'revision'> : never;

/** A worker that ended is begun anew after so long. */
const RESTART_MS = 500;

@Injectable()
export class Computation implements OnApplicationShutdown {
  private worker: Worker | undefined;
  /** Asked while there is no worker. */
  private readonly waiting: ToWorker[] = [];
  private next = 1;
  private readonly open = new Map<
    number,
    { resolve: (answer: unknown) => void; reject: (error: Error) => void }
  >();
  private readonly logger = new Logger('computation');
  private stopping = false;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly keeper: FleetKeeper,
  ) {}

  /** @param waits it reads the record only when it is told to */
  start(waits = false): void {
    const worker = new Worker(new URL('../worker/worker.js', import.meta.url), {
      workerData: {
        databaseUrl: this.config.databaseUrl,
        heapCeilingMiB: this.config.heapCeilingMiB,
        waits,
      } satisfies WorkerData,
    });
    const stopFollowing = this.keeper.follow((entries) => this.say({ type: 'entries', entries }));
    worker.on('message', (message: FromWorker) => this.hear(message));
    worker.on('error', (error) => {
      // A record that cannot be read is told by whoever reads it for the process.
      if (this.keeper.state().state !== 'loading') this.logger.error(safeText(error));
    });
    worker.on('exit', () => {
      stopFollowing();
      for (const job of this.open.values()) job.reject(new Error('the computation worker ended'));
      this.open.clear();
      this.worker = undefined;
      if (!this.stopping) setTimeout(() => this.start(), RESTART_MS);
    });
    const stopRereading = this.keeper.onReread(() => void worker.terminate());
    worker.on('exit', stopRereading);
    this.worker = worker;
    for (const job of this.waiting.splice(0)) this.say(job);
  }

  /**
   * Asks the worker; the answer holds for the fleet at this process's revision or later.
   * @throws GroundMoved where the fleet under an overlay has altered meanwhile
   */
  ask(
    name: ReadName,
    query: object,
    asking: Job['asking'],
    laid: Pick<Job, 'over' | 'then'> = {},
  ): Promise<unknown> {
    return this.send({ type: 'job', name, query, asking, ...laid });
  }

  /** What waits reads the record now. */
  read(): void {
    this.say({ type: 'read' });
  }

  get running(): boolean {
    return this.worker !== undefined;
  }

  /** Decides a change that takes long, on a fleet of this process's revision or later. */
  decide(change: Change, { now, actor }: Pick<Context, 'now' | 'actor'>): Promise<Decided> {
    return this.send({ type: 'change', what: 'decide', change, now, actor }) as Promise<Decided>;
  }

  preview(change: Change, { now, actor }: Pick<Context, 'now' | 'actor'>): Promise<Preview> {
    return this.send({ type: 'change', what: 'preview', change, now, actor }) as Promise<Preview>;
  }

  /** What the worker keeps itself. */
  figures(): Promise<ThreadFigures> {
    return this.send({ type: 'figures' }) as Promise<ThreadFigures>;
  }

  private send(job: WithoutId<AnyJob>): Promise<unknown> {
    const id = (this.next += 1);
    return new Promise((resolve, reject) => {
      this.open.set(id, { resolve, reject });
      this.say({ ...job, id, revision: this.keeper.fleet.revision } as AnyJob);
    });
  }

  private say(message: ToWorker): void {
    if (this.worker) this.worker.postMessage(message);
    else if (message.type !== 'entries' && message.type !== 'read') this.waiting.push(message);
  }

  private hear(message: FromWorker): void {
    if (message.type === 'ready') return void this.tellMissed(message.revision);
    const job = this.open.get(message.id);
    this.open.delete(message.id);
    if (message.type === 'done') job?.resolve(message.answer);
    else if (message.type === 'moved') job?.reject(new GroundMoved());
    else if (message.type === 'refused')
      job?.reject(new ProblemException(message.problem.status, message.problem));
    else job?.reject(new Error(message.message));
  }

  /** The worker has read the record as of a revision: what came before it listened it has not heard of. */
  private async tellMissed(revision: number): Promise<void> {
    try {
      await this.keeper.loaded;
      const entries = await this.keeper.entriesSince(revision);
      if (entries.length > 0) this.say({ type: 'entries', entries });
    } catch (error) {
      // Begun anew it reads all of it.
      this.logger.error(safeText(error));
      await this.worker?.terminate();
    }
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopping = true;
    await this.worker?.terminate();
  }
}
