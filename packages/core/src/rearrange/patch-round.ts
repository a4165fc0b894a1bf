/**
 * A round of work at the hosts of a group, one at a time: each is emptied, worked at, and takes its guests back, or takes
 * those of the next. Each stop is an answer of its own to *empty this host*; here stands in which order they come, what they are
 * asked of, and what comes of all together. Costs one search a host.
 */
import { load } from '../host/index.js';
import { counted, fewNames, formatBinary, formatDuration } from '../quantity/index.js';
import type { Fleet, Patch } from '../record/index.js';
import type { Rearranged } from './rearranged.js';
import type { RearrangeAsk } from './rearrange-ask.js';

export interface RoundAsk {
  /** Hosts that back each other; null: those of no group. */
  groupId: string | null;
  /** Those that are worked at. */
  hostIds: readonly string[];
  /** Guests come back to their host; false: they stay where they went, and the next host is emptied from there. */
  returns: boolean;
  /** Work at one host until it takes guests again, in minutes. */
  workMinutes: number;
  /** Slowest link between the hosts, in bit/s. */
  linkBitsPerSecond: number;
  /** Release that each host takes; null: the work alters none. */
  platformId: string | null;
}

export interface RoundStop extends Pick<
  Rearranged,
  'moves' | 'stuck' | 'proof' | 'bytes' | 'seconds' | 'tolerance'
> {
  hostId: string;
  host: string;
  /** Hosts of the group that have the new release while this one is worked at, of how many; null: the work alters none. */
  renewed: { hosts: number; of: number } | null;
  /** Guests in service that cannot move running: each is down while it is copied, on the way out and on the way back. */
  shutDown: string[];
}

export interface PatchRound {
  headline: string;
  stops: RoundStop[];
  /** Of the hosts that can be emptied: out and, where guests return, back. */
  bytes: number;
  /** Moves and work, one after another; null where a move's time is not known, or a host cannot be emptied. */
  seconds: number | null;
}

/** Least memory first: the first host is the pilot, and little stands on it (common practice, no source). */
export const roundOrder = (fleet: Fleet, hostIds: readonly string[]): string[] =>
  [...new Set(hostIds)]
    .map((id) => ({ id, memory: load(fleet, id).memoryMiB, name: fleet.need('host', id).name }))
    .sort((a, b) => a.memory - b.memory || a.name.localeCompare(b.name))
    .map(({ id }) => id);

/** The question at one stop. */
export const stopAsk = (
  { groupId, linkBitsPerSecond, platformId }: RoundAsk,
  hostId: string,
): RearrangeAsk => ({
  ...(platformId === null ? {} : { notBackFrom: platformId }),
  aim: 'empty',
  ...{ groupId, emptiedIds: [hostId], linkBitsPerSecond },
  ...{ mostMoves: 1, keepTolerance: false },
});

/** What a stop leaves altered for the next one: nothing where guests return, or where the host cannot be emptied. */
export const leftBy = (
  fleet: Fleet,
  { returns, platformId }: RoundAsk,
  hostId: string,
  { stuck }: Pick<Rearranged, 'stuck'>,
  patches: readonly Patch[],
): readonly Patch[] =>
  stuck.length > 0 ? [] : [...(returns ? [] : patches), ...takesRelease(fleet, hostId, platformId)];

/** The host with the release it takes. */
function takesRelease(fleet: Fleet, hostId: string, platformId: string | null): Patch[] {
  const host = fleet.need('host', hostId);
  if (platformId === null || host.platformId === platformId) return [];
  return [
    {
      ...{ op: 'update', kind: 'host', id: hostId, seen: host.revision },
      before: { platformId: host.platformId },
      after: { platformId },
    },
  ];
}

export function roundStop(
  fleet: Fleet,
  { groupId, platformId }: RoundAsk,
  hostId: string,
  found: Rearranged,
): RoundStop {
  const mates = fleet.backing(groupId);
  const renewed = mates.filter((id) => fleet.need('host', id).platformId === platformId).length;
  const { moves, stuck, proof, bytes, seconds, tolerance } = found;
  const shutDown = moves
    .filter(({ state, running }) => state === 'in service' && !running)
    .map(({ name }) => name);
  const { name } = fleet.need('host', hostId);
  return {
    ...{ hostId, host: name, shutDown, moves, stuck, proof, bytes, seconds, tolerance },
    renewed: platformId === null ? null : { hosts: renewed, of: mates.length },
  };
}

export function patchRound(
  { returns, workMinutes, platformId }: RoundAsk,
  stops: RoundStop[],
): PatchRound {
  const ways = returns ? 2 : 1;
  const stuck = stops.filter((stop) => stop.stuck.length > 0);
  // A host that cannot be emptied is not begun with.
  const done = stops.filter((stop) => stop.stuck.length === 0);
  const bytes = done.reduce((sum, stop) => sum + stop.bytes, 0) * ways;
  const times = stops.map((stop) => stop.seconds);
  const seconds =
    times.includes(null) || stuck.length > 0
      ? null
      : times.reduce<number>((sum, one) => sum + one! * ways + workMinutes * 60, 0);
  const moves = done.reduce((sum, stop) => sum + stop.moves.length, 0) * ways;
  const work =
    stuck.length === 0
      ? `${counted(stops.length, 'host')} can be worked at in turn`
      : `${done.length} of ${counted(stops.length, 'host')} can be worked at in turn; not ${fewNames(stuck.map(({ host }) => host))}`;
  const time = seconds === null ? '' : `, about ${formatDuration(seconds)} in all`;
  return {
    headline: `${work}: ${counted(moves, 'move')}, ${formatBinary(bytes, 'up')} travel${time}.${mixedFor(platformId, stops, ways, workMinutes)}`,
    ...{ stops, bytes, seconds },
  };
}

/** How long releases are mixed: from the end of work at the first host to the end of work at the last. */
function mixedFor(
  platformId: string | null,
  stops: readonly RoundStop[],
  ways: number,
  workMinutes: number,
): string {
  const done = stops.filter((stop) => stop.stuck.length === 0);
  const [first, last] = [done[0], done.at(-1)];
  if (platformId === null || !first || !last) return '';
  if (last.renewed!.hosts + 1 < last.renewed!.of)
    return ' Releases stay mixed afterwards: not every host of the group takes the new one.';
  if (first === last) return '';
  const times = done.map(({ seconds }) => seconds);
  if (times.includes(null)) return ' For how long releases are mixed is not known.';
  const all = times.reduce<number>((sum, one) => sum + one! * ways, 0);
  // Without the way out of the first host, and the way back to the last.
  const ends = first.seconds! + last.seconds! * (ways - 1);
  const work = workMinutes * 60 * (done.length - 1);
  return ` Releases are mixed for about ${formatDuration(all - ends + work)}.`;
}
