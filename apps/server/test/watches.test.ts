/** What is kept for browser windows, whoever names one: within bounds, and never less than what a window has to hear. */
import { Fleet, type Patch } from '@insel/core';
import { expect, it } from 'vitest';
import { Watches } from '../src/events/watches.js';

const NOW = '2026-11-20T08:00:00.000Z';
const create: Patch = { op: 'create', kind: 'site', id: 's', after: { name: 'Pier' } };

/** Asks as that window, and alters what was answered, so many times. */
function asked(watches: Watches, id: string, times: number): void {
  const fleet = new Fleet();
  fleet.apply([create], 1);
  for (let count = 1; count <= times; count += 1) {
    const read = () => fleet.get('site', 's');
    watches.watched({ id, count, question: 'the site' }, { fleet, now: NOW }, read);
    const after = { name: `Pier ${count}` };
    fleet.apply(
      [{ op: 'update', kind: 'site', id: 's', seen: count, before: {}, after }],
      count + 1,
    );
  }
}

it('a window that never listens gathers no marks without end, and learns that nothing is known of it', () => {
  const watches = new Watches();
  asked(watches, 'deaf', 1000);
  expect(watches.altered('deaf').length).toBeLessThanOrEqual(200);
  const late = new Watches();
  asked(late, 'deaf', 250);
  asked(late, 'another', 3);
  expect(late.altered('another')).toHaveLength(3);
  // It was forgotten once, and asked again since: of those later answers it hears.
  expect(late.altered('deaf')).toHaveLength(50);
});

it('a window that listens hears of each answer, however long it has not been told', () => {
  const watches = new Watches();
  expect(watches.listen('awake', {})).toBe(false);
  asked(watches, 'awake', 1000);
  expect(watches.altered('awake')).toHaveLength(1000);
});
