/**
 * Placing units by an aim, as a mixed-integer program: x of a kind of units and a host is how many of them go there, s of a
 * kind how many find no place. Units that ask the same are one kind, so its size is kinds · hosts however many they are.
 * Written in the LP format that HiGHS documents.
 */
import { type PlacingAim } from './aims.js';
import type { LinearAnswer } from './linear-model.js';
import { Program, term, type Term } from './linear-program.js';
import { NEARLY, x, addAim } from './place-aim.js';
import { needAt, type PackingQuestion, type Placing } from './question.js';
import { faultsOf } from './verify.js';

/** Hosts that must be able to fail: what stands on the others must be able to take what they carry, so much more of it. */
export interface Backed {
  host: number;
  /** What it carries before, by dimension, and what is free in all on the others, what is kept free on purpose included. */
  carries: readonly number[];
  free: readonly number[];
  /** 0: the sums must do. A fit of the sums is no fit of the guests, so it is raised where that fails. */
  margin: number;
}

export interface PlaceModel {
  program: string;
  /** The same without whole numbers: what it comes to, nothing is below. */
  relaxed: string;
  kinds: readonly (readonly number[])[];
  /** What one that finds no place weighs: more than anything else together. */
  unplaced: number;
  choices: number;
}

/** Units that ask the same of every host, may go to the same hosts, and stand under the same rules and licences. */
function kindsOf(question: PackingQuestion, aim: PlacingAim): number[][] {
  const { units, classes, dims, need, candidates, limits } = question;
  const numbers = new Map<Int32Array, number>();
  for (const set of candidates) if (!numbers.has(set)) numbers.set(set, numbers.size);
  const under = Array.from({ length: units }, () => '');
  for (const [i, { members }] of limits.entries())
    for (const unit of members) under[unit] += `${i},`;
  const kinds = new Map<string, number[]>();
  for (let unit = 0; unit < units; unit += 1) {
    const key = [
      need.subarray(unit * classes * dims, (unit + 1) * classes * dims).join(),
      numbers.get(candidates[unit]!),
      under[unit],
      aim.by === 'licences' ? aim.licences.map(({ covers }) => covers[unit]).join('') : '',
    ].join(' ');
    const kind = kinds.get(key);
    if (kind) kind.push(unit);
    else kinds.set(key, [unit]);
  }
  return [...kinds.values()];
}

/** Between which values what is wanted lies, where something is known of it. */
export interface Between {
  least: number;
  most: number;
}

export function placeModel(
  question: PackingQuestion,
  aim: PlacingAim,
  backed: readonly Backed[] = [],
  between: Between = { least: 0, most: Infinity },
): PlaceModel {
  const { hosts, dims, need, room } = question;
  const kinds = kindsOf(question, aim);
  const needOf = (kind: number, host: number, d: number): number =>
    need[needAt(question, kinds[kind]![0]!, host) + d]!;
  const most = (kind: number, host: number): number => {
    let held = kinds[kind]!.length;
    for (let d = 0; d < dims; d += 1) {
      const demand = needOf(kind, host, d);
      if (demand <= 0) continue;
      const at = host * dims + d;
      held = Math.min(held, Math.floor(Math.max(0, room[at]!) / demand));
      // Nothing fuller than what is found already is wanted.
      if (aim.by === 'even' && aim.has[at]! > 0 && between.most < Infinity)
        held = Math.min(
          held,
          Math.floor(Math.max(0, between.most * aim.has[at]! - aim.taken[at]!) / demand + NEARLY),
        );
    }
    return held;
  };
  const model = new Program();
  const onHost: number[][] = Array.from({ length: hosts }, () => []);
  const mostOf = new Map<string, number>();
  for (const [kind, units] of kinds.entries()) {
    for (const host of question.candidates[units[0]!]!) {
      const held = most(kind, host);
      if (held === 0) continue;
      model.whole(x(kind, host), held);
      mostOf.set(x(kind, host), held);
      onHost[host]!.push(kind);
    }
    model.whole(`s${kind}`, units.length);
    const places = [...question.candidates[units[0]!]!].filter((host) =>
      onHost[host]!.includes(kind),
    );
    model.row(
      [...places.map((host) => term(1, x(kind, host))), term(1, `s${kind}`)],
      '=',
      units.length,
    );
  }
  const takes = (host: number, d: number, scale = 1): Term[] =>
    onHost[host]!.flatMap((kind) =>
      needOf(kind, host, d) > 0 ? [term(needOf(kind, host, d) * scale, x(kind, host))] : [],
    );
  for (let host = 0; host < hosts; host += 1)
    for (let d = 0; d < dims; d += 1)
      model.row(takes(host, d), '<=', Math.max(0, room[host * dims + d]!));
  for (const [i, limit] of question.limits.entries()) addLimit(model, i, limit, kinds, onHost);
  for (const { host, carries, free, margin } of backed)
    for (const [d, held] of carries.entries()) {
      const others = Array.from({ length: hosts }, (_, other) => other).filter(
        (other) => other !== host,
      );
      model.row(
        [...others.flatMap((other) => takes(other, d)), ...takes(host, d, 1 + margin)],
        '<=',
        free[d]! - held * (1 + margin),
      );
    }
  const unplaced = addAim(model, aim, {
    ...{ question, kinds, onHost, takes, mostOf },
    least: between.least,
  });
  for (const kind of kinds.keys()) model.cost(unplaced, `s${kind}`);
  return {
    program: model.text(true),
    relaxed: model.text(false),
    kinds,
    unplaced,
    choices: mostOf.size,
  };
}

function addLimit(
  model: Program,
  number: number,
  { members, zoneOf, most, standing }: PackingQuestion['limits'][number],
  kinds: readonly (readonly number[])[],
  onHost: readonly (readonly number[])[],
): void {
  const under = new Set(members);
  const bound = [...kinds.keys()].filter((kind) => under.has(kinds[kind]![0]!));
  const inZone = new Map<number, Term[]>();
  for (const [host, there] of onHost.entries())
    for (const kind of bound)
      if (there.includes(kind)) {
        const terms = inZone.get(zoneOf[host]!) ?? [];
        terms.push(term(1, x(kind, host)));
        inZone.set(zoneOf[host]!, terms);
      }
  if (most !== null) {
    for (const [zone, terms] of inZone) model.row(terms, '<=', Math.max(0, most - standing[zone]!));
    return;
  }
  const elsewhere = standing.findIndex((count) => count > 0);
  for (const [zone, terms] of inZone) {
    model.whole(`z${number}_${zone}`, elsewhere >= 0 && zone !== elsewhere ? 0 : 1);
    model.row([...terms, term(-members.length, `z${number}_${zone}`)], '<=', 0);
  }
  model.row(
    [...inZone.keys()].map((zone) => term(1, `z${number}_${zone}`)),
    '<=',
    1,
  );
}

/** The placing that an answer says; null where it does not hold when it is counted in whole numbers. */
export function placingOfKinds(
  question: PackingQuestion,
  kinds: PlaceModel['kinds'],
  { value }: LinearAnswer,
): Placing | null {
  if (!value) return null;
  const at = new Int32Array(question.units).fill(-1);
  for (const [kind, units] of kinds.entries()) {
    let next = 0;
    for (const host of question.candidates[units[0]!]!)
      for (let n = Math.round(value(x(kind, host))); n > 0 && next < units.length; n -= 1)
        at[units[(next += 1) - 1]!] = host;
  }
  return faultsOf(question, at).length > 0 ? null : at;
}
