/** Writes the demo's history: every entry is a change that went the way of any other, dated back over half a year. */
import { GIB, HOST_TESTS, type Change, type Context, type Fleet } from '@insel/core';
import type { FleetKeeper } from '../record/keeper.js';
import type { WritePath } from '../changes/write-path.js';
import { writeBoatHouse } from './boat-house.js';
import { writeCabling } from './cabling.js';
import { devicesOf, writeLifecycles } from './guest-lifecycle.js';
import { asTheyBegan, RECORD_BEGAN, writeHalfYear } from './half-year.js';
import { writePower } from './power.js';
import { writeStarts } from './starts.js';
import { writeComputers } from './computers.js';
import { writeMoves } from './moves.js';
import { writePlans } from './plans.js';
import { writeTemplates } from './templates.js';
import { ALIKE, BACKUPS, GROUPS, MACHINES, MEDIA, RACKS, VERIFIED } from './machines.js';
import { GUESTS, HOSTS, NETWORKS, SHARED_POOL, SITES, volumeOf } from './place.js';

export interface DemoActors {
  administrator: Context['actor'];
  planner: Context['actor'];
}

export async function writeDemo(
  path: WritePath,
  keeper: FleetKeeper,
  actors: DemoActors,
  now: string,
): Promise<void> {
  const base = Date.parse(now);
  /** Days before now, and minutes that go on with every entry. */
  let [daysAgo, minute] = [RECORD_BEGAN - 1, 0];
  const day = (days: number): void => {
    [daysAgo, minute] = [days, 0];
  };
  const time = () =>
    new Date(Math.min(base, base - daysAgo * 86_400_000 + (minute += 1) * 60_000)).toISOString();

  const make = async (change: Change, actor = actors.planner): Promise<void> => {
    const result = await path.commit({ change, actor, now: time() });
    if (result.kind !== 'written')
      throw new Error(`the demo's ${change.type} was not written: ${JSON.stringify(result)}`);
  };
  const { fleet } = keeper;
  const id = finder(fleet);

  for (const site of SITES)
    await make({ type: 'site.record', input: { ...site } }, actors.administrator);
  for (const network of NETWORKS) {
    await make({
      type: 'network.record',
      input: {
        name: network.name,
        purpose: network.purpose,
        vlanId: network.vlanId,
        siteId: id('site', network.site),
        subnet: {
          prefix: network.prefix,
          gateway: network.gateway,
          nameServers: network.gateway ? ['172.22.12.53', '172.22.12.54'] : [],
          ranges: network.ranges,
        },
      },
      reason: network.name === 'annex-six' ? 'First IPv6 block from the provider' : undefined,
    });
  }
  day(RECORD_BEGAN - 2);
  for (const host of HOSTS) {
    await make({
      type: 'host.record',
      input: {
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
        pools: [{ name: `${host.name}-data`, usableBytes: host.poolBytes }],
        networks: host.networks.map((name) => ({ networkId: id('network', name) })),
        management: { ip: host.ip },
      },
      reason:
        host.state === 'planned' ? 'So that the office survives the loss of one host' : undefined,
    });
  }
  await make({
    type: 'pool.record',
    input: {
      name: SHARED_POOL.name,
      usableBytes: SHARED_POOL.usableBytes,
      notes: 'Storage served over storage-a.',
      hostIds: SHARED_POOL.hosts.map((name) => id('host', name)),
    },
  });
  await writeGroups({ make, fleet, id });
  day(RECORD_BEGAN - 3);
  const atFirst = asTheyBegan();
  for (const [
    name,
    host,
    pool,
    family,
    vcpu,
    memory,
    disk,
    network,
    ip,
    purpose,
    state = 'in service',
  ] of GUESTS) {
    const began = atFirst.get(name);
    await make({
      type: 'guest.record',
      input: {
        name,
        hostId: id('host', host),
        state,
        family,
        purpose,
        vcpu: began?.vcpu ?? vcpu,
        memoryMiB: (began?.memory ?? memory) * 1024,
        template: name === 'gauge-master',
        firmware: 'UEFI',
        bootFirst: 'disk',
        stateAt: new Date(base - (state === 'stopped' ? 140 : 400) * 86_400_000).toISOString(),
        volumes: [
          {
            poolId: id('pool', pool),
            bytes: volumeOf(began?.disk ?? disk),
            label: 'system',
            thin: disk >= 800,
            bus: devicesOf(family).bus,
          },
        ],
        adapters: [
          {
            networkId: id('network', network),
            model: devicesOf(family).model,
            address: { as: 'given', ip },
          },
        ],
      },
      reason: name === 'desk-2' ? 'Found while walking through the annex' : undefined,
    });
  }
  await writeHalfYear({ make, fleet, id, day });
  day(4);
  await make({
    type: 'clone.make',
    input: {
      originId: id('guest', 'gauge-master'),
      copy: 'full',
      pattern: 'gauge-reader-#',
      start: 1,
      taking: 'run',
      clones: [
        { hostId: id('host', 'gannet') },
        { hostId: id('host', 'fulmar') },
        { hostId: id('host', 'razorbill') },
      ],
    },
    reason: 'One reader for each gauge',
  });
  const items = (guest: string) => {
    const clone = fleet.referring('clone', 'guestId', id('guest', guest))[0]!;
    return fleet
      .referring('identityItem', 'cloneId', clone.id)
      .sort((a, b) => (a.id < b.id ? -1 : 1));
  };
  await make({
    type: 'clone.tick',
    input: { itemIds: items('gauge-reader-1').map((item) => item.id), done: true },
  });
  await make({
    type: 'guest.set-state',
    input: { id: id('guest', 'gauge-reader-1'), state: 'in service' },
  });
  await make({
    type: 'clone.tick',
    input: {
      itemIds: items('gauge-reader-2')
        .filter((item) => item.item !== 'machine identifier')
        .map((item) => item.id),
      done: true,
    },
  });
  await make(
    {
      type: 'guest.set-state',
      input: { id: id('guest', 'gauge-reader-2'), state: 'in service' },
      override: 'The gauge may not miss the spring tide; its identifier follows in the morning',
    },
    actors.administrator,
  );
  await writeMachines({ make, fleet, id, day, base });
  const moves = [
    {
      guest: 'chart-render',
      target: 'fulmar',
      pool: 'fulmar-data',
      minutes: 154,
      planned: 3.9,
      done: 3.2,
      accept: true,
    },
    {
      guest: 'weather-mirror',
      target: 'gannet',
      pool: 'gannet-data',
      minutes: 660,
      planned: 2.9,
      done: 2.2,
      accept: false,
    },
  ];
  for (const move of moves) await migrate({ make, fleet, id, day, base }, move);
  day(2);
  await make({
    type: 'log.note',
    input: {
      text: 'Walked the annex: plover is warm, its fan is loud. Ordered a new one.',
      subject: { kind: 'host', id: id('host', 'plover') },
    },
  });
  day(1);
  await make({
    type: 'guest.plan',
    input: {
      name: 'storm-page',
      hostId: id('host', 'razorbill'),
      family: 'Linux',
      purpose: 'public page for storm warnings',
      vcpu: 2,
      memoryMiB: 4096,
      volumes: [{ poolId: id('pool', 'quay'), bytes: 60 * GIB, label: 'system' }],
      adapters: [{ networkId: id('network', 'harbour-guests'), address: { as: 'next' } }],
    },
    reason: 'Asked for by the harbour master before the autumn tides',
  });
  await make({
    type: 'migration.plan',
    input: {
      guestId: id('guest', 'bird-song'),
      targetHostId: id('host', 'tern'),
      targetPoolId: id('pool', 'tern-data'),
      running: false,
      linkBitsPerSecond: 1e9,
    },
    reason: 'plover is overfull',
    override: 'Its recordings are kept twice elsewhere; the move itself is rehearsed first',
  });
  await make({
    type: 'guest.edit',
    input: {
      id: id('guest', 'tide-api'),
      notes: [
        'Used by the **ferry office**. Before a restart:',
        '- warn them, an hour ahead in summer',
        '- take `tides.public` out of the watch',
      ].join('\n'),
    },
  });
  await writeReserves({ make, fleet, id, day, base });
  day(0.15);
  await writeCabling({ make, fleet, id });
  await writeStarts({ make, fleet, id });
  await writePower({ make, fleet, id });
  day(0.1);
  await writeLifecycles({ make, fleet, id }, base);
  day(0.08);
  await writeBoatHouse({ make, fleet, id });
  day(0.06);
  await writeTemplates({ make, fleet, id, base });
  day(0.05);
  await writePlans({ make, fleet, id });
  await writeMoves({ make, fleet, id, base });
  await writeComputers({ make, fleet, id, base });
  await make({
    type: 'finding.accept',
    input: { findingId: `ending-soon|${id('host', 'eider')}|warranty`, until: '2027-03-31' },
    reason: 'Its successor is ordered; until then the parts of the old one are kept.',
  });
}

type Find = (
  kind:
    | 'site'
    | 'rack'
    | 'platform'
    | 'hostGroup'
    | 'network'
    | 'host'
    | 'pool'
    | 'guest'
    | 'device'
    | 'physicalSwitch'
    | 'template'
    | 'medium'
    | 'profile',
  name: string,
) => string;

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

/** Hardware as it was taken stock of, racks, media, what the pools lie on. */
async function writeMachines({ make, fleet, id, day }: Teller): Promise<void> {
  day(3.95);
  for (const { site, ...rack } of RACKS)
    await make({ type: 'rack.record', input: { ...rack, siteId: id('site', site) } });
  for (const { platform, ...medium } of MEDIA)
    await make({
      type: 'medium.record',
      input: { ...medium, platformId: id('platform', platform) },
    });
  for (const name of ['Generic bare-metal 1', 'Generic bare-metal 2, lean'])
    await make({
      type: 'platform.edit',
      input: { id: id('platform', name), consolePort: 8443, minimumLevel: 2 },
    });
  await make({
    type: 'host.edit-many',
    input: { ids: HOSTS.map((host) => id('host', host.name)), ...ALIKE },
    reason: 'Alike for all',
  });
  const rackOf: Record<string, string> = {
    'Harbour house': 'harbour rack 1',
    'Lighthouse annex': 'annex rack',
  };
  for (const [name, { fields, hardware, poolOn }] of Object.entries(MACHINES)) {
    const hostId = id('host', name);
    const rack = rackOf[HOSTS.find((host) => host.name === name)!.site];
    await make({
      type: 'host.edit',
      input: {
        id: hostId,
        ...fields,
        ...(rack && fields.rackUnit ? { rackId: id('rack', rack) } : {}),
      },
    });
    await make({ type: 'host.set-hardware', input: { hostId, hardware } });
    if (!poolOn) continue;
    const lies =
      'array' in poolOn
        ? {
            arrayId: fleet
              .referring('array', 'hostId', hostId)
              .find((array) => array.name === poolOn.array)!.id,
          }
        : {
            diskId: fleet
              .referring('disk', 'hostId', hostId)
              .find((disk) => disk.bay === poolOn.bay)!.id,
          };
    await make({ type: 'pool.edit', input: { id: id('pool', `${name}-data`), ...lies } });
    const byName = new Map(
      fleet.referring('port', 'hostId', hostId).map((port) => [port.name, port.id]),
    );
    const outward = [
      byName.get('p2') ?? byName.get('p1')!,
      ...(byName.has('p4') ? [byName.get('p4')!] : []),
    ];
    for (const found of fleet.referring('virtualSwitch', 'hostId', hostId)) {
      await make({ type: 'switch.set-uplinks', input: { switchId: found.id, portIds: outward } });
      if (outward.length > 1 && found.mode === 'bridged')
        await make({ type: 'switch.edit', input: { id: found.id, bundle: 'failover' } });
    }
  }
  await make({
    type: 'pool.edit',
    input: {
      id: id('pool', SHARED_POOL.name),
      remote: 'storage shelf of the harbour house',
      usedBytes: 9_400_000_000_000,
    },
  });
}

/** Groups, that keep nothing for a failed host yet. */
async function writeGroups({ make, id }: Pick<Teller, 'make' | 'fleet' | 'id'>): Promise<void> {
  for (const { fields, hosts } of GROUPS) {
    await make({ type: 'host-group.record', input: { ...fields, reservePercent: 0 } });
    await make({
      type: 'host.edit-many',
      input: { ids: hosts.map((name) => id('host', name)), groupId: id('hostGroup', fields.name) },
    });
  }
}

/** What groups keep for a failed host, rules, backups, verifications, and a console's certificate. */
async function writeReserves({ make, id, day, base }: Teller): Promise<void> {
  for (const { name, reservePercent } of GROUPS.map(({ fields }) => fields))
    await make({
      type: 'host-group.edit',
      input: { id: id('hostGroup', name), reservePercent },
      reason: 'So that the rest carries what one host carried',
    });
  await make({
    type: 'rule.set',
    input: {
      name: 'name servers apart',
      rule: 'apart',
      guestIds: [id('guest', 'names-1'), id('guest', 'names-2')],
    },
  });
  const ago = (hours: number) => new Date(base - hours * 3_600_000).toISOString();
  for (const [guest, way, pool, keeper, every, restore, last, tested] of BACKUPS) {
    await make({
      type: 'backup.record',
      input: {
        guestId: id('guest', guest),
        way,
        poolId: pool && id('pool', pool),
        place: pool ? '' : 'disk in the bank of the town',
        storeGuestId: keeper && id('guest', keeper),
        everyMinutes: every * 60,
        takesMinutes: Math.ceil(every * 6),
        restoreMinutes: restore === null ? null : restore * 60,
        lastSuccessAt: ago(last),
        lastRestoreTestAt: tested === null ? null : ago(tested * 24),
      },
    });
  }
  for (const [name, days] of Object.entries(VERIFIED)) {
    day(0.2);
    await make({
      type: 'host.verify',
      input: {
        hostId: id('host', name),
        at: ago(4 - days),
        tests: HOST_TESTS.map((test) => ({
          test,
          passed: !(name === 'razorbill' && test === 'own name, reverse'),
          remark: name === 'razorbill' && test === 'own name, reverse' ? 'no answer' : '',
        })),
      },
    });
  }
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
  await make({
    type: 'guest.set-state',
    input: { id: guestId, state: 'stopped' },
    reason: 'For the move',
  });
  await make({
    type: 'migration.plan',
    input: {
      guestId,
      targetHostId: id('host', move.target),
      targetPoolId: id('pool', move.pool),
      running: false,
      linkBitsPerSecond: 1e9,
    },
  });
  const migrationId = fleet.referring('migration', 'guestId', guestId)[0]!.id;
  const began = base - move.planned * 86_400_000 + 3_600_000;
  day(move.done);
  await make({
    type: 'migration.step',
    input: { id: migrationId, step: 'start' },
    happenedAt: new Date(began).toISOString(),
  });
  await make({
    type: 'migration.step',
    input: { id: migrationId, step: 'switch', copySeconds: move.minutes * 60 },
    happenedAt: new Date(began + move.minutes * 60_000).toISOString(),
  });
  await make({ type: 'guest.set-state', input: { id: guestId, state: 'in service' } });
  if (move.accept) {
    const until = new Date(base - 86_400_000).toISOString().slice(0, 10);
    await make({
      type: 'migration.step',
      input: { id: migrationId, step: 'accept', keepUntil: until },
      reason: 'Signed off by the chart office',
    });
  }
}
