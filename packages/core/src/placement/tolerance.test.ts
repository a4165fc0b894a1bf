import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { capacity } from '../host/capacity.js';
import { isRefusal } from '../record/index.js';
import { failureDomain, failureDomains } from './failure.js';
import { pairTolerance } from './pairs.js';
import { zoneKey } from './fleet-question.js';
import { failureFates, tolerance } from './fleet-tolerance.js';
import { failureOutcome } from './tolerance.js';
import { toleranceMoved } from './tolerance-with.js';

let world: World;
/** Two hosts of 16 GiB (14,336 MiB for guests) that share a pool; a guest of 4 GiB asks 4,297 MiB. */
beforeEach(() => {
  world = smallWorld();
  world.make({
    type: 'pool.record',
    input: {
      name: 'quay',
      usableBytes: 1e13,
      hostIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
    },
  });
});

function run(
  name: string,
  host: string,
  gib: number,
  pool = 'quay',
  more: { vcpu?: number; network?: string } = {},
): string {
  world.make({
    type: 'guest.record',
    input: {
      name,
      hostId: world.id('host', host),
      state: 'in service',
      family: 'Linux',
      vcpu: more.vcpu ?? 1,
      memoryMiB: gib * 1024,
      volumes: [{ poolId: world.id('pool', pool), bytes: 1e10 }],
      adapters: [
        { networkId: world.id('network', more.network ?? 'shore'), address: { as: 'none' } },
      ],
    },
  });
  return world.id('guest', name);
}
const fails = (name: string, kind: 'host' | 'rack' | 'site' | 'switch' = 'host') =>
  failureOutcome(
    world.fleet,
    failureDomains(world.fleet).find((domain) => domain.kind === kind && domain.name === name)!,
    world.now,
  );
const fate = (name: string, host = 'gannet') =>
  fails(host).guests.find((guest) => guest.name === name)!;

describe('when a host fails, its guest', () => {
  it('restarts elsewhere where storage, network and room are', () => {
    run('tide', 'gannet', 4);
    expect(fails('gannet')).toMatchObject({
      answer: 'all restart',
      counts: { restart: 1, replica: 0, backup: 0, lost: 0 },
    });
    expect(fate('tide')).toMatchObject({
      way: 'restart',
      onHostId: world.id('host', 'tern'),
      sentence: 'restarts on tern',
    });
  });
  it('is lost with its own pool when nothing else holds a copy', () => {
    run('log', 'gannet', 1, 'gannet-data');
    expect(fate('log')).toMatchObject({
      way: 'lost',
      sentence: 'its pool gannet-data is gone with the host; no backup survives',
    });
  });
  it('comes from a backup, with its age and hours; a backup on the same host does not count', () => {
    const guestId = run('log', 'gannet', 1, 'gannet-data');
    world.make({
      type: 'backup.record',
      input: {
        guestId,
        way: 'backup',
        poolId: world.id('pool', 'gannet-data'),
        everyMinutes: 1440,
        takesMinutes: 60,
        restoreMinutes: 30,
        lastSuccessAt: '2026-11-20T06:00:00.000Z',
      },
    });
    expect(fate('log').way).toBe('lost');
    world.make({
      type: 'backup.record',
      input: {
        guestId,
        way: 'backup',
        poolId: world.id('pool', 'tern-data'),
        everyMinutes: 1440,
        takesMinutes: 60,
        restoreMinutes: 120,
        lastSuccessAt: '2026-11-19T22:00:00.000Z',
      },
    });
    expect(fate('log')).toMatchObject({
      way: 'backup',
      sentence: 'its pool gannet-data is gone with the host; backup 10 h old, about 2 h to restore',
    });
  });
  it('comes from a replica where one is, and takes room there', () => {
    const guestId = run('log', 'gannet', 12, 'gannet-data');
    world.make({
      type: 'backup.record',
      input: {
        guestId,
        way: 'replica',
        poolId: world.id('pool', 'tern-data'),
        everyMinutes: 15,
        takesMinutes: 4,
        lastSuccessAt: '2026-11-20T07:45:00.000Z',
      },
    });
    expect(fate('log')).toMatchObject({
      way: 'replica',
      sentence: 'from its replica on tern, 15 min old',
    });
    run('wide', 'tern', 4, 'tern-data');
    expect(fate('log')).toMatchObject({
      way: 'lost',
      sentence: expect.stringContaining('no room on the hosts within reach') as string,
    });
  });
  it('needs the level it sees: an unknown host is not one that has it', () => {
    const guestId = run('tide', 'gannet', 1);
    world.make({ type: 'guest.edit', input: { id: guestId, processorMode: 'v3' } });
    expect(fate('tide').sentence).toContain('no host within reach is known to have level v3');
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), statedLevel: 3 } });
    expect(fate('tide').way).toBe('restart');
  });
  it('needs its networks', () => {
    world.make({ type: 'network.record', input: { name: 'pen' } });
    run('tide', 'gannet', 1, 'quay', { network: 'pen' });
    expect(fate('tide').sentence).toContain('no host within reach carries pen');
  });
  it('keeps to rules: apart from a neighbour, or pinned to a host', () => {
    const [one, two] = [run('names-1', 'gannet', 1), run('names-2', 'tern', 1)];
    world.make({ type: 'rule.set', input: { name: 'names', rule: 'apart', guestIds: [one, two] } });
    expect(fate('names-1')).toMatchObject({ way: 'waits' });
    world.host('fulmar', 16);
    world.make({
      type: 'pool.edit',
      input: {
        id: world.id('pool', 'quay'),
        hostIds: ['gannet', 'tern', 'fulmar'].map((name) => world.id('host', name)),
      },
    });
    expect(fate('names-1').onHostId).toBe(world.id('host', 'fulmar'));
    world.make({
      type: 'rule.set',
      input: { name: 'stays', rule: 'pinned', hostId: world.id('host', 'gannet'), guestIds: [one] },
    });
    expect(fate('names-1').sentence).toContain('a rule keeps it');
  });
});

describe('a group', () => {
  const group = (fields: object) => {
    world.make({ type: 'host-group.record', input: { name: 'harbour', ...fields } });
    const [{ id } = { id: '' }] = [...world.fleet.all('hostGroup')];
    world.make({
      type: 'host.edit-many',
      input: { ids: [world.id('host', 'gannet'), world.id('host', 'tern')], groupId: id },
    });
    return id;
  };
  it('backs its own hosts only', () => {
    run('tide', 'gannet', 1);
    const id = group({});
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), groupId: null } });
    expect(fate('tide').way).toBe('waits');
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), groupId: id } });
    expect(fate('tide').way).toBe('restart');
  });
  it('of two hosts without a witness loses its quorum of two; with one it does not', () => {
    run('tide', 'gannet', 1);
    const id = group({ quorum: 2 });
    expect(fate('tide').sentence).toContain('harbour keeps 1 of the 2 votes it needs');
    world.make({ type: 'host-group.edit', input: { id, witness: 'the router' } });
    expect(fate('tide').way).toBe('restart');
  });
  it('sets the ratio of vCPU and keeps a reserve free; the reserve is room after a failure', () => {
    group({ vcpuPerCore: 2, reservePercent: 50 });
    const id = world.id('host', 'tern');
    expect(capacity(world.fleet, id).vcpu.value).toBe(8 * 2);
    // Half of 14,336 MiB for guests.
    expect(capacity(world.fleet, id).reserve.memory.value).toBe(7168);
    run('tide', 'gannet', 12);
    expect(fate('tide').way).toBe('restart');
  });
});

it('N + 1 is a matter of whole guests: three of 6 GiB restart on two hosts only if each finds its place', () => {
  world.host('fulmar', 16);
  world.make({
    type: 'pool.edit',
    input: {
      id: world.id('pool', 'quay'),
      hostIds: ['gannet', 'tern', 'fulmar'].map((name) => world.id('host', name)),
    },
  });
  for (const host of ['gannet', 'tern', 'fulmar']) run(`big-${host}`, host, 8);
  run('small', 'gannet', 5);
  // With 128 + 8 for a vCPU + 16 + 1 %, 8 GiB ask 8,426 MiB of 14,336: 5,910 are left on each, too little for another one;
  // 5 GiB ask 5,324 and find room.
  expect(fails('gannet')).toMatchObject({
    answer: 'some do not',
    counts: { restart: 1, waits: 1, lost: 0 },
  });
});

describe('when there is not room for all', () => {
  const threeHosts = () => {
    world.host('fulmar', 16);
    const hostIds = ['gannet', 'tern', 'fulmar'].map((name) => world.id('host', name));
    world.make({ type: 'pool.edit', input: { id: world.id('pool', 'quay'), hostIds } });
    for (const host of ['gannet', 'tern', 'fulmar']) run(`big-${host}`, host, 8);
    run('small', 'gannet', 5);
  };
  it('a guest whose disks lie on storage that stays is down, not lost; what is free, the largest gap and what it asks are told', () => {
    threeHosts();
    // Of 2 · (14,336 − 8,426) the small one took 5,324 on one host: 6,496 in all, 5,910 on the other.
    expect(fate('big-gannet')).toMatchObject({
      way: 'waits',
      onHostId: null,
      sentence:
        'down until there is room, its disks are intact: no room on the hosts within reach: 6.3 GiB free, no gap larger than 5.7 GiB, 8.3 GiB asked',
    });
  });
  it('what is left counts all hosts that stay, not those that take over', () => {
    threeHosts();
    const { left } = fails('gannet');
    expect([left!.hosts, left!.memory.value, left!.largestGap.memoryMiB]).toEqual([2, 6496, 5910]);
    expect(left!.memory.lines.map((line) => line.value)).toEqual([
      2 * 14_336,
      2 * 8426,
      5324,
      6496,
    ]);
    world.make({
      type: 'guest.set-state',
      input: { id: world.id('guest', 'small'), state: 'stopped' },
    });
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'big-gannet'), memoryMiB: 512 },
    });
    expect(fails('tern').left!.hosts).toBe(2);
  });
  it('where no host stays, nothing is said to be left', () => {
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), state: 'failed' } });
    run('alone', 'gannet', 1);
    expect(fails('gannet').left).toBeNull();
  });
  it('processors can be what is short', () => {
    world.make({ type: 'host-group.record', input: { name: 'strict', vcpuPerCore: 1 } });
    const [{ id: groupId } = { id: '' }] = [...world.fleet.all('hostGroup')];
    const ids = ['gannet', 'tern'].map((name) => world.id('host', name));
    world.make({ type: 'host.edit-many', input: { ids, groupId } });
    const busy = run('busy', 'gannet', 1);
    world.make({ type: 'guest.edit', input: { id: busy, vcpu: 9 }, override: 'measured' });
    expect(fate('busy').sentence).toMatch(/at most 8 vCPU free on one, 9 asked$/);
  });
});

it('a pool on disks of the failed host takes down guests that run elsewhere', () => {
  const gannet = world.id('host', 'gannet');
  world.make({
    type: 'host.set-hardware',
    input: {
      hostId: gannet,
      hardware: { disks: [{ bay: '1', bytes: 1e12, class: 'enterprise disk' }] },
    },
  });
  world.make({
    type: 'pool.edit',
    input: {
      id: world.id('pool', 'quay'),
      diskId: world.fleet.referring('disk', 'hostId', gannet)[0]!.id,
    },
  });
  run('tide', 'tern', 1);
  expect(fails('gannet').guests.map((guest) => guest.name)).toEqual(['tide']);
});

it('sites and racks fall as one, and every answer is given', async () => {
  world.make({ type: 'site.record', input: { name: 'Harbour' } });
  const [site] = world.fleet.all('site');
  world.make({
    type: 'host.edit-many',
    input: { ids: [world.id('host', 'gannet'), world.id('host', 'tern')], siteId: site!.id },
  });
  run('tide', 'gannet', 1);
  const all = (await tolerance(world.fleet))!;
  expect(all.hosts.map(({ failed, answer }) => [failed.name, answer])).toEqual([
    ['gannet', 'all restart'],
    ['tern', 'all restart'],
  ]);
  expect(all.sites).toMatchObject([
    { failed: { name: 'Harbour' }, answer: 'some do not', counts: { lost: 1 } },
  ]);
  expect(await tolerance(world.fleet, () => Promise.resolve(false))).toBeNull();
});

it('a nested host falls with the guest it is', () => {
  const outer = run('lab', 'gannet', 4);
  world.host('inner', 8);
  world.make({ type: 'host.edit', input: { id: world.id('host', 'inner'), outerGuestId: outer } });
  run('practice', 'inner', 1, 'inner-data');
  expect(
    fails('gannet')
      .guests.map((guest) => guest.name)
      .sort(),
  ).toEqual(['lab', 'practice']);
});

describe('clones that are planned', () => {
  const planned = (host: string, gib: number) => {
    const decision = world.try({
      type: 'clone.make',
      input: {
        originId: world.id('guest', 'tide'),
        copy: 'full',
        pattern: 'tide-{n}',
        start: 1,
        taking: 'none',
        addressUse: 'static',
        clones: [{ hostId: world.id('host', host), memoryMiB: gib * 1024 }],
      },
    });
    if (isRefusal(decision)) throw new Error(decision.sentence);
    return toleranceMoved(world.fleet, decision.patches);
  };
  beforeEach(() => {
    run('tide', 'tern', 4);
    world.make({
      type: 'guest.set-state',
      input: { id: world.id('guest', 'tide'), state: 'stopped' },
    });
    run('log', 'gannet', 8);
  });
  it('leave both hosts tolerant where either can still take all', () => {
    expect(planned('tern', 1)).toEqual({ tried: 2, of: 2, before: 2, after: 2, worse: [] });
  });
  // 16 GiB a host, 14,336 MiB for guests: 8 GiB of log beside 8 GiB of the clone do not fit on either.
  it('take tolerance from the host they come to, and from the one that counted on its room', () => {
    const moved = planned('tern', 8);
    expect(moved).toMatchObject({ before: 2, after: 0 });
    expect(moved!.worse.map(({ name, down, of }) => [name, down, of])).toEqual([
      ['tern', 1, 1],
      ['gannet', 1, 1],
    ]);
  });
});

describe('what could mend it', () => {
  it('the least that one host would need more; nothing where room is not what is lacking', () => {
    // 14,336 MiB each: gannet's 8,393 do not find room beside tern's 8,393 with 5,943 left: 2,450 missing, 3 GiB.
    run('tide', 'gannet', 8);
    run('ebb', 'tern', 8);
    expect(fails('gannet')).toMatchObject({
      answer: 'some do not',
      mend: 'With 3 GiB more of memory on tern all that wait for room would find it.',
    });
    run('log', 'gannet', 1, 'gannet-data');
    expect(fails('tern').mend).toMatch(/on gannet/);
  });
});

describe('several at once', () => {
  const pair = () => `${world.id('host', 'gannet')}+${world.id('host', 'tern')}`;
  it('two hosts fall together: nothing is left to take their guests', () => {
    run('tide', 'gannet', 4);
    const domain = failureDomain(world.fleet, 'hosts', pair())!;
    expect(domain).toMatchObject({ kind: 'hosts', name: 'gannet and tern' });
    expect(failureOutcome(world.fleet, domain, world.now)).toMatchObject({
      answer: 'some do not',
      left: null,
      fallenIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
    });
    expect(failureDomain(world.fleet, 'hosts', 'nobody+nothing')).toBeNull();
  });
  it('every two of a group are asked, and counted', async () => {
    run('tide', 'gannet', 4);
    const found = (await pairTolerance(world.fleet))!;
    expect(found).toMatchObject({ pairs: 1, mayFail: 0, leftOut: [] });
    expect(found.mayNot.map(({ failed }) => failed.name)).toEqual(['gannet and tern']);
  });
});

describe('a switch', () => {
  const cable = (host: string, port: string, switchPort: string) => {
    const { fleet } = world;
    const found = fleet
      .referring('port', 'hostId', world.id('host', host))
      .find(({ name }) => name === port)!;
    const to = [...fleet.all('switchPort')].find(({ name }) => name === switchPort)!;
    world.make({ type: 'port.edit', input: { id: found.id, switchPortId: to.id } });
  };
  beforeEach(() => {
    for (const name of ['gannet', 'tern'])
      world.make({
        type: 'host.set-hardware',
        input: {
          hostId: world.id('host', name),
          hardware: {
            modules: [],
            nodes: [],
            arrays: [],
            disks: [],
            ports: [{ name: 'p1' }, { name: 'p2' }],
          },
        },
      });
    world.make({ type: 'physical-switch.record', input: { name: 'reef' } });
    world.make({
      type: 'physical-switch.set-ports',
      input: {
        id: world.id('physicalSwitch', 'reef'),
        ports: ['1', '2'].map((name) => ({ name, taggedVlans: '' })),
      },
    });
  });
  it('takes a host with it whose cables all go there; the answer says what it takes for granted', () => {
    run('tide', 'gannet', 4);
    cable('gannet', 'p1', '1');
    expect(fails('reef', 'switch')).toMatchObject({
      answer: 'all restart',
      fallenIds: [world.id('host', 'gannet')],
      assumes: expect.stringMatching(/Paths to storage are not asked/) as string,
    });
    expect(fate('tide', 'gannet').onHostId).toBe(world.id('host', 'tern'));
  });
  it('cuts a network off where a host has other cables: its guests go where it is still carried', () => {
    run('tide', 'gannet', 4);
    cable('gannet', 'p1', '1');
    const other = 'deep';
    world.make({ type: 'physical-switch.record', input: { name: other } });
    world.make({
      type: 'physical-switch.set-ports',
      input: {
        id: world.id('physicalSwitch', other),
        ports: [{ name: 'x', taggedVlans: '' }],
      },
    });
    cable('gannet', 'p2', 'x');
    const uplink = (host: string, port: string) => {
      const { fleet } = world;
      const hostId = world.id('host', host);
      const portId = fleet
        .referring('port', 'hostId', hostId)
        .find(({ name }) => name === port)!.id;
      const found = fleet.referring('virtualSwitch', 'hostId', hostId)[0]!;
      world.make({ type: 'switch.set-uplinks', input: { switchId: found.id, portIds: [portId] } });
    };
    uplink('gannet', 'p1');
    expect(fails('reef', 'switch')).toMatchObject({ fallenIds: [], counts: { restart: 1 } });
    cable('tern', 'p1', '2');
    uplink('tern', 'p1');
    // tern's only cable goes there as well: it falls.
    expect(fails('reef', 'switch')).toMatchObject({
      answer: 'some do not',
      fallenIds: [world.id('host', 'tern')],
    });
  });
  it('that nothing is cabled to is nothing that fails', () =>
    expect(failureDomains(world.fleet).filter(({ kind }) => kind === 'switch')).toEqual([]));
});

it('what belongs to a rack alters, and the kept answer with it', () => {
  world.make({ type: 'site.record', input: { name: 'Pier' } });
  const siteId = [...world.fleet.all('site')].find(({ name }) => name === 'Pier')!.id;
  world.make({ type: 'rack.record', input: { name: 'P1', siteId, units: 24 } });
  const rackId = [...world.fleet.all('rack')][0]!.id;
  const put = (name: string) =>
    world.make({ type: 'host.edit', input: { id: world.id('host', name), rackId, siteId } });
  run('tide', 'gannet', 4);
  put('gannet');
  put('tern');
  const line = () => {
    const domain = failureDomain(world.fleet, 'rack', rackId);
    return domain && failureFates(world.fleet, domain).answer;
  };
  const before = failureDomain(world.fleet, 'rack', rackId)!;
  expect(line()).toBe('some do not');
  world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), rackId: null } });
  expect(line()).toBeNull();
  // Who still holds what belonged to it before is answered as it is now.
  world.host('eider', 16);
  put('eider');
  expect(failureFates(world.fleet, before)).toMatchObject({ counts: { restart: 1 } });
});

it('hosts of one rack or one site are one place; where neither is recorded each is one of its own', () => {
  world.make({ type: 'site.record', input: { name: 'Pier' } });
  const siteId = [...world.fleet.all('site')].find(({ name }) => name === 'Pier')!.id;
  world.make({ type: 'rack.record', input: { name: 'P1', siteId, units: 24 } });
  const rackId = [...world.fleet.all('rack')][0]!.id;
  const [gannet, tern] = [world.id('host', 'gannet'), world.id('host', 'tern')];
  world.make({ type: 'host.edit', input: { id: gannet, rackId, siteId } });
  world.make({ type: 'host.edit', input: { id: tern, rackId: null, siteId } });
  const placesOf = (id: string) =>
    (['host', 'rack', 'site'] as const).map((scope) => zoneKey(world.fleet, id, scope));
  expect(placesOf(gannet)).toEqual([gannet, rackId, siteId]);
  expect(placesOf(tern)).toEqual([tern, tern, siteId]);
});

describe('what is kept of failures', () => {
  /** Two groups of two hosts, one of each at the pier and in the shed, where all stand in one rack; all reach one pool. */
  function twoSites(): void {
    for (const name of ['Pier', 'Shed']) world.make({ type: 'site.record', input: { name } });
    const siteId = (name: string) => world.id('site', name);
    world.make({ type: 'rack.record', input: { name: 'S1', siteId: siteId('Shed'), units: 24 } });
    const rackId = [...world.fleet.all('rack')][0]!.id;
    world.host('fulmar', 16);
    world.host('skua', 16);
    for (const [group, pier, shed] of [
      ['harbour', 'gannet', 'tern'],
      ['annex', 'fulmar', 'skua'],
    ] as const) {
      world.make({ type: 'host-group.record', input: { name: group } });
      const groupId = world.id('hostGroup', group);
      const put = (host: string, at: object) =>
        world.make({ type: 'host.edit', input: { id: world.id('host', host), groupId, ...at } });
      put(pier, { siteId: siteId('Pier') });
      put(shed, { siteId: siteId('Shed'), rackId });
    }
    const hostIds = ['gannet', 'tern', 'fulmar', 'skua'].map((name) => world.id('host', name));
    world.make({ type: 'pool.edit', input: { id: world.id('pool', 'quay'), hostIds } });
  }
  const lines = () =>
    failureDomains(world.fleet).map((domain) => failureFates(world.fleet, domain));
  const madeAnew = (work: () => void): Record<string, number> => {
    lines();
    const made = () =>
      new Map(world.fleet.keptValues().values.map(({ name, made }) => [name, made] as const));
    const before = made();
    work();
    lines();
    return Object.fromEntries(
      ['guests that fall', 'who finds room'].map((name) => [
        name,
        made().get(name)! - (before.get(name) ?? 0),
      ]),
    );
  };
  const NOTHING = { 'guests that fall': 0, 'who finds room': 0 };

  it('stands while notes are written, and is looked at again host by host and group by group', () => {
    twoSites();
    const tide = run('tide', 'gannet', 2);
    run('log', 'fulmar', 2);
    const edit = (host: string, values: object) => () =>
      world.make({ type: 'host.edit', input: { id: world.id('host', host), ...values } });
    expect(madeAnew(edit('gannet', { notes: 'dusty' }))).toEqual(NOTHING);
    // The pier may fail, and gannet alone: gannet's guest goes to tern.
    expect(madeAnew(edit('tern', { installedMiB: 8192 }))).toEqual({
      ...NOTHING,
      'who finds room': 2,
    });
    expect(
      madeAnew(() => world.make({ type: 'guest.edit', input: { id: tide, notes: 'ebb' } })),
    ).toEqual({ 'guests that fall': 2, 'who finds room': 2 });
  });

  it('knows of guests of two groups that a rule keeps apart', () => {
    twoSites();
    const guestIds = [run('tide', 'gannet', 2), run('log', 'fulmar', 2)];
    const pier = () =>
      failureFates(
        world.fleet,
        failureDomains(world.fleet).find(({ name }) => name === 'Pier')!,
      );
    expect(pier()).toMatchObject({ answer: 'all restart', counts: { restart: 2 } });
    world.make({
      type: 'rule.set',
      input: { name: 'names', rule: 'apart', scope: 'rack', guestIds },
    });
    expect(pier()).toMatchObject({ answer: 'some do not', counts: { restart: 1, waits: 1 } });
    // Each group has room; what is lacking is another rack, which no host could give.
    expect(fails('Pier', 'site')).toMatchObject({ answer: 'some do not', mend: null });
  });
});
