/** Cases of placement out of a seed, for tests and the bench: invented sizes in whole numbers, nothing of a real place. */
import { chance } from './chance.js';
import type { Limit, PackingQuestion, Placing } from './question.js';

export interface Sizes {
  units: readonly (readonly number[])[];
  hosts: readonly (readonly number[])[];
  candidates?: readonly (readonly number[])[];
  limits?: readonly Limit[];
}

export function questionOf({ units, hosts, candidates, limits = [] }: Sizes): PackingQuestion {
  const dims = hosts[0]?.length ?? units[0]?.length ?? 1;
  const everywhere = Int32Array.from(hosts.keys());
  return {
    units: units.length,
    hosts: hosts.length,
    dims,
    classes: 1,
    classOf: new Int32Array(hosts.length),
    need: Float64Array.from(units.flat()),
    room: Float64Array.from(hosts.flat()),
    candidates: candidates ? shared(candidates) : units.map(() => everywhere),
    limits,
  };
}

function shared(sets: readonly (readonly number[])[]): Int32Array[] {
  const known = new Map<string, Int32Array>();
  return sets.map((set) => {
    const key = set.join();
    const held = known.get(key) ?? Int32Array.from(set);
    known.set(key, held);
    return held;
  });
}

/** Many guests of a few sizes, dealt out over hosts of some kinds as they came: far more hosts than they need. */
export function crowd(
  seed: number,
  { hosts, guests, kinds }: { hosts: number; guests: number; kinds: number },
): { question: PackingQuestion; start: Placing } {
  const random = chance(seed);
  const shapes = [
    ...[
      [524_288, 512],
      [262_144, 256],
      [786_432, 384],
      [524_288, 1024],
    ],
  ].slice(0, kinds);
  const rooms = Array.from({ length: hosts }, (_, i) => shapes[i % kinds]!);
  const units = Array.from({ length: guests }, () => {
    const gib = [2, 4, 4, 8, 8, 16, 16, 32, 64][Math.floor(random() * 9)]!;
    const vcpu = gib / [2, 4, 8][Math.floor(random() * 3)]!;
    return [gib * 1024 + 130 + Math.floor(random() * 64), Math.max(1, Math.floor(vcpu))];
  });
  const left = rooms.map((room) => [...room]);
  const start = new Int32Array(guests);
  let at = 0;
  for (const [unit, [memory, vcpu]] of units.entries()) {
    while (left[at]![0]! < memory! || left[at]![1]! < vcpu!) at = (at + 1) % hosts;
    left[at]![0]! -= memory!;
    left[at]![1]! -= vcpu!;
    start[unit] = at;
    at = (at + 1) % hosts;
  }
  return { question: questionOf({ units, hosts: rooms }), start };
}

/** At most `most` of the members in a zone; null: all of them in one. */
export const rule = (
  members: readonly number[],
  zoneOf: readonly number[],
  most: number | null,
): Limit => ({
  members,
  zoneOf: Int32Array.from(zoneOf),
  most,
  standing: new Int32Array(Math.max(0, ...zoneOf) + 1),
});

/**
 * A failover: guests of the sizes people give them onto hosts that are `tightness` full afterwards, some apart, some with
 * fewer hosts within reach.
 */
export function failoverCase(seed: number): PackingQuestion {
  const random = chance(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const hosts = 2 + Math.floor(random() * 7);
  const count = 3 + Math.floor(random() * 22);
  const units = Array.from({ length: count }, () => {
    const gib = pick([1, 2, 2, 4, 4, 4, 8, 8, 16, 24, 32]);
    return [gib * 1024 + 136 + gib * 10, pick([1, 2, 2, 4, 4, 8])];
  });
  const tight = 0.8 + random() * 0.25;
  const sums = [0, 1].map((d) => units.reduce((sum, unit) => sum + unit[d]!, 0));
  const parts = Array.from({ length: hosts }, () => 0.5 + random());
  const all = parts.reduce((sum, part) => sum + part, 0);
  const rooms = parts.map((part) => [
    Math.floor((sums[0]! / tight) * (part / all)),
    Math.ceil((sums[1]! / (tight * 0.85)) * (part / all)),
  ]);
  const reach = units.map(() =>
    random() < 0.75
      ? [...rooms.keys()]
      : [...rooms.keys()].filter((host) => random() < 0.6 || host === 0),
  );
  const limits: Limit[] = [];
  if (random() < 0.5) {
    const members = [...units.keys()].filter(() => random() < 0.2);
    limits.push(rule(members.slice(0, hosts), [...rooms.keys()], 1));
  }
  if (random() < 0.3) {
    const racks = rooms.map((_, host) => host % 2);
    limits.push(rule([...units.keys()].slice(0, 4), racks, 2));
  }
  return questionOf({ units, hosts: rooms, candidates: reach, limits });
}

/** Guests on hosts as they stand; each host is `full` of its memory, some guests lie apart. */
export function standing(
  seed: number,
  { hosts = 4, guests = 10, full = 0.7, apart = 0.2 } = {},
): { question: PackingQuestion; start: Int32Array } {
  const random = chance(seed);
  const start = Int32Array.from({ length: guests }, () => Math.floor(random() * hosts));
  const units = Array.from({ length: guests }, () => [
    [1, 2, 2, 4, 4, 8, 8, 16][Math.floor(random() * 8)]!,
    [1, 2, 2, 4][Math.floor(random() * 4)]!,
  ]);
  const taken = (host: number, d: number) =>
    units.reduce((sum, unit, i) => (start[i] === host ? sum + unit[d]! : sum), 0);
  const rooms = Array.from({ length: hosts }, (_, host) => [
    Math.max(8, Math.ceil(taken(host, 0) / full + random() * 2)),
    Math.max(8, Math.ceil(taken(host, 1) / (full * 0.9))),
  ]);
  // Those of a rule stand apart already: the first on each host that comes.
  const members: number[] = [];
  for (const [unit, host] of start.entries())
    if (random() < apart && members.every((other) => start[other] !== host)) members.push(unit);
  const limits = members.length > 1 ? [rule(members, [...rooms.keys()], 1)] : [];
  return { question: questionOf({ units, hosts: rooms, limits }), start };
}
