/**
 * The record in memory: its rows (`row-reader.ts`) and what is computed from them (`kept-answers.ts`, `kept-lists.ts`). Rows are never altered in place; `apply` puts
 * new ones where patches say so, keeps the indexes, and wakes what was computed from them. Nothing ever copies a Fleet: to ask
 * what would be, `overlay` lays rows over it and reads through to it.
 */
import { KeptLists } from './kept-lists.js';
import type { Over } from './kept-answers.js';
import type { Kind } from './kinds/index.js';
import type { Patch } from './patch.js';
import { Store, type AnyRow } from './store.js';
import { Tracks, type Altered } from './tracking.js';

/** A patch alters a row that is not there, or makes one that is. */
export class PatchMisfit extends Error {}

export class Fleet extends KeptLists {
  /** Number of the last change that is in this fleet. */
  revision = 0;

  /** @param base the fleet that this one is laid over; it may not alter meanwhile */
  constructor(base?: Fleet) {
    super(new Store(base?.store), base?.tracks ?? new Tracks(), base && Fleet.overlaid(base));
    if (base) this.revision = base.revision;
  }

  /** Of an overlay of an overlay, the fleet beneath both is the ground. */
  private static overlaid(base: Fleet): Over {
    const { over } = base;
    if (over) return { ...over, altered: [...over.altered], stale: new Set(over.stale) };
    const { revision, tracks } = base;
    return { ground: base, revision, altered: [], stale: new Set(), asOf: tracks.computed };
  }

  /** Applies decided patches in order as that revision. @throws PatchMisfit: the record would be wrong */
  apply(patches: readonly Patch[], revision: number): void {
    for (const patch of patches) this.applyOne(patch, revision);
    this.revision = revision;
  }

  /** Puts a row as read from storage. */
  load(kind: Kind, row: AnyRow): void {
    this.put(kind, row.id, row);
  }

  /**
   * The fleet as it would be with these patches, laid over this one. It holds as long as this one stays as it is.
   * @throws PatchMisfit
   */
  overlay(patches: readonly Patch[]): Fleet {
    const would = new Fleet(this);
    for (const patch of patches) would.applyOne(patch, this.revision);
    return would;
  }

  /** Lets go of all kept values, so that their room is free; each is made anew when it is asked for. Not of an overlay. */
  forgetKept(): void {
    if (this.tracks.noting) throw new Error('a value is being computed');
    this.orders.clear();
    this.mended.clear();
    for (const { memos } of this.kept.values()) {
      for (const memo of memos.values()) memo.wake('room');
      memos.clear();
    }
    this.tracks.forget();
  }

  /** Whether it lies on that fleet, which is as it was then. */
  isOver(ground: Fleet): boolean {
    return this.over?.ground === ground && this.over.revision === ground.revision;
  }

  private applyOne(patch: Patch, revision: number): void {
    const held = this.store.rows(patch.kind).get(patch.id);
    if (patch.op === 'create') {
      if (held) throw new PatchMisfit(`${patch.kind} ${patch.id} exists already`);
      this.put(patch.kind, patch.id, { ...patch.after, id: patch.id, revision });
      return;
    }
    if (!held) throw new PatchMisfit(`${patch.kind} ${patch.id} does not exist`);
    this.put(
      patch.kind,
      patch.id,
      patch.op === 'delete' ? undefined : { ...held, ...patch.after, revision },
    );
  }

  private put(kind: Kind, id: string, row: AnyRow | undefined): void {
    const held = this.store.rows(kind).get(id);
    if (held === row) return;
    this.store.put(kind, id, held, row);
    // Nobody has read anything while a record is being loaded.
    if (!this.over && this.tracks.computed === 0 && this.gatherings.none && this.orders.none)
      return;
    const roots = this.store.rootsOf(kind, id, held, row);
    this.hear({ kind, id, before: held, after: row, roots });
  }

  /** What was computed from a row that alters no longer holds. */
  private hear(altered: Altered): void {
    if (this.over) {
      this.over.altered.push(altered);
      this.tracks.collect(altered, this.over.stale);
      this.kept.clear();
      this.orders.clear();
      return;
    }
    const { kind, id, before, after } = altered;
    this.tracks.wake(altered);
    this.orders.hear(altered);
    this.mended.hear(altered);
    if (before && after) return;
    this.gatherings.rouse(kind, id);
    if (!after) for (const family of this.kept.values()) family.memos.delete(id);
  }
}
