/** Writes the demo's history: every entry is a change that went the way of any other, dated back over eight days. */
import { GIB, type Change, type Edge, type Fleet } from '@insel/core';
import type { FleetKeeper } from '../record/keeper.js';
import type { WritePath } from '../record/write-path.js';
import { GUESTS, HOSTS, NETWORKS, SHARED_POOL, SITES, volumeOf } from './place.js';

export interface DemoActors {
  administrator: Edge['actor'];
  planner: Edge['actor'];
}

export async function writeDemo(path: WritePath, keeper: FleetKeeper, actors: DemoActors, now: string): Promise<void> {
  const base = Date.parse(now);
  /** Days before now, and minutes that go on with every entry. */
  let [daysAgo, minute] = [8, 0];
  const day = (days: number): void => {
    [daysAgo, minute] = [days, 0];
  };
  const time = () => new Date(base - daysAgo * 86_400_000 + (minute += 7) * 60_000).toISOString();

  const make = async (change: Change, actor = actors.planner): Promise<void> => {
    const result = await path.commit({ change, actor, now: time() });
    if (result.kind !== 'written') throw new Error(`the demo's ${change.type} was not written: ${JSON.stringify(result)}`);
  };
  const { fleet } = keeper;
  const id = finder(fleet);

  for (const name of SITES) await make({ type: 'site.record', name }, actors.administrator);
  for (const network of NETWORKS) {
    await make({
      type: 'network.record',
      fields: { name: network.name, purpose: network.purpose, vlanId: network.vlanId, siteId: id('site', network.site) },
      subnet: { prefix: network.prefix, gateway: network.gateway, nameServers: network.gateway ? ['172.22.12.53', '172.22.12.54'] : [], ranges: network.ranges },
      reason: network.name === 'annex-six' ? 'First IPv6 block from the provider' : undefined,
    });
  }
  day(7);
  for (const host of HOSTS) {
    await make({
      type: 'host.record',
      fields: {
        name: host.name,
        state: host.state,
        siteId: id('site', host.site),
        platformId: id('platform', host.platform),
        purpose: host.purpose,
        processorModel: host.model,
        sockets: host.sockets,
        coresPerSocket: host.cores,
        threadsPerCore: 2,
        installedMiB: host.memoryGiB * 1024,
        visibleMiB: host.seesGiB === null ? null : host.seesGiB * 1024,
      },
      pools: [{ name: `${host.name}-data`, usableBytes: host.poolBytes }],
      networks: host.networks.map((name) => ({ networkId: id('network', name) })),
      management: { ip: host.ip },
      reason: host.state === 'planned' ? 'So that the office survives the loss of one host' : undefined,
    });
  }
  await make({
    type: 'pool.record',
    fields: { name: SHARED_POOL.name, usableBytes: SHARED_POOL.usableBytes, notes: 'Storage served over storage-a.' },
    hostIds: SHARED_POOL.hosts.map((name) => id('host', name)),
  });
  day(6);
  for (const [name, host, pool, family, vcpu, memory, disk, network, ip, purpose, state = 'in service'] of GUESTS) {
    await make({
      type: 'guest.record',
      fields: { name, hostId: id('host', host), state, family, purpose, vcpu, memoryMiB: memory * 1024, template: name === 'gauge-master' },
      volumes: [{ poolId: id('pool', pool), bytes: volumeOf(disk), label: 'system', thin: disk >= 800 }],
      adapters: [{ networkId: id('network', network), address: { take: 'given', ip } }],
      reason: name === 'desk-2' ? 'Found while walking through the annex' : undefined,
    });
  }
  day(4);
  await make({
    type: 'clone.make',
    originId: id('guest', 'gauge-master'),
    copy: 'full',
    pattern: 'gauge-reader-#',
    start: 1,
    taking: 'run',
    clones: [{ hostId: id('host', 'gannet') }, { hostId: id('host', 'fulmar') }, { hostId: id('host', 'razorbill') }],
    reason: 'One reader for each gauge',
  });
  const items = (guest: string) => {
    const clone = fleet.referring('clone', 'guestId', id('guest', guest))[0]!;
    return fleet.referring('identityItem', 'cloneId', clone.id).sort((a, b) => (a.id < b.id ? -1 : 1));
  };
  await make({ type: 'clone.tick', itemIds: items('gauge-reader-1').map((item) => item.id), done: true });
  await make({ type: 'guest.set-state', id: id('guest', 'gauge-reader-1'), state: 'in service' });
  await make({ type: 'clone.tick', itemIds: items('gauge-reader-2').filter((item) => item.item !== 'machine identifier').map((item) => item.id), done: true });
  await make({ type: 'guest.set-state', id: id('guest', 'gauge-reader-2'), state: 'in service' });
  const moves = [
    { guest: 'chart-render', target: 'fulmar', pool: 'fulmar-data', minutes: 154, planned: 3.9, done: 3.2, accept: true },
    { guest: 'weather-mirror', target: 'gannet', pool: 'gannet-data', minutes: 660, planned: 2.9, done: 2.2, accept: false },
  ];
  for (const move of moves) await migrate({ make, fleet, id, day, base }, move);
  day(2);
  await make({ type: 'log.note', text: 'Walked the annex: plover is warm, its fan is loud. Ordered a new one.', subject: { kind: 'host', id: id('host', 'plover') } });
  day(1);
  await make({
    type: 'guest.plan',
    fields: { name: 'storm-page', hostId: id('host', 'razorbill'), family: 'Linux', purpose: 'public page for storm warnings', vcpu: 2, memoryMiB: 4096 },
    volumes: [{ poolId: id('pool', 'quay'), bytes: 60 * GIB, label: 'system' }],
    adapters: [{ networkId: id('network', 'harbour-guests'), address: { take: 'next' } }],
    reason: 'Asked for by the harbour master before the autumn tides',
  });
  await make({ type: 'migration.plan', guestId: id('guest', 'bird-song'), targetHostId: id('host', 'tern'), targetPoolId: id('pool', 'tern-data'), running: false, linkBitsPerSecond: 1e9, reason: 'plover is overfull' });
  await make({ type: 'guest.edit', id: id('guest', 'tide-api'), fields: { notes: 'Used by the ferry office. Warn them before a restart.' } });
}

type Find = (kind: 'site' | 'platform' | 'network' | 'host' | 'pool' | 'guest', name: string) => string;

function finder(fleet: Fleet): Find {
  return (kind, name) => {
    for (const row of fleet.all(kind)) if (row.name === name) return row.id;
    throw new Error(`the demo has no ${kind} ${name}`);
  };
}

interface Teller {
  make: (change: Change) => Promise<void>;
  fleet: Fleet;
  id: Find;
  /** Goes on with the story that many days before now. */
  day: (days: number) => void;
  base: number;
}

interface Move {
  guest: string;
  target: string;
  pool: string;
  minutes: number;
  /** Days before now on which it was planned, and on which its steps were recorded. */
  planned: number;
  done: number;
  accept: boolean;
}

async function migrate({ make, fleet, id, day, base }: Teller, move: Move): Promise<void> {
  const guestId = id('guest', move.guest);
  day(move.planned);
  await make({ type: 'guest.set-state', id: guestId, state: 'stopped', reason: 'For the move' });
  await make({ type: 'migration.plan', guestId, targetHostId: id('host', move.target), targetPoolId: id('pool', move.pool), running: false, linkBitsPerSecond: 1e9 });
  const migrationId = fleet.referring('migration', 'guestId', guestId)[0]!.id;
  const began = base - move.planned * 86_400_000 + 3_600_000;
  day(move.done);
  await make({ type: 'migration.step', id: migrationId, step: 'start', happenedAt: new Date(began).toISOString() });
  await make({ type: 'migration.step', id: migrationId, step: 'switch', happenedAt: new Date(began + move.minutes * 60_000).toISOString(), copySeconds: move.minutes * 60 });
  await make({ type: 'guest.set-state', id: guestId, state: 'in service' });
  if (move.accept) {
    const until = new Date(base - 86_400_000).toISOString().slice(0, 10);
    await make({ type: 'migration.step', id: migrationId, step: 'accept', keepUntil: until, reason: 'Signed off by the chart office' });
  }
}
