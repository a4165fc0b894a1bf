/**
 * What is computed from the rows of a fleet and kept until something alters that it was computed from; of an overlay, what the
 * fleet under it keeps, where it holds there as well.
 */
import type { Fleet } from './fleet.js';
import { FEW, Mended, type Mend } from './mended.js';
import { Family, Memo, Watch, type WokenBy } from './memos.js';
import { RowReader } from './row-reader.js';
import type { Store } from './store.js';
import type { Altered, Tracks } from './tracking.js';

/** Place of the value kept for the whole fleet among those kept for its records. */
const WHOLE = '';
/** Name of the answers that were given and are watched. */
const ANSWERS = 'answers given';
/** What each takes in Node 20, measured with 50,000 of them (docs/performance.md). */
const BYTES = { kept: 182, key: 32, edge: 18 };

/** Of an overlay: what it alters, and which values of the fleet under it do therefore not hold. */
export interface Over {
  /** The fleet that all of it lies on, and its revision. */
  ground: Fleet;
  revision: number;
  altered: Altered[];
  stale: Set<Memo>;
  /** How much was computed on the ground when that was found. */
  asOf: number;
}

/** Values of one name that are kept, since the process began. */
export interface KeptValues {
  name: string;
  kept: number;
  uses: number;
  made: number;
  wokenBy: { by: WokenBy; times: number }[];
}

/** An overlay was asked after the fleet under it had altered: it has to be made anew. */
export class GroundMoved extends Error {
  constructor() {
    super('the fleet under an overlay has altered');
  }
}

export abstract class KeptAnswers extends RowReader {
  /** What is kept, by name. */
  protected readonly kept = new Map<string, Family>();
  protected readonly mended = new Mended();
  private watches = 0;

  constructor(
    store: Store,
    tracks: Tracks,
    protected readonly over?: Over,
  ) {
    super(store, tracks);
  }

  /**
   * A value computed from a record, kept until something that it was computed from alters. The computation reads nothing
   * but this fleet, and is told apart by record and name alone.
   * @param now time of asking, where the value alters with time: see `alters`
   */
  memo<T>(id: string, name: string, compute: () => T, now?: string): T {
    return this.recall(id, name, compute, now, false) as T;
  }

  /** A value computed from most of the fleet, kept until a row of a kind alters that it read; then mended where it can be. */
  whole<T>(this: Fleet, name: string, compute: (on: Fleet) => T, mend?: Mend<T>): T {
    const made = mend ? () => this.mendedHere(name, compute, mend) : () => compute(this);
    return this.recall(WHOLE, name, made, undefined, true) as T;
  }

  private mendedHere<T>(this: Fleet, name: string, compute: (on: Fleet) => T, mend: Mend<T>): T {
    const { over } = this;
    if (!over)
      return this.mended.of(
        name,
        () => compute(this),
        (before, altered) => mend(before, altered, this, false),
      );
    this.staleOf(over);
    const { ground, altered } = over;
    const under = altered.length > FEW ? null : ground.whole(name, compute, mend);
    return (under && mend(under, altered, this, true)) ?? compute(this);
  }

  /**
   * An answer that is not kept, and a call, once, when something alters that it was computed from, or when that can no longer be
   * told. What alters it by time alone is not told: it is said until when it holds, in ms, if time does nothing else to it than
   * what `alters` noted.
   * @param read asks this fleet, or overlays of it, and returns before anything alters
   * @param at time of asking, in ms
   */
  watched<T>(
    read: () => T,
    altered: () => void,
    at: number,
  ): { answer: T; until: number; stop: () => void } {
    const family = this.familyOf(ANSWERS);
    const watch = new Watch(String((this.watches += 1)), family, altered);
    family.uses += 1;
    try {
      this.tracks.compute(watch, read, at, {});
    } catch (error) {
      watch.stop();
      throw error;
    }
    const answer = watch.value as T;
    watch.value = undefined;
    return { answer, until: watch.reading!.until, stop: () => watch.stop() };
  }

  /** For what somebody keeps who looks for himself what altered: to whoever asks, it may alter with any row. */
  apart<T>(work: () => T): T {
    this.tracks.anything();
    return this.tracks.apart(work);
  }

  /** Notes that what is being computed alters by itself at that time, in ms, be it past or to come. */
  alters(at: number): void {
    this.tracks.alters(at);
  }

  /**
   * What is kept, by name: for whoever looks after the server; with how much was noted of what it was computed from, and about
   * how many bytes that takes, the values themselves left out. Costs a look at all that is noted.
   */
  keptValues(): { values: KeptValues[]; noted: number; edges: number; bytes: number } {
    const values = [...this.kept].map(([name, { memos, uses, made, wokenBy }]) => ({
      name,
      ...{ kept: memos.size, uses, made },
      wokenBy: [...wokenBy].map(([by, times]) => ({ by, times })),
    }));
    const { keys, edges: ofRows } = this.tracks.noted();
    let [kept, edges] = [0, ofRows];
    for (const { memos } of this.kept.values()) {
      kept += memos.size;
      for (const memo of memos.values()) edges += memo.edges;
    }
    const bytes = kept * BYTES.kept + keys * BYTES.key + edges * BYTES.edge;
    return { values, noted: keys, edges, bytes };
  }

  protected familyOf(name: string): Family {
    let family = this.kept.get(name);
    if (!family) this.kept.set(name, (family = new Family()));
    return family;
  }

  private recall(
    id: string,
    name: string,
    compute: () => unknown,
    now: string | undefined,
    coarse: boolean,
  ): unknown {
    const at = now === undefined ? undefined : Date.parse(now);
    const under = this.over && this.heldUnder(this.over, id, name, at);
    if (under) {
      this.tracks.read(under);
      return under.value;
    }
    const family = this.familyOf(name);
    let memo = family.memos.get(id);
    if (!memo) family.memos.set(id, (memo = new Memo(id, family)));
    if (!memo.holdsAt(at))
      this.tracks.compute(memo, compute, at, { coarse, noted: this.over === undefined });
    this.tracks.read(memo);
    return memo.value;
  }

  /** What the ground keeps, if it holds here as well. */
  private heldUnder(
    over: Over,
    id: string,
    name: string,
    at: number | undefined,
  ): Memo | undefined {
    const memo = over.ground.kept.get(name)?.memos.get(id);
    if (!memo?.holdsAt(at)) return undefined;
    return this.staleOf(over).has(memo) ? undefined : memo;
  }

  /** Values of the ground that were computed from what is altered here. */
  protected staleOf(over: Over): Set<Memo> {
    if (over.ground.revision !== over.revision) throw new GroundMoved();
    if (over.asOf !== this.tracks.computed) {
      over.stale = new Set();
      for (const altered of over.altered) this.tracks.collect(altered, over.stale);
      over.asOf = this.tracks.computed;
    }
    return over.stale;
  }
}
