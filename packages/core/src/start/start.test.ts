import { Graph, alg } from '@dagrejs/graphlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { isRefusal } from '../record/index.js';
import {
  circlesOf,
  fleetCircles,
  fleetStart,
  startGraph,
  startOrder,
  startsAtOnce,
  whyBlocked,
  type StartGraph,
  type StartNode,
} from './index.js';

const node = (
  key: string,
  seconds: number,
  needs: string[],
  more: Partial<StartNode> = {},
): [string, StartNode] => [
  key,
  {
    key,
    kind: 'guest',
    id: key,
    name: key,
    seconds,
    needs: needs.map((to) => ({ to, way: 'needs' })),
    any: false,
    ...more,
  },
];
const graphOf = (...nodes: [string, StartNode][]): StartGraph => new Map(nodes);
const upOf = (graph: StartGraph) =>
  Object.fromEntries(
    [...startOrder(graph).starts].map(([key, { up, wave, after }]) => [key, [up, wave, after]]),
  );

describe('the order of starting', () => {
  // Worked by hand: h up at 300; a at 360; b needs a and h: 390; the service comes with a; c needs it: 370.
  it('waits for the last of all needs, and for the first of a service', () => {
    const graph = graphOf(
      node('h', 300, []),
      node('a', 60, ['h']),
      node('b', 30, ['a', 'h']),
      node('s', 0, ['b', 'a'], { kind: 'service', any: true }),
      node('c', 10, ['s', 'h']),
    );
    expect(upOf(graph)).toEqual({
      h: [300, 1, null],
      a: [360, 2, 'h'],
      b: [390, 3, 'a'],
      s: [360, 2, 'a'],
      c: [370, 3, 's'],
    });
    expect(startOrder(graph).seconds).toBe(390);
  });
  // Worked by hand: storage 180, names 240, directory 360; on each of two hosts three applications of 90, two at once: the
  // third begins at 450 and is up at 540; all at once they would be at 450.
  describe('of hosts that start two guests at once', () => {
    const apps = (most?: number) =>
      graphOf(
        node('storage', 180, []),
        node('names', 60, ['storage']),
        node('directory', 120, ['names']),
        ...['a1', 'a2', 'a3', 'b1', 'b2', 'b3'].map((name) =>
          node(name, 90, ['directory'], most ? { turns: [{ atId: name[0]!, most }] } : {}),
        ),
      );
    it('lets the third wait for its turn', () => {
      expect(startOrder(apps()).seconds).toBe(450);
      const order = startOrder(apps(2));
      expect(order.seconds).toBe(540);
      expect(order.starts.get('a3')).toMatchObject({ begins: 450, up: 540, wave: 4, after: 'a1' });
      expect(order.blocked.size).toBe(0);
    });
    it('one at once is one after the other; as many as there are changes nothing', () => {
      expect(startOrder(apps(1)).seconds).toBe(360 + 3 * 90);
      expect(startOrder(apps(3)).seconds).toBe(450);
    });
    // Worked by hand: six on one pool that starts three at once: 360, then 90 and 90 more, whatever the hosts would allow.
    it('and lie on one pool that starts three at once, take their turn at both', () => {
      const both = graphOf(
        ...[...apps(2).entries()].map(([key, one]): [string, StartNode] => [
          key,
          one.turns ? { ...one, turns: [...one.turns, { atId: 'pool', most: 3 }] } : one,
        ]),
      );
      const order = startOrder(both);
      expect(order.seconds).toBe(540);
      const begun = (at: number) =>
        [...order.starts.values()].filter(({ begins, node }) => begins === at && node.turns).length;
      expect([begun(360), begun(450)]).toEqual([3, 3]);
      expect(order.blocked.size).toBe(0);
    });
    it('takes no turn of what is given as up already', () => {
      const given = new Set(['a1', 'a2']);
      expect(startOrder(apps(1), given).starts.get('a3')).toMatchObject({ begins: 360 });
    });
  });
  it('is that of the host, else of its group', () => {
    const world = smallWorld();
    const ids = ['gannet', 'tern'].map((name) => world.id('host', name));
    world.make({ type: 'host-group.record', input: { name: 'pair', startsAtOnce: 4 } });
    const groupId = world.id('hostGroup', 'pair');
    expect(startsAtOnce(world.fleet, ids[0]!)).toBeNull();
    world.make({ type: 'host.edit-many', input: { ids, groupId } });
    world.make({ type: 'host.edit', input: { id: ids[1]!, startsAtOnce: 1 } });
    expect(ids.map((id) => startsAtOnce(world.fleet, id))).toEqual([4, 1]);
    for (const [i, name] of ['x', 'y', 'z'].entries())
      world.make(world.found(name, 'tern', 256, `192.0.2.${20 + i}`));
    const host = world.fleet.need('host', ids[1]!);
    expect(fleetStart(world.fleet).order.seconds).toBe(host.bootSeconds + 3 * 60);
    world.make({ type: 'host.edit', input: { id: ids[1]!, startsAtOnce: null } });
    expect(fleetStart(world.fleet).order.seconds).toBe(host.bootSeconds + 60);
    world.make({
      type: 'pool.edit',
      input: { id: world.id('pool', 'tern-data'), startsAtOnce: 2 },
    });
    expect(fleetStart(world.fleet).order.seconds).toBe(host.bootSeconds + 2 * 60);
  });
  it('leaves out what is absent, and who waits for it, but not who can do with another', () => {
    const graph = graphOf(
      node('old', 1, [], { absent: 'is stopped' }),
      node('a', 1, ['old']),
      node('b', 1, []),
      node('s', 0, ['old', 'b'], { any: true }),
      node('c', 1, ['s']),
    );
    expect([...startOrder(graph).blocked].sort()).toEqual(['a', 'old']);
  });
  it('agrees with going round until nothing alters, on random graphs of all and any', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(50), fc.boolean(), fc.array(fc.nat(11), { maxLength: 4 })), {
          minLength: 1,
          maxLength: 12,
        }),
        (rows) => {
          const graph = graphOf(
            ...rows.map(([seconds, any, needs], i) =>
              node(`n${i}`, seconds, [...new Set(needs.map((to) => `n${to % rows.length}`))], {
                any,
              }),
            ),
          );
          const { starts } = startOrder(graph);
          expect(Object.fromEntries([...starts].map(([key, { up }]) => [key, up]))).toEqual(
            slowly(graph),
          );
        },
      ),
    );
  });
});

/** Earliest times by relaxing until nothing alters (as Bellman and Ford do): slow, and written another way. */
function slowly(graph: StartGraph): Record<string, number> {
  const up = new Map<string, number>([...graph.keys()].map((key) => [key, Infinity]));
  for (let altered = true; altered;) {
    altered = false;
    for (const { key, seconds, needs, any } of graph.values()) {
      const times = needs.map(({ to }) => up.get(to)!);
      const time = seconds + (any ? Math.min(...times) : Math.max(0, ...times));
      if (time < up.get(key)!) {
        up.set(key, time);
        altered = true;
      }
    }
  }
  return Object.fromEntries([...up].filter(([, time]) => time < Infinity));
}

describe('circles', () => {
  it('are the cyclic components that a general graph library finds among the blocked', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.nat(11), { maxLength: 3 }), { minLength: 1, maxLength: 12 }),
        (rows) => {
          const graph = graphOf(
            ...rows.map((needs, i) =>
              node(`n${i}`, 1, [...new Set(needs.map((to) => `n${to % rows.length}`))]),
            ),
          );
          const other = new Graph();
          for (const { key } of graph.values()) other.setNode(key);
          for (const { key, needs } of graph.values())
            for (const { to } of needs) other.setEdge(key, to);
          const wanted = (alg.findCycles(other) as string[][])
            .map((cycle) => [...cycle].sort().join(' '))
            .sort();
          const found = circlesOf(graph, startOrder(graph))
            .map((circle) =>
              circle.members
                .map((member) => member.key)
                .sort()
                .join(' '),
            )
            .sort();
          expect(found).toEqual(wanted);
        },
      ),
    );
  });
  it('every mend, made, lets all members start; the way round closes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.nat(7), { maxLength: 2 }), { minLength: 2, maxLength: 8 }),
        (rows) => {
          const graph = graphOf(
            ...rows.map((needs, i) =>
              node(`n${i}`, 1, [...new Set(needs.map((to) => `n${to % rows.length}`))]),
            ),
          );
          for (const circle of circlesOf(graph, startOrder(graph))) {
            const steps = circle.steps.map((step) => step.split(' needs '));
            steps.forEach(([, to], i) => expect(to).toBe(steps[(i + 1) % steps.length]![0]));
            for (const mend of circle.mends) {
              const [, from, to] = /^Drop that (\S+) needs ([^,]+),/.exec(mend.sentence)!;
              const { starts } = startOrder(graph, new Set(), new Set([`${from}>${to}`]));
              for (const member of circle.members) expect(starts.has(member.key)).toBe(true);
            }
          }
        },
      ),
    );
  });
});

const up = (world: World) =>
  Object.fromEntries(
    [...fleetStart(world.fleet).order.starts.values()].map((start) => [start.node.name, start.up]),
  );
const need = (world: World, fields: Record<string, unknown>) =>
  world.make({ type: 'need.record', input: { purpose: '', ...fields } });
function service(world: World, name: string, ...guests: string[]): string {
  world.make({ type: 'service.record', input: { name, what: 'names' } });
  const id = [...world.fleet.all('service')].find((row) => row.name === name)!.id;
  for (const guest of guests)
    world.make({
      type: 'provider.record',
      input: { serviceId: id, guestId: world.id('guest', guest) },
    });
  return id;
}

describe('the record after a power cut', () => {
  const twoNames = () => {
    const world = smallWorld();
    world.make(world.found('names-1', 'gannet', 512, '192.0.2.10'));
    world.make(world.found('names-2', 'tern', 512, '192.0.2.11'));
    world.make(world.found('web', 'tern', 512, '192.0.2.12'));
    return world;
  };
  it('has the same circles when looked for only among what something needs', () => {
    const machine = fc.constantFrom('gannet', 'tern', 'names-1', 'names-2', 'web');
    const needs = fc.array(
      fc.tuple(machine, fc.constantFrom('names-1', 'names-2', 'web', 'names')),
    );
    let circles = 0;
    fc.assert(
      fc.property(needs, fc.subarray(['names-1', 'names-2']), (wanted, providers) => {
        const world = twoNames();
        const serviceId = service(world, 'names', ...providers);
        for (const [from, to] of wanted) {
          const who =
            from === 'gannet' || from === 'tern'
              ? { hostId: world.id('host', from) }
              : { guestId: world.id('guest', from) };
          const what = to === 'names' ? { serviceId } : { onGuestId: world.id('guest', to) };
          const change = { type: 'need.record' as const, input: { ...who, ...what } };
          if (!isRefusal(world.try(change))) world.make(change);
        }
        const whole = startGraph(world.fleet);
        const found = fleetCircles(world.fleet);
        circles += found.length;
        expect(found).toEqual(circlesOf(whole, startOrder(whole)));
      }),
    );
    expect(circles).toBeGreaterThan(20);
  });
  it('brings hosts first, then guests, then what uses them', () => {
    const world = twoNames();
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'names-1'), startSeconds: 200 },
    });
    const id = service(world, 'names', 'names-1', 'names-2');
    need(world, { guestId: world.id('guest', 'web'), serviceId: id });
    // 300 s for a host, 60 s for a guest unless it says otherwise: the record's initial values (common practice, no source).
    expect(up(world)).toEqual({
      gannet: 300,
      tern: 300,
      'names-1': 500,
      'names-2': 360,
      names: 360,
      web: 420,
    });
  });
  it('a host that needs the names of its own guest stands in a circle, and so does who waits behind it', () => {
    const world = twoNames();
    const id = service(world, 'names', 'names-1');
    need(world, { hostId: world.id('host', 'gannet'), serviceId: id });
    need(world, { guestId: world.id('guest', 'web'), serviceId: id });
    const start = fleetStart(world.fleet);
    expect(start.circles.map((circle) => circle.steps)).toEqual([
      ['gannet uses names', 'names comes from names-1 alone', 'names-1 runs on gannet'],
    ]);
    expect(start.circles[0]!.mends.map((mend) => mend.sentence)).toEqual([
      'Let names come also from a machine that waits for none of gannet, names-1.',
      'Move names-1 from gannet to a host that starts without it, such as tern.',
      'Drop that gannet uses names, if it can start without.',
    ]);
    // A host 300 s, a guest 60: moved to tern, which starts by itself; gannet then waits for its names.
    expect(start.circles[0]!.mends.map(({ seconds }) => seconds)).toEqual([360, 660, 360]);
    expect(whyBlocked(start, `guest:${world.id('guest', 'web')}`)).toBe(
      'web waits for names, which cannot start.',
    );
    world.make({
      type: 'provider.record',
      input: { serviceId: id, guestId: world.id('guest', 'names-2') },
    });
    expect(fleetStart(world.fleet).circles).toEqual([]);
  });
  it('finds storage that a guest of the same host serves', () => {
    const world = twoNames();
    const pool = world.id('pool', 'tern-data');
    world.make({ type: 'pool.edit', input: { id: pool, serverGuestId: world.id('guest', 'web') } });
    expect(fleetStart(world.fleet).circles[0]!.steps).toEqual([
      'web keeps volumes on tern-data, which web serves',
    ]);
  });
  it('says who waits for a guest that does not run', () => {
    const world = twoNames();
    need(world, { guestId: world.id('guest', 'web'), onGuestId: world.id('guest', 'names-2') });
    world.make({
      type: 'guest.set-state',
      input: { id: world.id('guest', 'names-2'), state: 'stopped' },
    });
    expect(whyBlocked(fleetStart(world.fleet), `guest:${world.id('guest', 'web')}`)).toBe(
      'web waits for names-2, which is stopped.',
    );
  });
  it('a need of itself and a need twice are refused', () => {
    const world = twoNames();
    const web = world.id('guest', 'web');
    expect(
      world.try({ type: 'need.record', input: { guestId: web, onGuestId: web, purpose: '' } }),
    ).toMatchObject({ code: 'needs-itself' });
    need(world, { guestId: web, onGuestId: world.id('guest', 'names-1') });
    expect(
      world.try({
        type: 'need.record',
        input: { guestId: web, onGuestId: world.id('guest', 'names-1'), purpose: 'again' },
      }),
    ).toMatchObject({ code: 'stated-twice' });
  });
});
