/**
 * The least that one host would need more, so that all who lost their place find one: memory first, processors where memory
 * alone does not do. Each try is a whole question; the answer is the smallest found among the hosts with the largest gaps,
 * in steps of a GiB, and each is told only if the question with it has a placing. Costs hosts tried · log of what is missing.
 */
import { settle } from '../packing/index.js';
import { formatMemory } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { MEMORY, PROCESSORS, type FleetQuestion } from './fleet-question.js';

const MOST_HOSTS = 6;
const BUDGET = 3_000;
const STEP_MIB = 1024;

export function leastMend(
  fleet: Fleet,
  question: FleetQuestion,
  fallen: ReadonlySet<string>,
): string | null {
  const { dims, room, units, need, classes, hostIds } = question;
  let [memory, vcpu] = [0, 0];
  for (let unit = 0; unit < units; unit += 1) {
    memory += need[unit * classes * dims + MEMORY]!;
    vcpu += need[unit * classes * dims + PROCESSORS]!;
  }
  const tried = [...hostIds.keys()]
    .filter(
      (host) =>
        !fallen.has(hostIds[host]!) && question.candidates.some((set) => set.includes(host)),
    )
    .sort((a, b) => room[b * dims + MEMORY]! - room[a * dims + MEMORY]!)
    .slice(0, MOST_HOSTS);
  let best: { host: number; memory: number; vcpu: number } | null = null;
  for (const host of tried) {
    const fits = (moreMemory: number, moreVcpu: number): boolean => {
      const more = room.slice();
      more[host * dims + MEMORY]! += moreMemory;
      more[host * dims + PROCESSORS]! += moreVcpu;
      return settle({ ...question, room: more }, BUDGET).answer === 'fits';
    };
    if (!fits(memory, vcpu)) continue;
    const processors = least(vcpu, 1, (some) => fits(memory, some));
    const mib = least(memory, STEP_MIB, (some) => fits(some, processors));
    if (!best || mib / memory + processors / vcpu < best.memory / memory + best.vcpu / vcpu)
      best = { host, memory: mib, vcpu: processors };
  }
  if (!best) return null;
  const parts = [
    best.memory > 0 && `${formatMemory(best.memory, 'up')} more of memory`,
    best.vcpu > 0 && `${best.vcpu} vCPU more`,
  ].filter(Boolean);
  return `With ${parts.join(' and ')} on ${fleet.need('host', hostIds[best.host]!).name} all that wait for room would find it.`;
}

/** The least multiple of a step that does, where the most does. */
function least(most: number, step: number, does: (some: number) => boolean): number {
  if (does(0)) return 0;
  let [low, high] = [0, Math.ceil(most / step)];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (does(middle * step)) high = middle;
    else low = middle;
  }
  return high * step;
}
