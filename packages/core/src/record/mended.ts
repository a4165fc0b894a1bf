/** Values of the whole fleet that are mended after small changes: the last one, and what has altered since. */
import type { Fleet } from './fleet.js';
import type { Altered } from './tracking.js';

/** What altered in more rows than this is made anew. */
export const FEW = 200;

/**
 * What a value is after few rows have altered, or null: it is made anew. It reads a row of every kind that computing reads, as its
 * answer rests on them.
 * @param before what it was; with `laidOver` it is somebody's still, else it may be made use of
 */
export type Mend<T> = (
  before: T,
  altered: readonly Altered[],
  on: Fleet,
  laidOver: boolean,
) => T | null;

export class Mended {
  private readonly held = new Map<string, { value: unknown; altered: Altered[] }>();

  of<T>(
    name: string,
    compute: () => T,
    mend: (before: T, altered: readonly Altered[]) => T | null,
  ): T {
    const before = this.held.get(name);
    // Half mended it is of no use to anybody.
    this.held.delete(name);
    const value = (before && mend(before.value as T, before.altered)) ?? compute();
    this.held.set(name, { value, altered: [] });
    return value;
  }

  hear(altered: Altered): void {
    for (const [name, one] of this.held)
      if (one.altered.push(altered) > FEW) this.held.delete(name);
  }

  clear(): void {
    this.held.clear();
  }
}
