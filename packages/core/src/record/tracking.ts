/**
 * What a kept value was computed from: while it is, every row and every look-up that is read notes it (design 2, section 3).
 * A patch wakes what read the rows it alters, and what was computed from that; nothing else. Costs one list entry for each
 * thing read.
 */
import { type Kind } from './kinds/index.js';
import { type AnyRow, fieldsToIndex, lookUpsOf } from './look-ups.js';
import {
  countOf,
  each,
  entered,
  type Family,
  type Memo,
  Reading,
  type Readers,
  Watch,
} from './memos.js';

/** A row as it was and as it is; undefined: not there. */
export interface Altered {
  kind: Kind;
  id: string;
  before: AnyRow | undefined;
  after: AnyRow | undefined;
  /** Rows that it was and is a part of. */
  roots: readonly string[];
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
    memo.family.uses += 1;
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
