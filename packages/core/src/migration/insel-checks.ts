import { addressesOf } from '../names/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Check } from './check.js';
import { sideOf } from './sides.js';

/**
 * Whether Insel itself runs on what moves, or on a machine at either side; none where the record does not know it.
 *
 * @param own addresses of the machine that Insel runs on, canonical
 */
export function inselChecks(
  fleet: Fleet,
  move: Row<'migration'>,
  own: ReadonlySet<string>,
): Check[] {
  const [source, target] = [sideOf(fleet, move, 'source'), sideOf(fleet, move, 'target')];
  const { name } = fleet.need('guest', move.guestId);
  const machines = [{ kind: 'guest' as const, id: move.guestId, name }, source, target];
  const found = machines.find(({ kind, id }) =>
    addressesOf(fleet, kind, id).some(({ ip }) => own.has(ip)),
  );
  if (!found) return [];
  return [
    {
      name: 'Insel itself',
      advice: true,
      passed: false,
      sentence: `Insel runs on ${found.name}: while it is down, nobody looks anything up or ticks here.`,
      remedy: 'Print the runbook, or save its page, before.',
    },
  ];
}
