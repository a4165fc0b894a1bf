/**
 * From a key to the ids filed under it. Most keys hold one id, which is kept bare: a set for each would cost a fleet of
 * 50,000 guests some hundred megabytes.
 */
export class IndexMap {
  private readonly map = new Map<string, string | Set<string>>();

  add(key: string, id: string): void {
    const held = this.map.get(key);
    if (held === undefined) this.map.set(key, id);
    else if (typeof held === 'string') this.map.set(key, new Set([held, id]));
    else held.add(id);
  }

  remove(key: string, id: string): void {
    const held = this.map.get(key);
    if (held === id) this.map.delete(key);
    else if (typeof held === 'object') {
      held.delete(id);
      if (held.size === 0) this.map.delete(key);
    }
  }

  get(key: string): Iterable<string> {
    const held = this.map.get(key);
    return held === undefined ? [] : typeof held === 'string' ? [held] : held;
  }

  count(key: string): number {
    const held = this.map.get(key);
    return held === undefined ? 0 : typeof held === 'string' ? 1 : held.size;
  }
}
