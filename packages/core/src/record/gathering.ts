/**
 * Lists computed from each row of a kind, kept for those that are not empty: after a patch only what read the altered rows is
 * computed anew.
 */
import type { Kind } from './kinds/index.js';
import type { Store } from './store.js';
import type { Family } from './memos.js';

/** The span of what does not alter with time, in ms. */
const ALWAYS = { from: -Infinity, until: Infinity };

/** Values of all rows of a kind that are not empty. */
export interface Gathered {
  values: Map<string, readonly unknown[]>;
  /** Rows whose value alters by itself, and the span in which none of them does, in ms. */
  timed: Set<string>;
  from: number;
  until: number;
}

export class Gatherings {
  private readonly gathered = new Map<string, Gathered>();
  private readonly familiesOf = new Map<Kind, Family[]>();

  constructor(
    private readonly store: Store,
    private readonly familyOf: (name: string) => Family,
  ) {}

  /** Whether nothing was gathered yet. */
  get none(): boolean {
    return this.gathered.size === 0;
  }

  /**
   * @param list of a row, kept
   * @param at time of asking, in ms; undefined where no list alters with time
   * @param most rows that are looked at
   */
  gather(
    kind: Kind,
    key: string,
    list: (id: string) => readonly unknown[],
    at: number | undefined,
    most: number,
  ): Gathered {
    const rows = this.store.rows(kind);
    const family = this.familyOf(key);
    let held = this.gathered.get(key);
    if (!held) {
      family.awake = new Set();
      held = { values: new Map(), timed: new Set(), ...ALWAYS };
      this.gathered.set(key, held);
      this.familiesOf.set(kind, [...(this.familiesOf.get(kind) ?? []), family]);
      for (const { id } of rows.values()) family.awake.add(id);
    } else if (at !== undefined && (at < held.from || at >= held.until)) {
      for (const id of held.timed) family.awake!.add(id);
      held.timed.clear();
      Object.assign(held, ALWAYS);
    }
    let done = 0;
    for (const id of [...family.awake!]) {
      if (done >= most) break;
      done += 1;
      held.values.delete(id);
      const found = rows.get(id) ? list(id) : [];
      // Only now: a row whose computation throws is still to be done.
      family.awake!.delete(id);
      if (found.length) held.values.set(id, found);
      const { from, until } = family.memos.get(id)?.reading ?? ALWAYS;
      if (from === -Infinity && until === Infinity) continue;
      held.timed.add(id);
      held.from = Math.max(held.from, from);
      held.until = Math.min(held.until, until);
    }
    return held;
  }

  /** A row was made, or is gone. */
  rouse(kind: Kind, id: string): void {
    for (const family of this.familiesOf.get(kind) ?? []) family.rouse(id, kind);
  }
}
