/** Orders that are kept are those that sorting would give, whatever alters. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Fleet, type Key, type Patch, type Row } from './index.js';

const id = (n: number) => String(n).padStart(4, '0');
type KeyOf = (fleet: Fleet, guest: Row<'guest'>) => Key | undefined;

/** Of itself, of another row, of a kept value, of what refers to it, and only of some. */
const KEYS: Record<string, KeyOf> = {
  name: (_, guest) => guest.name,
  vcpu: (_, guest) => guest.vcpu,
  host: (fleet, guest) => fleet.get('host', guest.hostId)?.name ?? '',
  neighbours: (fleet, { hostId }) =>
    fleet.memo(hostId, 'neighbours', () => fleet.referring('guest', 'hostId', hostId).length),
  volumes: (fleet, guest) => fleet.referring('volume', 'guestId', guest.id).length,
  away: (fleet, guest) => (fleet.get('host', guest.hostId) ? undefined : guest.name),
};
const ALL = Object.keys(KEYS);

/** What sorting all of them says. */
function bySorting(fleet: Fleet, name: string, sign: number): string[] {
  const rows = [...fleet.all('guest')].flatMap((guest) => {
    const key = KEYS[name]!(fleet, guest);
    return key === undefined ? [] : [{ id: guest.id, key }];
  });
  rows.sort((a, b) => (a.key < b.key ? -sign : a.key > b.key ? sign : 0));
  return rows.map((row) => row.id);
}

const put = (fleet: Fleet, kind: 'guest' | 'host' | 'volume', n: number, row: object): Patch => {
  const key = `${kind}-${id(n)}`;
  const held = fleet.get(kind, key);
  return held
    ? ({ op: 'update', kind, id: key, seen: held.revision, before: {}, after: row } as Patch)
    : ({ op: 'create', kind, id: key, after: row } as Patch);
};
const remove = (kind: Patch['kind'], n: number): Patch =>
  ({ op: 'delete', kind, id: `${kind}-${id(n)}`, seen: 0, before: {} }) as Patch;

interface Step {
  kind: 'guest' | 'host' | 'volume';
  n: number;
  name: string;
  host: number;
  goes: boolean;
  how: 'record' | 'over' | 'twice over' | 'forget';
}
const step: fc.Arbitrary<Step> = fc.record({
  kind: fc.constantFrom('guest', 'guest', 'host', 'volume'),
  n: fc.integer({ min: 0, max: 40 }),
  name: fc.constantFrom('a', 'b', 'c', 'd'),
  host: fc.integer({ min: 0, max: 3 }),
  goes: fc.boolean(),
  how: fc.constantFrom('record', 'record', 'record', 'over', 'twice over', 'forget'),
});

function patchOf(fleet: Fleet, { kind, n, name, host, goes }: Step): Patch {
  const at = kind === 'host' ? n % 4 : n;
  if (goes && fleet.get(kind, `${kind}-${id(at)}`)) return remove(kind, at);
  if (kind === 'host') return put(fleet, kind, at, { name });
  if (kind === 'volume') return put(fleet, kind, at, { guestId: `guest-${id((n * host) % 41)}` });
  return put(fleet, kind, at, { name, vcpu: host, hostId: `host-${id(host)}` });
}

it('an order follows the record, of a fleet and of what is laid over it, whatever keys are computed from', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 90 }), (steps) => {
      const fleet = new Fleet();
      const holds = (one: Fleet) => {
        for (const name of ALL)
          for (const [order, sign] of [
            ['up', 1],
            ['down', -1],
          ] as const)
            // prettier-ignore
            expect(one.ordered('guest', name, KEYS[name]!, order).map((row) => row.id), name).toEqual(
              bySorting(one, name, sign),
            );
      };
      for (const one of steps) {
        const patch = patchOf(fleet, one);
        if (one.how === 'forget') fleet.forgetKept();
        if (one.how === 'record' || one.how === 'forget') fleet.apply([patch], fleet.revision + 1);
        else {
          const would = fleet.overlay([patch]);
          holds(would);
          const next = { ...one, n: (one.n + 7) % 41, goes: false };
          if (one.how === 'twice over') holds(would.overlay([patchOf(would, next)]));
        }
        holds(fleet);
      }
    }),
    { numRuns: 300 },
  );
});

it('only keys that a patch may alter are computed anew', () => {
  const fleet = new Fleet();
  let computed = 0;
  const key: KeyOf = (one, guest) => {
    computed += 1;
    return KEYS.host!(one, guest);
  };
  const ask = () => {
    computed = 0;
    fleet.ordered('guest', 'host', key);
    return computed;
  };
  const all = Array.from({ length: 3200 }, (_, n) =>
    put(fleet, 'guest', n, { name: `g${n}`, vcpu: 1, hostId: `host-${id(Math.floor(n / 32))}` }),
  );
  fleet.apply([...all, put(fleet, 'host', 3, { name: 'c' })], 1);
  expect(ask()).toBe(3200);
  expect(ask()).toBe(0);
  fleet.apply([put(fleet, 'guest', 5, { name: 'z' })], 2);
  expect(ask()).toBe(16);
  fleet.apply([put(fleet, 'host', 3, { name: 'd' })], 3);
  expect(ask()).toBe(32);
  fleet.apply([put(fleet, 'volume', 1, { guestId: 'guest-0077' })], 4);
  expect(ask()).toBe(16);
  fleet.apply([{ op: 'create', kind: 'site', id: 'one', after: { name: 'Annex' } } as Patch], 5);
  expect(ask()).toBe(0);
});

it('whoever was given a list is told when a key of it may have altered, and no kept value is made of it', () => {
  const fleet = new Fleet();
  fleet.apply([put(fleet, 'guest', 1, { name: 'a', vcpu: 1, hostId: 'host-0001' })], 1);
  let told = 0;
  const watch = () =>
    fleet.watched(
      () => fleet.ordered('guest', 'host', KEYS.host!).length,
      () => (told += 1),
      0,
    );
  watch();
  fleet.apply([{ op: 'create', kind: 'site', id: 'one', after: { name: 'Annex' } } as Patch], 2);
  expect(told).toBe(0);
  fleet.apply([put(fleet, 'host', 1, { name: 'tern' })], 3);
  expect(told).toBe(1);
  watch();
  fleet.forgetKept();
  expect(told).toBe(2);
  expect(() =>
    fleet.memo('x', 'of a list', () => fleet.ordered('guest', 'host', KEYS.host!)),
  ).toThrow('cannot be a part of a kept value');
});

it('the orders asked for the longest ago are let go', () => {
  const fleet = new Fleet();
  fleet.apply([put(fleet, 'guest', 1, { name: 'a', vcpu: 1, hostId: 'host-0001' })], 1);
  let [computed, told] = [0, 0];
  const ask = (n: number) =>
    fleet.ordered('guest', `n${n}`, (_, guest) => {
      computed += 1;
      return guest.name;
    });
  fleet.watched(
    () => ask(0),
    () => (told += 1),
    0,
  );
  for (let n = 1; n < 20; n += 1) ask(n);
  ask(1);
  expect([computed, told]).toEqual([20, 0]);
  ask(20);
  expect([computed, told]).toEqual([21, 1]);
  ask(1);
  expect(computed).toBe(21);
  ask(0);
  expect(computed).toBe(22);
});
