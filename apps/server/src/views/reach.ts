/** Reachability in the worker: mends are tried by deciding them on its replica, which alters nothing. */
import type { MatrixView, ReachQuery, ReachView } from '@insel/contract';
import {
  askReach,
  formatAddress,
  matrix,
  readService,
  tryChange,
  MOST_CLASSES,
  machineInfo,
  worldOf,
  type Context,
  type Fleet,
  type Machine,
  type ReachQuestion,
} from '@insel/core';
import { contextAt } from '../record/context.js';

export function reachView(fleet: Fleet, query: ReachQuery, now: string): ReachView {
  const context: Context = contextAt(now, { id: 'reach', name: 'reach', role: 'administrator' });
  const { from, to, ip, family } = query;
  const service = query.service?.trim() ? readService(query.service) : null;
  if (service && !service.ok) return { sentence: service.sentence };
  if (!to && !ip) return { sentence: 'Say whom to reach: a machine or an address.' };
  const question: ReachQuestion = {
    from: { id: from },
    to: to ? { id: to, ...(ip ? { ip } : {}) } : { ip: ip! },
    ...(service?.ok ? { service: service.value } : {}),
    ...(family ? { family: family === '6' ? 6 : 4 } : {}),
  };
  return askReach(fleet, question, (tried, change) => tryChange(tried, change, context));
}

const firstAddress = (machine: Machine) =>
  machine.ifaces.flatMap((iface) => iface.addresses).sort((a, b) => a.family - b.family)[0] ?? null;

export function matrixView(
  fleet: Fleet,
  ids: readonly string[],
): MatrixView | { sentence: string } {
  const began = performance.now();
  const world = worldOf(fleet);
  const machines = ids.flatMap((id) => world.topology.machines.get(id) ?? []);
  const found = matrix(world.topology, machines, firstAddress);
  if (!found)
    return {
      sentence: `These ${machines.length} machines differ in more than ${MOST_CLASSES} ways: narrow the group by network or host.`,
    };
  const { classOf, cells, simulated } = found;
  const views = machines.map((machine) => {
    const address = firstAddress(machine);
    return { ...machineInfo(machine)!, ip: address ? formatAddress(address) : '' };
  });
  return {
    machines: views,
    classOf,
    cells,
    simulated,
    milliseconds: Math.round(performance.now() - began),
  };
}
