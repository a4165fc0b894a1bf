/** The start order of the record, kept until any row alters. */
import type { Fleet } from '../record/index.js';
import { circlesOf, type Circle } from './circles.js';
import { neededGraph, startGraph, type StartGraph } from './needs.js';
import { startOrder, type StartOrder } from './order.js';

export interface FleetStart {
  graph: StartGraph;
  order: StartOrder;
  circles: Circle[];
}

export function fleetStart(fleet: Fleet): FleetStart {
  return fleet.whole('start', () => {
    const graph = startGraph(fleet);
    return { graph, order: startOrder(graph), circles: fleetCircles(fleet) };
  });
}

/** The circles of the record, without the order of all that is in none. */
export function fleetCircles(fleet: Fleet): Circle[] {
  return fleet.whole('circles', () => {
    const graph = neededGraph(fleet);
    return circlesOf(graph, startOrder(graph));
  });
}

/** Why one of the blocked does not come up, in a sentence. */
export function whyBlocked({ graph, order, circles }: FleetStart, key: string): string {
  const node = graph.get(key)!;
  if (node.absent) return `${node.name} ${node.absent}.`;
  const circle = circles.find((found) => found.members.some((member) => member.key === key));
  if (circle) return `${node.name} is in a circle: ${circle.steps.join('; ')}.`;
  const first = node.needs
    .map((need) => graph.get(need.to)!)
    .filter((need) => order.blocked.has(need.key));
  const absent = first.find((need) => need.absent);
  return absent
    ? `${node.name} waits for ${absent.name}, which ${absent.absent}.`
    : `${node.name} waits for ${first.map((need) => need.name).join(', ')}, which cannot start.`;
}
