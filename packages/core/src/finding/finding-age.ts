/** Since when something is found: the record walked back over its log until it was not there. */
import { fleetAsOf, KIND_NAMES, type Fleet, type Kind, type LogEntry } from '../record/index.js';
import { asksHeavy, findingsAt } from './registry.js';

export interface FindingAge {
  /** UTC: since when; null: it was there before all that was looked at. */
  since: string | null;
  /** The entry of the log that brought it; null: a day that came did, or it is older. */
  by: { revision: number; title: string; actorName: string } | null;
  /** UTC of the oldest entry that was looked at; null: there is none. */
  lookedBackTo: string | null;
}

/**
 * When it appeared last, as far as states that were looked at tell: steps back are doubled until it is not there, then halved.
 * Costs the logarithm of the entries, each time what its rule asks and the patches since.
 *
 * @param findingId of one that is there now @param since entries of the log, newest first, without a gap @param now UTC
 */
export function findingAge(
  fleet: Fleet,
  findingId: string,
  since: readonly LogEntry[],
  now: string,
): FindingAge | null {
  const rowId = findingId.split('|')[1] ?? '';
  const kind = KIND_NAMES.find((one) => fleet.get(one, rowId) !== undefined);
  if (!kind) return null;
  /** With so many of the newest entries taken back. */
  const isThere = (back: number, at?: string): boolean => {
    const then = at ?? (back === 0 ? now : (since[back]?.at ?? since.at(-1)!.at));
    const was =
      back === 0 ? fleet : fleetAsOf(fleet, fleet.revision - back, since.slice(0, back)).was;
    return isFound(was, kind, rowId, findingId, then, heavy);
  };
  // Rules that draw the wiring are asked only where it is one of theirs, and not of large fleets.
  let heavy = false;
  if (!isThere(0)) {
    heavy = asksHeavy(fleet);
    if (!heavy || !isThere(0)) return null;
  }
  const lookedBackTo = since.at(-1)?.at ?? null;
  let [there, gone] = [0, 1];
  while (gone <= since.length && isThere(gone)) [there, gone] = [gone, gone * 2];
  if (gone > since.length) {
    if (since.length === there || isThere(since.length))
      return { since: null, by: null, lookedBackTo };
    gone = since.length;
  }
  while (gone - there > 1) {
    const middle = Math.floor((there + gone) / 2);
    if (isThere(middle)) there = middle;
    else gone = middle;
  }
  const entry = since[there]!;
  // The state before that entry, at the time of the entry: what is found in it came with the clock.
  if (isThere(gone, entry.at)) return { since: entry.at, by: null, lookedBackTo };
  const { revision, title, actorName, at } = entry;
  return { since: at, by: { revision, title, actorName }, lookedBackTo };
}

function isFound(
  fleet: Fleet,
  kind: Kind,
  rowId: string,
  findingId: string,
  now: string,
  heavy: boolean,
): boolean {
  if (!fleet.get(kind, rowId)) return false;
  return findingsAt(fleet, kind as never, rowId, now, heavy).some(({ id }) => id === findingId);
}
