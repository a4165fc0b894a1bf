/**
 * What a kept value was computed from: while it is, every row and every look-up that is read notes it (design 2, section 3).
 * A patch wakes what read the rows it alters, and what was computed from that; nothing else. Costs one list entry for each
 * thing read.
 */
import { type Kind } from './kinds/index.js';
import { type AnyRow, fieldsToIndex, lookUpsOf } from './look-ups.js';

/** A row as it was and as it is; undefined: not there. */
export interface Altered {
  kind: Kind;
  id: string;
  before: AnyRow | undefined;
  after: AnyRow | undefined;
  /** Rows that it was and is a part of. */
  roots: readonly string[];
}

/** Who read something: mostly one, which is kept bare. */
type Readers = Reading | Reading[];
const countOf = (readers: Readers | undefined): number =>
  readers === undefined ? 0 : readers instanceof Reading ? 1 : readers.length;
const FEW = 16;

/** Enters a reader. Those that have read anew since are let go, so that no list grows with the age of the record. */
function entered(readers: Readers | undefined, reading: Reading): Readers {
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

const each = (readers: Readers | undefined, visit: (memo: Memo) => void): void => {
  if (readers === undefined) return;
  if (readers instanceof Reading) {
    if (readers.live) visit(readers.memo);
  } else for (const reading of readers) if (reading.live) visit(reading.memo);
};

/** One computation of a kept value. */
class Reading {
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
  asked = 0;
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

/** What can be read of one sort, with who did: rows, tables, what an index files under a key. */
type Slots = Map<string, Readers>;

const ANYTHING = '';

/** Notes who reads what of one fleet. */
export class Tracks {
  /** Values of the fleet itself that were computed so far; those of an overlay are noted by nobody. */
  computed = 0;
  private current: Reading | undefined;
  /** The innermost computation, of an overlay as well: its answer may alter with time. */
  private timed: Reading | undefined;
  private readonly rows: Slots = new Map();
  private readonly tables: Slots = new Map();
  private readonly sizes: Slots = new Map();
  private readonly looks = new Map<string, Slots>();
  /** Fields that were read by themselves, by kind and name. */
  private readonly fields = new Map<Kind, Map<string, Slots>>();

  /** Whether anybody listens at the moment. */
  get noting(): boolean {
    return this.current !== undefined;
  }

  /** Whether a value is being computed that is kept. */
  get keeping(): boolean {
    return this.current !== undefined && !(this.current.memo instanceof Watch);
  }

  /** A row with its parts. @param kind of what is read @param root the row that it is a part of, or itself */
  row(kind: Kind, root: string): void {
    if (this.current?.coarse) this.table(kind);
    else if (this.current?.own !== root) this.note(this.rows, root);
  }

  /** From here on it is of this row that something is computed, for somebody who hears by himself when it alters. */
  ofItself(id: string): void {
    if (this.current) this.current.own = id;
  }

  /** One field of a row, and nothing else of it or its parts. @param root the row that it is a part of, or itself */
  field(kind: Kind, id: string, field: string, root: string): void {
    if (this.current === undefined || this.current.own === root) return;
    if (this.current.coarse) return this.table(kind);
    let ofKind = this.fields.get(kind);
    if (!ofKind) this.fields.set(kind, (ofKind = new Map<string, Slots>()));
    let slots = ofKind.get(field);
    if (!slots) ofKind.set(field, (slots = new Map()));
    this.note(slots, id);
  }

  /** All rows of a kind. */
  table(kind: Kind): void {
    this.note(this.tables, kind);
  }

  /** Whatever there is. */
  anything(): void {
    this.note(this.tables, ANYTHING);
  }

  /** How many rows there are of a kind. */
  size(kind: Kind): void {
    this.note(this.sizes, kind);
  }

  /** What an index files under a key, with the rows. @param kinds of the rows that are filed in it */
  look(name: string, key: string, kinds: readonly Kind[]): void {
    if (this.current === undefined) return;
    if (this.current.coarse) return kinds.forEach((kind) => this.table(kind));
    let slots = this.looks.get(name);
    if (!slots) this.looks.set(name, (slots = new Map()));
    this.note(slots, key);
  }

  private note(slots: Slots, key: string): void {
    if (this.current === undefined) return;
    const held = slots.get(key);
    const now = entered(held, this.current);
    if (now !== held) slots.set(key, now);
  }

  /** A kept value was read. */
  read(memo: Memo): void {
    memo.family.asked += 1;
    if (this.current) memo.note(this.current);
    this.within(memo.reading!);
  }

  /** What is read meanwhile is noted by nobody: somebody notes it as one. */
  apart<T>(work: () => T): T {
    const { current } = this;
    this.current = undefined;
    try {
      return work();
    } finally {
      this.current = current;
    }
  }

  /** The values of all records together are as they are now. @param from of the span in which they are, in ms */
  gathered({ together }: Pick<Family, 'together'>, from: number, until: number): void {
    together.reading ??= new Reading(together, false, undefined);
    Object.assign(together.reading, { from, until });
    if (this.current) together.note(this.current);
    this.within({ from, until });
  }

  private within({ from, until }: Pick<Reading, 'from' | 'until'>): void {
    if (!this.timed) return;
    this.timed.from = Math.max(this.timed.from, from);
    this.timed.until = Math.min(this.timed.until, until);
  }

  /** The answer alters at that time, be it to come or past. */
  alters(at: number): void {
    const { timed } = this;
    if (timed?.at === undefined) return;
    if (at <= timed.at) timed.from = Math.max(timed.from, at);
    else timed.until = Math.min(timed.until, at);
  }

  /**
   * Computes a value and notes what it reads. One that throws is not kept.
   * @param noted false in an overlay: what is read counts for the computation around it
   */
  compute(
    memo: Memo,
    work: () => unknown,
    at: number | undefined,
    { coarse = false, noted = true },
  ): void {
    if (memo.computing) throw new Error('a value is computed from itself');
    const { current, timed } = this;
    const reading = new Reading(memo, coarse, at);
    memo.wake('time');
    memo.computing = true;
    if (noted) this.current = reading;
    this.timed = reading;
    try {
      memo.value = work();
      memo.reading = reading;
      memo.family.made += 1;
      // No overlay asks for the answers that people were given.
      if (noted && !(memo instanceof Watch && this.computed > 0)) this.computed += 1;
    } finally {
      memo.computing = false;
      this.current = current;
      this.timed = timed;
    }
  }

  /** What was computed from a row no longer holds. */
  wake(altered: Altered): void {
    this.visit(altered, (slots, key) => {
      const readers = slots.get(key);
      if (readers === undefined) return;
      slots.delete(key);
      each(readers, (memo) => memo.wake(altered.kind));
    });
  }

  /** What is noted: rows, tables and keys that something was computed from, and how often something was. */
  noted(): { keys: number; edges: number } {
    let [keys, edges] = [0, 0];
    const ofFields = [...this.fields.values()].flatMap((ofKind) => [...ofKind.values()]);
    const all = [this.rows, this.tables, this.sizes, ...this.looks.values(), ...ofFields];
    for (const slots of all) {
      keys += slots.size;
      for (const readers of slots.values()) edges += countOf(readers);
    }
    return { keys, edges };
  }

  /** Lets go of all that was noted: nothing that is kept may hold any more. */
  forget(): void {
    this.rows.clear();
    this.tables.clear();
    this.sizes.clear();
    this.looks.clear();
    this.fields.clear();
  }

  /** Adds what was computed from a row. */
  collect(altered: Altered, into: Set<Memo>): void {
    this.visit(altered, (slots, key) => each(slots.get(key), (memo) => memo.collect(into)));
  }

  private visit(
    { kind, id, before, after, roots }: Altered,
    meet: (slots: Slots, key: string) => void,
  ): void {
    const at = (slots: Slots | undefined, key: unknown) => {
      if (slots && typeof key === 'string') meet(slots, key);
    };
    at(this.rows, id);
    for (const root of roots) if (root !== id) at(this.rows, root);
    at(this.tables, kind);
    at(this.tables, ANYTHING);
    if (!before || !after) at(this.sizes, kind);
    for (const [field, slots] of this.fields.get(kind) ?? [])
      if (before?.[field] !== after?.[field]) at(slots, id);
    for (const { field, index, ids } of fieldsToIndex(kind)) {
      const slots = this.looks.get(index);
      at(slots, before?.[field]);
      if (after?.[field] === before?.[field]) continue;
      at(slots, after?.[field]);
      at(this.looks.get(ids), before?.[field]);
      at(this.looks.get(ids), after?.[field]);
    }
    for (const { name, keyOf } of lookUpsOf(kind)) {
      const [old, now] = [before && keyOf(before), after && keyOf(after)];
      if (old === now) continue;
      at(this.looks.get(name), old);
      at(this.looks.get(name), now);
    }
  }
}
