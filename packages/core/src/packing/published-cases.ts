/**
 * Classes of cases whose recipe is published: packing in two dimensions into equal bins, Spieksma, Computers & Operations
 * Research 21(1), 1994, as Caprara and Toth number them, Discrete Applied Mathematics 111(3), 2001. Recipes from memory; class
 * 9 is left out, since its recipe is not remembered. The numbers themselves come out of our own seeds.
 */
import { chance } from './chance.js';
import { questionOf } from './cases.js';
import type { PackingQuestion } from './question.js';

export const PUBLISHED_CLASSES = [1, 2, 3, 4, 5, 6, 7, 8, 10] as const;
export type PublishedClass = (typeof PUBLISHED_CLASSES)[number];

type Between = (from: number, to: number) => number;

/** Capacity in both dimensions, and how one item is drawn. */
const RECIPES: Record<
  Exclude<PublishedClass, 10>,
  { room: number; item: (between: Between) => number[] }
> = {
  1: { room: 1000, item: (between) => [between(100, 400), between(100, 400)] },
  2: { room: 1000, item: (between) => [between(1, 1000), between(1, 1000)] },
  3: { room: 1000, item: (between) => [between(200, 800), between(200, 800)] },
  4: { room: 1000, item: (between) => [between(50, 200), between(50, 200)] },
  5: { room: 1000, item: (between) => [between(25, 100), between(25, 100)] },
  6: { room: 150, item: (between) => [between(20, 100), between(20, 100)] },
  7: { room: 150, item: (between) => alike(between, (first) => [first - 10, first + 10]) },
  8: { room: 150, item: (between) => alike(between, (first) => [110 - first, 130 - first]) },
};

/** The second number hangs on the first. */
function alike(between: Between, range: (first: number) => [number, number]): number[] {
  const first = between(20, 100);
  const [from, to] = range(first);
  return [first, between(Math.max(1, from), to)];
}

/** A case of a class. `optimum` is known where the recipe gives it: class 10 fills its bins exactly, three items each. */
export function publishedCase(
  number: PublishedClass,
  units: number,
  seed: number,
): { question: PackingQuestion; optimum: number | null } {
  const random = chance(seed * 100 + number);
  const between: Between = (from, to) => from + Math.floor(random() * (to - from + 1));
  const room = number === 10 ? 100 : RECIPES[number].room;
  const items =
    number === 10
      ? triplets(between, units / 3, room)
      : Array.from({ length: units }, () => RECIPES[number].item(between));
  const hosts = Array.from({ length: items.length }, () => [room, room]);
  return {
    question: questionOf({ units: items, hosts }),
    optimum: number === 10 ? items.length / 3 : null,
  };
}

/** Bins cut into three items each: two parts between a quarter and a half, the third is what is left. */
function triplets(between: Between, bins: number, room: number): number[][] {
  return Array.from({ length: Math.floor(bins) }, () => {
    const cut = () => {
      const [a, b] = [between(room / 4, room / 2), between(room / 4, room / 2)];
      return [a, b, room - a - b];
    };
    const [memory, processors] = [cut(), cut()];
    return [0, 1, 2].map((i) => [memory[i]!, processors[i]!].map((size) => Math.max(0, size)));
  }).flat();
}
