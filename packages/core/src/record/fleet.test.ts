import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { IndexMap } from './index-map.js';
import { complaint } from './field-complaint.js';
import {
  digestLines,
  Fleet,
  KINDS,
  upcast,
  type Kind,
  type LogEntry,
  type Patch,
  type Values,
} from './index.js';

it('an index holds what a plain map of sets holds', () => {
  const step = fc.record({
    add: fc.boolean(),
    key: fc.constantFrom('a', 'b', 'c'),
    id: fc.constantFrom('1', '2', '3'),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const mine = new IndexMap();
      const plain = new Map<string, Set<string>>();
      for (const { add, key, id } of steps) {
        const held = plain.get(key) ?? new Set();
        plain.set(key, held);
        if (add) {
          if (!held.has(id)) mine.add(key, id);
          held.add(id);
        } else {
          mine.remove(key, id);
          held.delete(id);
        }
      }
      for (const key of ['a', 'b', 'c']) {
        expect([...mine.get(key)].sort()).toEqual([...(plain.get(key) ?? [])].sort());
        expect(mine.count(key)).toBe(plain.get(key)?.size ?? 0);
      }
    }),
  );
});

describe('a fleet', () => {
  const site = (id: string, name: string): Patch => ({
    op: 'create',
    kind: 'site',
    id,
    after: { name },
  });
  it('refuses patches that do not fit: it would be wrong from then on', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex')], 1);
    expect(() => fleet.apply([site('1', 'Annex')], 2)).toThrow(/exists already/);
    expect(() =>
      fleet.apply([{ op: 'update', kind: 'site', id: '2', seen: 1, before: {}, after: {} }], 2),
    ).toThrow(/does not exist/);
  });
  const network = (id: string, siteId: string): Patch => ({
    op: 'create',
    kind: 'network',
    id,
    after: { name: `net ${id}`, siteId },
  });
  it('wakes what was looked up by a name, a MAC, an address or a fact when that passes to another row, and nothing else', () => {
    const fleet = new Fleet();
    const create = (kind: Kind, id: string, after: Values): Patch => ({ op: 'create', kind, id, after }); // prettier-ignore
    fleet.apply(
      [
        create('guest', 'g1', { name: 'Lamp' }),
        create('guest', 'g2', { name: 'horn' }),
        create('adapter', 'a1', { guestId: 'g1', mac: '02:00:00:00:00:01' }),
        create('address', 'i1', { domainId: 'd', ip: '192.0.2.1' }),
        create('identityFact', 'f1', { guestId: 'g1', what: 'computer name', value: 'lamp' }),
      ],
      1,
    );
    let made = 0;
    const kept = (name: string, look: () => { length: number }) => () =>
      fleet.memo('of', name, () => ((made += 1), look().length));
    const alter = (kind: Kind, id: string, after: Values) =>
      fleet.apply([{ op: 'update', kind, id, seen: fleet.revision, before: {}, after }], fleet.revision + 1); // prettier-ignore
    const looks: [() => number, () => void, () => void][] = [
      [kept('fog', () => fleet.named('fog')), () => alter('guest', 'g2', { name: 'Fog' }), () => alter('guest', 'g2', { name: 'horn' })], // prettier-ignore
      [kept('mac', () => fleet.macHolders('02:00:00:00:00:02')), () => alter('adapter', 'a1', { mac: '02:00:00:00:00:02' }), () => alter('adapter', 'a1', { mac: null })], // prettier-ignore
      [kept('ip', () => fleet.withIp('d', '192.0.2.2')), () => alter('address', 'i1', { ip: '192.0.2.2' }), () => alter('address', 'i1', { ip: '192.0.2.3' })], // prettier-ignore
      [kept('fact', () => fleet.withFact('computer name', 'fog')), () => alter('identityFact', 'f1', { value: 'fog' }), () => alter('identityFact', 'f1', { value: 'lamp' })], // prettier-ignore
    ];
    for (const [look, comes, goes] of looks) {
      expect(look()).toBe(0);
      comes();
      expect(look()).toBe(1);
      goes();
      expect(look()).toBe(0);
      const before = made;
      alter('guest', 'g1', { purpose: 'another' });
      expect([look(), made]).toEqual([0, before]);
    }
  });
  it('wakes what was read of some fields, of parts, or of who refers when that alters, and by nothing else', () => {
    const fleet = new Fleet();
    const create = (kind: Kind, id: string, after: Values): Patch => ({ op: 'create', kind, id, after }); // prettier-ignore
    fleet.apply(
      [
        create('host', 'h1', { name: 'gannet', state: 'in service', groupId: null, siteId: 's' }),
        create('port', 'p1', { hostId: 'h1', name: 'left' }),
        create('disk', 'd1', { hostId: 'h1', slot: '0' }),
        create('guest', 'g1', { name: 'tide', hostId: 'h1' }),
      ],
      1,
    );
    const apply = (...patches: Patch[]) => fleet.apply(patches, fleet.revision + 1);
    const alter = (kind: Kind, id: string, after: Values) =>
      apply({ op: 'update', kind, id, seen: fleet.revision, before: {}, after });
    const remove = (kind: Kind, id: string) =>
      apply({ op: 'delete', kind, id, seen: fleet.revision, before: {} });
    const reads: Record<string, () => unknown> = {
      'its name': () => fleet.pick('host', 'h1', 'name').name,
      'its ports': () => fleet.partsOnly('port', 'hostId', 'h1').map(({ name }) => name),
      'who is at the site': () => fleet.idsReferring('host', 'siteId', 's').join(),
      'whether there is another': () => fleet.has('host', 'h2'),
      'who backs whom': () => fleet.backing(null).join(),
      'who runs in a guest': () => fleet.nested().join(),
      'whether a guest is needed': () => fleet.isNeeded('g1'),
    };
    const made: string[] = [];
    const read = () => {
      made.length = 0;
      return Object.entries(reads).map(([name, look]) =>
        fleet.memo('of', name, () => (made.push(name), look())),
      );
    };
    const woken = (by: () => void): string[] => {
      read();
      by();
      const living = read();
      expect(living).toEqual(Object.values(reads).map((look) => look()));
      return [...made];
    };
    expect(woken(() => alter('host', 'h1', { notes: 'dusty' }))).toEqual([]);
    expect(woken(() => alter('disk', 'd1', { slot: '1' }))).toEqual([]);
    expect(woken(() => alter('host', 'h1', { name: 'tern' }))).toEqual(['its name']);
    expect(woken(() => alter('port', 'p1', { name: 'right' }))).toEqual(['its ports']);
    expect(woken(() => apply(create('port', 'p2', { hostId: 'h1', name: 'left' })))).toEqual([
      'its ports',
    ]);
    expect(woken(() => alter('host', 'h1', { siteId: 't' }))).toEqual(['who is at the site']);
    expect(woken(() => alter('host', 'h1', { state: 'maintenance' }))).toEqual(['who backs whom']);
    expect(woken(() => apply(create('host', 'h2', { name: 'skua', outerGuestId: 'g1' })))).toEqual([
      'whether there is another',
      'who runs in a guest',
      'whether a guest is needed',
    ]);
    expect(woken(() => alter('host', 'h2', { groupId: 'k', state: 'in service' }))).toEqual([]);
    expect(woken(() => remove('host', 'h2'))).toEqual([
      'whether there is another',
      'who runs in a guest',
      'whether a guest is needed',
    ]);
    expect(woken(() => apply(create('dependency', 'n1', { guestId: 'g1', onGuestId: null })))).toEqual([]); // prettier-ignore
    expect(woken(() => alter('dependency', 'n1', { onGuestId: 'g1' }))).toEqual([
      'whether a guest is needed',
    ]);
    expect(() => fleet.pick('host', 'h3', 'name')).toThrow('no host h3');
  });
  it('is gone through in the order of ids, however its rows came', () => {
    const fleet = new Fleet();
    for (const id of ['3', '1', '2']) fleet.load('site', { id, revision: 1, name: id });
    for (const id of ['8', '6', '7', '5']) {
      fleet.load('network', { id, revision: 1, name: id, siteId: '1' });
    }
    expect([...fleet.all('site')].map(({ id }) => id)).toEqual(['1', '2', '3']);
    const ofSite = () => fleet.referring('network', 'siteId', '1').map(({ id }) => id);
    expect(ofSite()).toEqual(['5', '6', '7', '8']);
    const rename: Patch = {
      op: 'update',
      kind: 'network',
      id: '6',
      seen: 1,
      before: { name: '6' },
      after: { name: 'six' },
    };
    fleet.overlay([rename]);
    fleet.apply([rename], 2);
    expect(ofSite()).toEqual(['5', '6', '7', '8']);
    fleet.apply([{ op: 'delete', kind: 'network', id: '7', seen: 1, before: {} }], 3);
    fleet.apply([network('4', '1')], 4);
    expect(ofSite()).toEqual(['4', '5', '6', '8']);
    expect([...fleet.all('network')].map(({ id }) => id)).toEqual(['4', '5', '6', '8']);
  });
  it('is laid over with what would be, and over that again; what it kept stays', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex'), network('5', '1')], 1);
    let asked = 0;
    const ask = (one: Fleet) => [
      one.memo('1', 'n', () => ((asked += 1), one.referringCount('network', 'siteId', '1'))),
      one.whole('n', () => ((asked += 1), one.count('network'))),
      one.memo('1', 'name', () => ((asked += 1), one.need('site', '1').name)),
    ];
    expect([ask(fleet), asked]).toEqual([[1, 1, 'Annex'], 3]);
    const would = fleet.overlay([network('6', '1')]);
    // The name was computed from nothing that is other there.
    expect([ask(would), asked]).toEqual([[2, 2, 'Annex'], 5]);
    expect(ask(would.overlay([network('7', '1')]))).toEqual([3, 3, 'Annex']);
    expect([ask(would), asked]).toEqual([[2, 2, 'Annex'], 7]);
    expect([ask(fleet), asked]).toEqual([[1, 1, 'Annex'], 7]);
    expect(() => fleet.overlay([site('1', 'twice')])).toThrow(/exists already/);
    fleet.apply([network('8', '1')], 2);
    expect(() => ask(would)).toThrow('the fleet under an overlay has altered');
  });
  it('knows under an overlay what was kept only afterwards', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex')], 1);
    const would = fleet.overlay([
      { op: 'update', kind: 'site', id: '1', seen: 1, before: {}, after: { name: 'Pier' } },
    ]);
    const name = (one: Fleet) => one.memo('1', 'name', () => one.need('site', '1').name);
    expect([name(fleet), name(would)]).toEqual(['Annex', 'Pier']);
  });
  it('keeps a value until something that it was computed from alters, or its time has come', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex'), site('2', 'Pier')], 1);
    let asked = 0;
    const name = (id: string) =>
      fleet.memo(id, 'name', () => ((asked += 1), fleet.need('site', id).name));
    const both = () => fleet.memo('1', 'both', () => ((asked += 1), `${name('1')}, ${name('2')}`));
    expect([both(), asked]).toEqual(['Annex, Pier', 3]);
    fleet.apply(
      [{ op: 'update', kind: 'site', id: '2', seen: 1, before: {}, after: { name: 'Quay' } }],
      2,
    );
    expect([both(), asked]).toEqual(['Annex, Quay', 5]);
    expect([name('1'), asked]).toEqual(['Annex', 5]);
    const noon = '2026-11-20T12:00:00.000Z';
    const late = (now: string) =>
      fleet.memo('1', 'late', () => (fleet.alters(Date.parse(noon)), now >= noon), now);
    expect(late('2026-11-20T11:59:59.000Z')).toBe(false);
    expect(late('2026-11-20T12:00:00.000Z')).toBe(true);
    // Asked of an earlier time again, as of then.
    expect(late('2026-11-20T08:00:00.000Z')).toBe(false);
  });
  it('counts what it keeps, and why it is made anew; what is let go is made anew, and right', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex'), site('2', 'Pier'), network('5', '1')], 1);
    const name = (one: Fleet, id: string) => one.memo(id, 'name', () => one.need('site', id).name);
    const networks = (one: Fleet) =>
      one.gathered('site', 'networks', (of, id) =>
        of.referring('network', 'siteId', id).map((row) => row.name),
      );
    const ask = (one: Fleet) => [name(one, '1'), name(one, '2'), [...networks(one)]];
    const rename: Patch = {
      ...{ op: 'update', kind: 'site', id: '2', seen: 1 },
      ...{ before: {}, after: { name: 'Quay' } },
    };
    ask(fleet);
    name(fleet, '1');
    fleet.apply([rename], 2);
    const before = ask(fleet);
    const { values, noted, edges, bytes } = fleet.keptValues();
    expect(values.find((one) => one.name === 'name')).toEqual({
      ...{ name: 'name', kept: 2, uses: 5, made: 3 },
      wokenBy: [{ by: 'site', times: 1 }],
    });
    // Two names read a site each, two lists of networks what refers to one.
    expect([noted, edges]).toEqual([4, 4]);
    expect(bytes).toBe(4 * 182 + 4 * 32 + 4 * 18);
    const would = fleet.overlay([network('6', '2')]);
    expect([...networks(would)]).toHaveLength(2);
    fleet.forgetKept();
    expect(fleet.keptValues()).toMatchObject({ noted: 0, edges: 0, bytes: 0 });
    expect(fleet.keptValues().values.every(({ kept }) => kept === 0)).toBe(true);
    expect(ask(fleet)).toEqual(before);
    expect([...networks(would)]).toHaveLength(2);
    // What came meanwhile is seen.
    fleet.apply([network('7', '2')], 3);
    expect([...networks(fleet)]).toHaveLength(2);
  });
  it('gathers what comes after it was asked while there was nothing', () => {
    const fleet = new Fleet();
    const names = (one: Fleet) => [
      ...one.gathered('site', 'names', (at, id) => [at.need('site', id).name]).values(),
    ];
    expect(names(fleet)).toEqual([]);
    fleet.apply([site('1', 'Annex'), site('2', 'Pier')], 1);
    expect(names(fleet)).toEqual([['Annex'], ['Pier']]);
    const gone: Patch = { op: 'delete', kind: 'site', id: '1', seen: 1, before: {} };
    expect(names(fleet.overlay([gone, site('3', 'Quay')])).sort()).toEqual([['Pier'], ['Quay']]);
    expect(names(fleet)).toEqual([['Annex'], ['Pier']]);
    fleet.apply([gone], 2);
    expect(names(fleet)).toEqual([['Pier']]);
  });
  it('gathers a row again whose computation threw, and nothing inside a kept value', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex'), site('2', 'Pier')], 1);
    let shaky = true;
    const names = () =>
      fleet.gathered('site', 'names', (at, id) => {
        if (shaky && id === '2') throw new Error('not yet');
        return [at.need('site', id).name];
      });
    expect(names).toThrow('not yet');
    shaky = false;
    expect([...names().values()]).toEqual([['Annex'], ['Pier']]);
    expect(() => fleet.whole('all names', names)).toThrow('cannot be a part of a kept value');
  });
  it('tells once when an answer that was given alters: of rows, of what is gathered, of what looks for itself', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex'), site('2', 'Pier')], 1);
    const told: string[] = [];
    const watch = (name: string, read: () => unknown) =>
      fleet.watched(read, () => told.push(name), 0);
    const names = () => [
      ...fleet.gathered('site', 'names', (at, id) => [at.need('site', id).name]).values(),
    ];
    const renamed = (id: string, name: string): Patch => {
      const { name: before, revision: seen } = fleet.need('site', id);
      return { op: 'update', kind: 'site', id, seen, before: { name: before }, after: { name } };
    };
    const all = () => {
      const quay = renamed('2', 'Quay');
      watch('one', () => fleet.need('site', '1').name);
      watch('gathered', names);
      watch('would be', () => fleet.overlay([quay]).need('site', '1').name);
      watch('apart', () => fleet.apart(() => fleet.need('site', '2')));
    };
    expect(watch('stopped', names)).toMatchObject({ answer: [['Annex'], ['Pier']] });
    watch('stopped', names).stop();
    told.length = 0;
    all();
    fleet.apply([renamed('2', 'Wharf')], 2);
    expect(told.sort()).toEqual(['apart', 'gathered', 'stopped']);
    told.length = 0;
    all();
    fleet.apply([renamed('1', 'Shed')], 3);
    expect(told.sort()).toEqual(['apart', 'gathered', 'one', 'one', 'would be', 'would be']);
    told.length = 0;
    all();
    fleet.apply([site('3', 'Quay')], 4);
    expect(told.sort()).toEqual(['apart', 'gathered']);
    told.length = 0;
    fleet.forgetKept();
    expect(told.sort()).toEqual(['one', 'would be']);
  });
  it('does not keep what throws, and says when a value is computed from itself', () => {
    const fleet = new Fleet();
    let once = true;
    const shaky = () =>
      fleet.whole('shaky', () => {
        if (once) {
          once = false;
          throw new Error('not yet');
        }
        return 'there';
      });
    expect(shaky).toThrow('not yet');
    expect(shaky()).toBe('there');
    const round = (): unknown => fleet.whole('round', () => round());
    expect(round).toThrow('a value is computed from itself');
  });
  it('forgets what it kept of a record when a patch touches it or what refers to it', () => {
    const fleet = new Fleet();
    fleet.apply([site('1', 'Annex')], 1);
    let asked = 0;
    const ask = () =>
      fleet.memo(
        '1',
        'networks',
        () => ((asked += 1), fleet.referringCount('network', 'siteId', '1')),
      );
    expect([ask(), ask(), asked]).toEqual([0, 0, 1]);
    fleet.apply(
      [{ op: 'create', kind: 'network', id: '2', after: { name: 'shore', siteId: '1' } }],
      2,
    );
    expect([ask(), asked]).toEqual([1, 2]);
  });
});

/** A log as the first version wrote it: it must replay for ever, or an upcaster must bring it up. */
const SHAPE_1: LogEntry[] = [
  {
    revision: 1,
    shape: 1,
    at: '2026-11-24T08:00:00.000Z',
    happenedAt: null,
    actorId: 'system',
    actorName: 'Insel',
    title: 'began the record',
    reason: '',
    override: '',
    change: { type: 'record.begin', input: {} },
    subjects: [],
    patches: [
      {
        op: 'create',
        kind: 'site',
        id: '00000000-0000-7000-8000-000000000001',
        after: {
          name: 'Annex',
          notes: '',
          labels: [],
          owner: '',
          confirmedAt: null,
          confirmedBy: '',
        },
      },
    ],
  },
  {
    revision: 2,
    shape: 1,
    at: '2026-11-24T08:01:00.000Z',
    happenedAt: null,
    actorId: 'x',
    actorName: 'planner',
    title: 'renamed',
    reason: '',
    override: '',
    change: { type: 'site.edit' },
    subjects: [],
    patches: [
      {
        op: 'update',
        kind: 'site',
        id: '00000000-0000-7000-8000-000000000001',
        seen: 1,
        before: { name: 'Annex' },
        after: { name: 'Lighthouse annex', labels: ['far'] },
      },
    ],
  },
];

it('a log of shape 1 replays', () => {
  const fleet = new Fleet();
  for (const entry of SHAPE_1) fleet.apply(upcast(entry), entry.revision);
  expect(digestLines(fleet)).toEqual([
    '["site","00000000-0000-7000-8000-000000000001",2,"Lighthouse annex","","","","",["far"],"",null,""]',
  ]);
});

describe('fields hold what their description says', () => {
  const guest = KINDS.guest.fields;
  it.each([
    [guest.vcpu!, 0],
    [guest.vcpu!, 1.5],
    [guest.vcpu!, '2'],
    [guest.vcpu!, null],
    [guest.name!, '  '],
    [guest.name!, 'x'.repeat(101)],
    [guest.state!, 'asleep'],
    [guest.template!, 'yes'],
    [KINDS.volume.fields.bytes!, 2 ** 53],
    [KINDS.volume.fields.bytes!, Number.NaN],
    [KINDS.address.fields.ip!, '10.1'],
    [KINDS.subnet.fields.prefix!, '10.0.0.1/8'],
    [KINDS.adapter.fields.mac!, '02:00'],
    [KINDS.network.fields.vlanId!, 4095],
    [KINDS.network.fields.vlanId!, 0],
    [KINDS.migration.fields.startedAt!, 'soon'],
  ])('%o does not hold %o', (field, value) => expect(complaint(field, value)).toMatch(/[.]$/));
  // VLAN ids 1 to 4094: IEEE Std 802.1Q, clause 9.6.
  it.each([
    [KINDS.network.fields.vlanId!, 1],
    [KINDS.network.fields.vlanId!, 4094],
    [KINDS.network.fields.vlanId!, null],
    [KINDS.volume.fields.bytes!, 2 ** 53 - 1],
  ])('%o holds %o', (field, value) => expect(complaint(field, value)).toBeUndefined());
});
