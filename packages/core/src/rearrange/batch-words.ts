/** What a placing of lots comes to, in a headline, and what is proved of it. */
import { counted, fewNames } from '../quantity/index.js';
import type { BatchSolution } from './batch-problem.js';
import type { BatchAsk } from './lay-batch.js';
import type { PlacedBatch } from './placed-batch.js';

export function sentences(
  { aim, lots: wantedLots, keepTolerance }: BatchAsk,
  { placed, leastLeft, impossible, stuck }: BatchSolution,
  {
    lots,
    moves,
    hosts,
    licences,
    tolerance,
  }: Pick<PlacedBatch, 'lots' | 'moves' | 'hosts' | 'licences' | 'tolerance'>,
): Pick<PlacedBatch, 'headline' | 'proof'> {
  const all = wantedLots.reduce((sum, { count }) => sum + count, 0);
  const there = lots.reduce((sum, lot) => sum + lot.placed, 0);
  const on = new Set(lots.flatMap((lot) => lot.on.map(({ hostId }) => hostId)));
  const anew = hosts.filter(({ id, before }) => on.has(id) && before.guests === 0).length;
  const room =
    moves.length > 0
      ? `, after ${counted(moves.length, 'move')} that ${moves.length === 1 ? 'makes' : 'make'} room`
      : '';
  const begun =
    aim !== 'fewest'
      ? ''
      : `; ${anew === 0 ? 'no empty host is' : `${counted(anew, 'empty host')} ${anew === 1 ? 'is' : 'are'}`} taken into use`;
  const short = all - there;
  const headline =
    short === 0
      ? `${counted(all, 'guest')} ${all === 1 ? 'goes' : 'go'} to ${counted(on.size, 'host')}${room}${begun}.`
      : `${there} of ${counted(all, 'guest')} have a place${room}; ${short} ${short === 1 ? 'has' : 'have'} none.`;
  const parts: string[] = [];
  if (stuck.length > 0)
    parts.push(
      impossible
        ? 'Proved: there is no place for all of them, whatever moves.'
        : leastLeft
          ? 'Proved: as long as nobody moves, no way leaves fewer without a place.'
          : 'That no more can be placed is not proved.',
    );
  if (placed && there > 0) parts.push(boundOf(aim, placed, { hosts, on, licences }));
  if (moves.length > 0)
    parts.push(
      'Where others move, what travels comes first: the aim was not asked of this answer.',
    );
  if (keepTolerance && tolerance.lost.length > 0)
    parts.push(`No way was found that leaves ${fewNames(tolerance.lost)} able to fail as now.`);
  return { headline, proof: parts.join(' ') };
}

function boundOf(
  aim: BatchAsk['aim'],
  { value, bound, proven }: NonNullable<BatchSolution['placed']>,
  { hosts, on, licences }: Pick<PlacedBatch, 'hosts' | 'licences'> & { on: ReadonlySet<string> },
): string {
  if (aim === 'fewest') {
    const used = hosts.filter(({ id, before }) => before.guests > 0 || on.has(id)).length;
    if (proven)
      return `Proved: no placing gets by with fewer than ${counted(used, 'host')} in use.`;
    return bound === null
      ? `${counted(used, 'host')} in use; whether fewer would do is open.`
      : `No placing uses fewer than ${counted(bound, 'host')}; this one uses ${used}.`;
  }
  if (aim === 'even') {
    const full = percent(value);
    if (proven)
      return `Proved: the fullest host that takes any is at ${full}, and cannot be less full.`;
    return bound === null
      ? `The fullest host that takes any is at ${full}; whether less would do is open.`
      : `The fullest host that takes any is at ${full}; below ${percent(bound)} it cannot be.`;
  }
  if (licences.length === 0) return 'No licence that is counted by hosts covers any of them.';
  if (proven) return 'Proved: no placing takes cheaper licences.';
  return 'Whether cheaper licences would do is open.';
}

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
