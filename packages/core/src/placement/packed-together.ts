/**
 * Which guests have to be packed together: those that may go to the same hosts, and those of one rule. Others take no room from
 * each other. Host by host: all that fall from one are packed together. Costs the guests, and the hosts of each different list.
 */
import type { Falling } from './fates.js';

export type Moving = Pick<Falling, 'hostId' | 'movable' | 'ruleIds'>;

/** Lots of hosts, each in the order in which they came; hosts from which nobody may go are in none. */
export function packedTogether<F extends Moving>(falling: readonly F[]): F[][] {
  const moving = falling.filter(({ movable }) => movable.length > 0);
  if (moving.length < 2) return moving.map((one) => [one]);
  const sets = new DisjointSets();
  const seen = new Set<readonly string[]>();
  for (const { hostId, movable, ruleIds } of moving) {
    const from = `from ${hostId}`;
    for (const suitable of new Set(movable.map(({ candidates }) => candidates.suitable))) {
      sets.join(from, suitable[0]!);
      if (seen.has(suitable)) continue;
      seen.add(suitable);
      for (const id of suitable) sets.join(suitable[0]!, id);
    }
    for (const ruleId of ruleIds) sets.join(from, ruleId);
  }
  const lots = new Map<string, F[]>();
  for (const one of moving) {
    const lot = sets.find(`from ${one.hostId}`);
    const held = lots.get(lot);
    if (held) held.push(one);
    else lots.set(lot, [one]);
  }
  return [...lots.values()];
}

/** Disjoint sets by paths that are halved (Tarjan and van Leeuwen, Journal of the ACM 31, 1984). */
class DisjointSets {
  private readonly above = new Map<string, string>();

  find(one: string): string {
    for (;;) {
      const up = this.above.get(one);
      if (up === undefined) return one;
      const over = this.above.get(up);
      if (over === undefined) return up;
      this.above.set(one, over);
      one = over;
    }
  }

  join(one: string, other: string): void {
    const [a, b] = [this.find(one), this.find(other)];
    if (a !== b) this.above.set(a, b);
  }
}
