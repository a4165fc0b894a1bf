/** Names of a batch of clones: those that are written, and what the pattern gives for the others. */
import { refuse, type Fleet, type Refusal } from '../record/index.js';
import type { Seated } from './clone-seats.js';
import type { MakeClones } from './make-clones.js';
import { namesOf, readPattern } from './name-pattern.js';

export function cloneNames(
  fleet: Fleet,
  input: MakeClones,
  seats: readonly Seated[],
): string[] | Refusal {
  const written = input.clones.flatMap(({ name }, i) => (name ? [{ name, i }] : []));
  const own = new Set<string>();
  for (const { name, i } of written) {
    if (own.has(name.toLowerCase()))
      return refuse({
        code: 'name-twice',
        field: `clones.${i}.name`,
        sentence: `Two of these clones are called ${name}.`,
      });
    own.add(name.toLowerCase());
    const [other] = fleet.named(name);
    if (other)
      return refuse({
        code: 'name-taken',
        field: `clones.${i}.name`,
        sentence: `${name} is the name of another ${other.kind}.`,
        remedy: 'Choose another name, or empty the cell: the pattern gives one.',
      });
  }
  const pattern = readPattern(input.pattern.trim());
  if (input.pattern.trim() === '' || !pattern.ok)
    return refuse({
      code: 'bad-name',
      field: 'pattern',
      sentence: pattern.ok ? 'Write a name pattern, such as tide-{01..12}.' : pattern.sentence,
    });
  const slots = seats
    .filter((_, i) => !input.clones[i]!.name)
    .map(({ hostId }) => {
      const host = fleet.get('host', hostId);
      return { host: host?.name ?? '', site: fleet.get('site', host?.siteId ?? null)?.name ?? '' };
    });
  const made = namesOf(pattern, {
    slots,
    start: input.start,
    taken: (name) => own.has(name.toLowerCase()) || fleet.named(name).length > 0,
  });
  if (made.length < slots.length)
    return refuse({
      code: 'too-few-names',
      field: 'pattern',
      sentence: `${input.pattern.trim()} gives ${made.length} names that are free, ${slots.length} are needed.`,
      remedy: 'Write a longer range, or {n}, which counts on.',
    });
  let next = 0;
  return input.clones.map((clone) => clone.name ?? made[next++]!);
}
