/** How long changes waited for their turn and took to decide, by type, since the process began; in milliseconds. */
import type { ChangeTimes, Spread } from '@insel/contract';
import { Injectable } from '@nestjs/common';
import { createHistogram, type RecordableHistogram } from 'node:perf_hooks';

interface Times {
  /** In microseconds, as a histogram takes whole numbers from 1. */
  waited: RecordableHistogram;
  decided: RecordableHistogram;
}

@Injectable()
export class WriteTimes {
  private readonly byType = new Map<string, Times>();

  /** @param ms until the revision was locked, the queue of this process included */
  waited(type: string, ms: number): void {
    this.timesOf(type).waited.record(microseconds(ms));
  }

  decided(type: string, ms: number): void {
    this.timesOf(type).decided.record(microseconds(ms));
  }

  /** Those whose turn came most often first. */
  all(): ChangeTimes[] {
    return [...this.byType]
      .map(([type, { waited, decided }]) => ({
        type,
        times: waited.count,
        waited: spreadOf(waited),
        decided: spreadOf(decided),
      }))
      .sort((a, b) => b.times - a.times || a.type.localeCompare(b.type));
  }

  private timesOf(type: string): Times {
    let times = this.byType.get(type);
    if (!times)
      this.byType.set(type, (times = { waited: createHistogram(), decided: createHistogram() }));
    return times;
  }
}

const microseconds = (ms: number): number => Math.max(1, Math.round(ms * 1000));

/** Null where nothing was measured. */
const spreadOf = (histogram: RecordableHistogram): Spread | null =>
  histogram.count === 0
    ? null
    : {
        median: histogram.percentile(50) / 1000,
        p95: histogram.percentile(95) / 1000,
        most: histogram.max / 1000,
      };
