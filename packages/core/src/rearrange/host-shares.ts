/** Hosts before and after moves: what of them is given, what is used, what may fail, what they draw. */
import { capacity, load } from '../host/index.js';
import { failureFates } from '../placement/index.js';
import type { Fleet } from '../record/index.js';
import { usedFullness, type Fullness, type Placing } from '../packing/index.js';
import type { RearrangeProblem } from './rearrange-ask.js';
import type { Rearranged, RearrangedHost } from './rearranged.js';

export function hostView(fleet: Fleet, after: Fleet, id: string): RearrangedHost {
  const sharesOf = (so: Fleet) => {
    const [has, used] = [capacity(so, id), load(so, id)];
    const share = (taken: number, of: number) => (of > 0 ? (taken / of) * 100 : 0);
    return {
      guests: so.referring('guest', 'hostId', id).filter(({ state }) => state !== 'retired').length,
      memoryPercent: share(used.memoryMiB, has.memory.value),
      vcpuPercent: share(used.vcpu, has.vcpu.value),
    };
  };
  const [before, then] = [sharesOf(fleet), sharesOf(after)];
  const { name } = fleet.need('host', id);
  return { id, name, before, after: then, empty: then.guests === 0, used: null };
}

/** How full a host is in its fullest hour, before and with all where they are then. */
export function usedOn(
  { use, start }: RearrangeProblem,
  at: Placing,
): (host: number) => RearrangedHost['used'] {
  if (!use) return () => null;
  const [was, is] = [usedFullness(use, start), usedFullness(use, at)];
  const fullest = ({ hours, share }: Fullness, host: number) =>
    Math.max(...Array.from({ length: hours }, (_, hour) => share(host, hour)));
  return (host) => ({ before: fullest(was, host), after: fullest(is, host) });
}

export function toleranceOf(
  fleet: Fleet,
  after: Fleet,
  hostIds: readonly string[],
): Rearranged['tolerance'] {
  const mayFail = (so: Fleet) => {
    const carrying = hostIds.filter((id) => so.referringCount('guest', 'hostId', id) > 0);
    const may = carrying.filter((id) => {
      const domain = { kind: 'host' as const, id, name: so.need('host', id).name, hostIds: [id] };
      return failureFates(so, domain).answer === 'all restart';
    });
    return { carrying, may: new Set(may) };
  };
  const [was, is] = [mayFail(fleet), mayFail(after)];
  return {
    before: was.may.size,
    beforeOf: was.carrying.length,
    after: is.may.size,
    afterOf: is.carrying.length,
    lost: is.carrying
      .filter((id) => was.may.has(id) && !is.may.has(id))
      .map((id) => fleet.need('host', id).name),
  };
}

export function wattsOf(fleet: Fleet, hosts: readonly RearrangedHost[]): number | null {
  const watts = hosts
    .filter(({ empty, before }) => empty && before.guests > 0)
    .map(({ id }) => fleet.need('host', id).drawWatts);
  return watts.includes(null) ? null : watts.reduce<number>((sum, one) => sum + one!, 0);
}
