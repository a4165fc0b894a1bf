/** Why a guest stays where it should not, and the least that would let it go. */
import { hostsFor, MEMORY, OWN_DISK, PROCESSORS } from '../placement/index.js';
import { fewNames, formatBinary, formatMemory, MIB } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { needAt, takenOf } from '../packing/index.js';
import { disksOf } from './problem.js';
import { type RearrangeProblem } from './rearrange-ask.js';
import type { Solution } from './solve.js';
import type { Rearranged } from './rearranged.js';

/** Why a guest stays where it should not, and the least that would let it go. */
export function stuckView(
  fleet: Fleet,
  problem: RearrangeProblem,
  { at }: Pick<Solution, 'at'>,
  unit: number,
  still: ReadonlyMap<string, string>,
  unreached?: string,
): Rearranged['stuck'][number] {
  const guest = fleet.need('guest', problem.guestIds[unit]!);
  const base = { guestId: guest.id, name: guest.name };
  const why = still.get(guest.id);
  if (why) return { ...base, why, mend: null };
  const { question } = problem;
  const closed = new Set(problem.closed);
  const left = new Set(problem.closed.map((host) => problem.hostIds[host]!));
  const { sharedPoolIds } = disksOf(fleet, guest.id);
  const { none } = hostsFor(fleet, guest, sharedPoolIds, left, unreached);
  if (none) return { ...base, why: none.sentence, mend: null };
  const free = [MEMORY, PROCESSORS, OWN_DISK].map((dim) => takenOf(question, at, dim));
  const lacks = Array.from(question.candidates[unit]!)
    .filter((host) => !closed.has(host))
    .map((host) => {
      const from = needAt(question, unit, host);
      const missing = [MEMORY, PROCESSORS, OWN_DISK].map((dim) => {
        const demand = question.need[from + dim]!;
        const left = question.room[host * question.dims + dim]! - free[dim]![host]!;
        return demand > 0 ? Math.max(0, demand - left) : 0;
      });
      const sum = missing.reduce(
        (all, one, dim) => all + one / Math.max(1, question.need[from + dim]!),
        0,
      );
      return { host, missing, sum };
    })
    .sort((a, b) => a.sum - b.sum);
  const least = lacks[0]!;
  const [memory, vcpu, disk] = least.missing;
  const parts = [
    memory! > 0 && `${formatMemory(memory!, 'up')} of memory`,
    vcpu! > 0 && `${vcpu} vCPU`,
    disk! > 0 && `${formatBinary(disk! * MIB, 'up')} in a pool of its own`,
  ].filter((part): part is string => Boolean(part));
  const name = fleet.need('host', problem.hostIds[least.host]!).name;
  return parts.length > 0
    ? {
        ...base,
        why: 'no host that suits it has the room',
        mend: `${name} would take it with ${fewNames(parts)} more.`,
      }
    : { ...base, why: `rules keep it from ${name} and the others that have the room`, mend: null };
}
