/**
 * From a key to the ids filed under it, in their own order. Most keys hold one id, which is kept bare: a list for each
 * would cost a fleet of 50,000 guests some hundred megabytes.
 */
import { placeOf } from './sorted.js';

export interface Index {
  add(key: string, id: string): void;
  remove(key: string, id: string): void;
  /** The lowest first. */
  get(key: string): readonly string[];
  count(key: string): number;
}

export class IndexMap implements Index {
  private readonly map = new Map<string, string | string[]>();

  add(key: string, id: string): void {
    const held = this.map.get(key);
    if (held === undefined) this.map.set(key, id);
    else if (typeof held === 'string') {
      if (held !== id) this.map.set(key, held < id ? [held, id] : [id, held]);
    } else {
      const at = placeOf(held.length, (i) => held[i]! < id);
      if (held[at] !== id) held.splice(at, 0, id);
    }
  }

  remove(key: string, id: string): void {
    const held = this.map.get(key);
    if (held === id) this.map.delete(key);
    else if (typeof held === 'object') {
      const at = placeOf(held.length, (i) => held[i]! < id);
      if (held[at] !== id) return;
      held.splice(at, 1);
      if (held.length === 0) this.map.delete(key);
    }
  }

  get(key: string): readonly string[] {
    const held = this.map.get(key);
    return held === undefined ? [] : typeof held === 'string' ? [held] : held;
  }

  count(key: string): number {
    const held = this.map.get(key);
    return held === undefined ? 0 : typeof held === 'string' ? 1 : held.length;
  }
}
