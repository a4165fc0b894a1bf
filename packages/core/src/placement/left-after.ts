/** What stays free once everybody who lost their place has landed. */
import { own, type Sure } from '../figure/index.js';
import { memoryDemand, capacity, load } from '../host/index.js';
import type { Fleet } from '../record/index.js';
import type { Fates, Packing } from './fates.js';
import { roomLeft } from './fleet-question.js';

/** What stays free on all hosts that stay in service, and the largest gap on one of them. */
export interface LeftAfter {
  hosts: number;
  memory: Sure;
  vcpu: Sure;
  largestGap: { id: string; name: string; memoryMiB: number; vcpu: number };
}

/** Memory and processors that stay free on each of these hosts once the guests have landed. */
export function freeAfter(
  fleet: Fleet,
  packings: readonly Packing[],
  hostIds: Iterable<string>,
): Map<string, { memoryMiB: number; vcpu: number }> {
  const free = new Map([...hostIds].map((id) => [id, roomLeft(fleet, id)]));
  for (const { placement, falling } of packings)
    for (const { guest } of falling) {
      const onHostId = placement.get(guest.id) ?? '';
      const landed = free.get(onHostId);
      if (!landed || onHostId === guest.hostId) continue;
      landed.memoryMiB -= memoryDemand(fleet, onHostId, guest.vcpu, guest.memoryMiB);
      landed.vcpu -= guest.vcpu;
    }
  return free;
}

export function leftAfter(
  fleet: Fleet,
  { packings, fallen }: Pick<Fates, 'packings' | 'fallen'>,
): LeftAfter | null {
  const hosts = [...fleet.all('host')].filter(
    (host) => host.state === 'in service' && !fallen.has(host.id),
  );
  if (hosts.length === 0) return null;
  const free = freeAfter(
    fleet,
    packings,
    hosts.map(({ id }) => id),
  );
  const [largest] = hosts
    .map(({ id, name }) => ({ id, name, ...free.get(id)! }))
    .sort((a, b) => b.memoryMiB - a.memoryMiB);
  const sum = (of: (hostId: string) => number) =>
    hosts.reduce((total, { id }) => total + of(id), 0);
  const figure = (
    name: string,
    unit: 'MiB' | 'vCPU',
    total: number,
    used: number,
    left: number,
  ): Sure => ({
    name,
    title: `Left afterwards, ${unit === 'MiB' ? 'memory' : 'processors'}`,
    value: left,
    unit,
    lines: [
      {
        label:
          hosts.length === 1
            ? `On ${hosts[0]!.name}, which stays`
            : `On the ${hosts.length} hosts that stay`,
        value: total,
        unit,
        operator: '·',
      },
      { label: 'Taken before', value: used, unit, operator: '−' },
      { label: 'Arriving', value: total - used - left, unit, operator: '−' },
      { label: 'Left, over all of them', value: left, unit, operator: '=' },
    ],
    sources: [own('What policies keep free counts as room here: it is kept for this')],
  });
  const left = [...free.values()];
  return {
    hosts: hosts.length,
    memory: figure(
      'memory-left-after',
      'MiB',
      sum((id) => capacity(fleet, id).memory.value),
      sum((id) => load(fleet, id).memoryMiB),
      left.reduce((total, { memoryMiB }) => total + memoryMiB, 0),
    ),
    vcpu: figure(
      'vcpu-left-after',
      'vCPU',
      sum((id) => capacity(fleet, id).vcpu.value),
      sum((id) => load(fleet, id).vcpu),
      left.reduce((total, { vcpu }) => total + vcpu, 0),
    ),
    largestGap: largest!,
  };
}
