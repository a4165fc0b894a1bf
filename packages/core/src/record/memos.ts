/** Kept values: what each was computed as, who read it, and that it no longer holds. `tracking.ts` notes what rows they read. */
import { type Kind } from './kinds/index.js';

/** Who read something: mostly one, which is kept bare. */
export type Readers = Reading | Reading[];
export const countOf = (readers: Readers | undefined): number =>
  readers === undefined ? 0 : readers instanceof Reading ? 1 : readers.length;
const FEW = 16;

/** Enters a reader. Those that have read anew since are let go, so that no list grows with the age of the record. */
export function entered(readers: Readers | undefined, reading: Reading): Readers {
  if (readers === undefined) return reading;
  if (readers instanceof Reading) {
    if (readers === reading || !readers.live) return reading;
    return [readers, reading];
  }
  const { length } = readers;
  if (readers[length - 1] === reading) return readers;
  const full = length >= FEW && (length & (length - 1)) === 0;
  const kept = full ? readers.filter((one) => one.live) : readers;
  kept.push(reading);
  return kept;
}

export const each = (readers: Readers | undefined, visit: (memo: Memo) => void): void => {
  if (readers === undefined) return;
  if (readers instanceof Reading) {
    if (readers.live) visit(readers.memo);
  } else for (const reading of readers) if (reading.live) visit(reading.memo);
};

/** One computation of a kept value. */
export class Reading {
  /** The answer is the same from then on until then, in ms. */
  from = -Infinity;
  until = Infinity;
  /** The row that is being computed of itself: whoever keeps its value hears of it directly. */
  own: string | undefined;

  /** @param coarse what is computed from most of the fleet notes tables, not rows */
  constructor(
    readonly memo: Memo,
    readonly coarse: boolean,
    /** Time of asking, in ms; left out where the value does not alter with time. */
    readonly at: number | undefined,
  ) {}

  get live(): boolean {
    return this.memo.reading === this;
  }
}

/** Why a kept value no longer holds: a row of that kind altered, its time came, or its room was wanted. */
export type WokenBy = Kind | 'time' | 'room';

/** Values of one name, kept by record. */
export class Family {
  readonly memos = new Map<string, Memo>();
  /** How often a value was asked for and made, and what woke it. */
  uses = 0;
  made = 0;
  readonly wokenBy = new Map<WokenBy, number>();
  /** Records whose value has to be made anew; only where somebody gathers all of them. */
  awake: Set<string> | undefined;
  /** What all of them are together, for whoever reads that. */
  readonly together: Memo = new Memo('', this);

  /** The value of a record has to be made anew. */
  rouse(id: string, by: WokenBy): void {
    if (!this.awake) return;
    this.awake.add(id);
    this.together.wake(by);
  }
}

/** A kept value. */
export class Memo {
  /** The computation that the value comes from; none where it has to be made. */
  reading: Reading | undefined;
  value: unknown;
  computing = false;
  private readers: Readers | undefined;

  constructor(
    readonly id: string,
    readonly family: Family,
  ) {}

  note(reading: Reading): void {
    this.readers = entered(this.readers, reading);
  }

  /** How many values were computed from it, those included that have been made anew since. */
  get edges(): number {
    return countOf(this.readers);
  }

  /** @param at left out where the value does not alter with time */
  holdsAt(at: number | undefined): boolean {
    if (this.reading === undefined) return false;
    return at === undefined || (this.reading.from <= at && at < this.reading.until);
  }

  /** It no longer holds, nor does what was computed from it. */
  wake(by: WokenBy): void {
    if (this.reading === undefined) return;
    this.reading = undefined;
    this.value = undefined;
    this.tell(by);
    const { readers } = this;
    this.readers = undefined;
    each(readers, (memo) => memo.wake(by));
  }

  protected tell(by: WokenBy): void {
    const { wokenBy, together } = this.family;
    if (together === this) return;
    wokenBy.set(by, (wokenBy.get(by) ?? 0) + 1);
    this.family.rouse(this.id, by);
  }

  /** Adds it and whatever was computed from it. */
  collect(into: Set<Memo>): void {
    if (into.has(this)) return;
    into.add(this);
    each(this.readers, (memo) => memo.collect(into));
  }
}

/** An answer that somebody was given: not kept, but told of when something alters that it was computed from. */
export class Watch extends Memo {
  constructor(
    id: string,
    family: Family,
    private readonly altered: () => void,
  ) {
    super(id, family);
    family.memos.set(id, this);
  }

  /** Nobody wants to be told any more. */
  stop(): void {
    this.reading = undefined;
    this.family.memos.delete(this.id);
  }

  protected override tell(by: WokenBy): void {
    super.tell(by);
    this.family.memos.delete(this.id);
    this.altered();
  }
}
