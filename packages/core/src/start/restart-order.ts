/**
 * How guests come up again that lost their host and are started elsewhere: each when what it needs is up, while whatever was
 * not hit is up already. Counted from when they are started. Costs the guests that were hit and their needs.
 */
import type { Fleet } from '../record/index.js';
import { fleetStart } from './fleet-start.js';
import { startKey, startsAtOnce, type StartGraph, type StartNeed } from './needs.js';
import { startOrder } from './order.js';

export interface Restarted {
  guestId: string;
  /** Where it is started again; null: nowhere. */
  onHostId: string | null;
}

export interface ComesUp {
  /** Until the last that comes up is of use. */
  seconds: number;
  /** Name of the last; empty where none comes up. */
  last: string;
  /** Seconds until each is of use, by id. */
  up: Record<string, number>;
  /** Started, but never of use: what it needs stays down, or needs it in a circle. */
  blocked: { guestId: string; name: string; waitsFor: string[] }[];
}

export function restartOrder(fleet: Fleet, hit: readonly Restarted[]): ComesUp {
  const { graph: whole } = fleetStart(fleet);
  const where = new Map(hit.map(({ guestId, onHostId }) => [startKey('guest', guestId), onHostId]));
  const graph: StartGraph = new Map();
  const isUp = (key: string): boolean => {
    const node = whole.get(key);
    return node !== undefined && !node.absent && !where.has(key);
  };
  for (const [key, onHostId] of where) {
    const node = whole.get(key);
    if (!node) continue;
    const most = onHostId === null ? null : startsAtOnce(fleet, onHostId);
    graph.set(key, {
      ...node,
      needs: node.needs.filter((need) => counts(need, where, whole, isUp)),
      turns: most === null ? undefined : [{ atId: onHostId!, most }],
      absent: onHostId === null ? 'does not restart' : undefined,
    });
  }
  for (const { needs } of [...graph.values()])
    for (const { to } of needs) {
      const service = whole.get(to);
      if (!service || graph.has(to)) continue;
      const providers = service.needs.filter((need) => where.has(need.to));
      graph.set(to, { ...service, needs: providers });
    }
  const { starts, blocked, seconds } = startOrder(graph);
  const ups = [...starts.values()].filter(({ node }) => node.kind === 'guest');
  const last = ups.reduce<(typeof ups)[number] | undefined>(
    (late, one) => (late && late.up >= one.up ? late : one),
    undefined,
  );
  return {
    seconds,
    last: last?.node.name ?? '',
    up: Object.fromEntries(ups.map(({ node, up }) => [node.id, up])),
    blocked: [...blocked]
      .map((key) => graph.get(key)!)
      .filter((node) => node.kind === 'guest' && !node.absent)
      .map((node) => ({
        guestId: node.id,
        name: node.name,
        waitsFor: node.needs
          .filter(({ to }) => blocked.has(to))
          .map(({ to }) => graph.get(to)!.name),
      }))
      .sort((a, b) => a.name.localeCompare(b.name)),
  };
}

/** Whether a need has to be waited for: what was not hit is up; a service is while anybody beyond provides it. */
function counts(
  { to, way }: StartNeed,
  where: ReadonlyMap<string, string | null>,
  whole: StartGraph,
  isUp: (key: string) => boolean,
): boolean {
  if (way === 'runs on') return false;
  if (where.has(to)) return true;
  const node = whole.get(to);
  return (
    node?.kind === 'service' &&
    node.needs.some((need) => where.has(need.to)) &&
    !node.needs.some((need) => isUp(need.to))
  );
}
