/** When all can be done at the earliest, and the cliques of what excludes itself. */
import { timeFor, type Work } from './work.js';

/** More keys have too many triples. */
const MOST_KEYS = 24;

/**
 * When each work can end at the earliest, after those that it waits for; and when what is used can have been used enough: a
 * work beside which m may be takes an m-th of it, within the time in which any of its works may be. What found no place
 * holds nobody up; what stands there already may stand too close, so that it is left out of what is used.
 */
export function earliestEnds(all: readonly (Work | null)[], from: number): number[] {
  const works = all.filter((work) => work !== null);
  const known = new Map<Work, number>();
  const endOf = (work: Work, above: ReadonlySet<Work>): number => {
    const held = known.get(work);
    if (held !== undefined) return held;
    if (above.has(work)) return from;
    const below = new Set([...above, work]);
    const ready = Math.max(
      from,
      ...work.after.flatMap((i) => (all[i] ? endOf(all[i], below) : [])),
    );
    const window = work.windows.find(
      ([begins, until]) => until - Math.max(begins, ready) >= work.minutes,
    );
    const found = window ? Math.max(window[0], ready) + work.minutes : from;
    if (above.size === 0) known.set(work, found);
    return found;
  };
  const ends = works.map((work) => endOf(work, new Set()));
  const users = new Map<string, Work[]>();
  for (const work of works)
    if (work.at === undefined)
      for (const { key } of work.uses) users.set(key, [...(users.get(key) ?? []), work]);
  for (const [key, those] of users) {
    const minutes = those.reduce(
      (sum, work) => sum + work.minutes / work.uses.find((use) => use.key === key)!.most,
      0,
    );
    const first = Math.min(...those.map((work) => ends[works.indexOf(work)]! - work.minutes));
    ends.push(timeFor(unionOf(those), Math.ceil(minutes - 1e-9), Math.max(from, first)));
  }
  for (const those of triangles(users)) {
    const minutes = those.reduce((sum, work) => sum + work.minutes, 0);
    const first = Math.min(...those.map((work) => ends[works.indexOf(work)]! - work.minutes));
    ends.push(timeFor(unionOf(those), minutes, Math.max(from, first)));
  }
  return ends;
}

/** Works that use two of any three things that bear one at a time: no two of them may be at once. */
function* triangles(users: ReadonlyMap<string, readonly Work[]>): Generator<Work[]> {
  const keys = [...users.keys()].sort((a, b) => users.get(b)!.length - users.get(a)!.length);
  keys.length = Math.min(keys.length, MOST_KEYS);
  const uses = (work: Work, key: string) =>
    work.uses.some((use) => use.key === key && use.most === 1);
  for (let a = 0; a < keys.length; a += 1)
    for (let b = a + 1; b < keys.length; b += 1)
      for (let c = b + 1; c < keys.length; c += 1) {
        const three = [keys[a]!, keys[b]!, keys[c]!];
        const among = new Set(three.flatMap((key) => users.get(key)!));
        const those = [...among].filter(
          (work) => three.filter((key) => uses(work, key)).length >= 2,
        );
        if (those.length > 2) yield those;
      }
}

function unionOf(works: readonly Work[]): [number, number][] {
  const sorted = works.flatMap(({ windows }) => windows).sort((a, b) => a[0] - b[0]);
  const union: [number, number][] = [];
  for (const [from, until] of sorted) {
    const last = union.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], until);
    else union.push([from, until]);
  }
  return union;
}
