/** Moves of the last weeks: running ones over three routes with what they took, one taken back, one that waits. All invented. */
import type { Change, Context, Fleet } from '@insel/core';

interface Teller {
  make: (change: Change, actor?: Context['actor']) => Promise<void>;
  fleet: Fleet;
  id: (kind: 'guest' | 'host' | 'pool', name: string) => string;
  base: number;
}

/** Guest, to where and back, days ago, and how much longer than the link asks each of both took. */
const ROUND_TRIPS: [guest: string, there: string, daysAgo: number, ratios: [number, number]][] = [
  ['tide-ingest', 'gannet', 58, [1.42, 1.37]],
  ['camera-store', 'razorbill', 49, [1.88, 1.61]],
  ['tide-ingest', 'razorbill', 37, [1.71, 1.5]],
  ['tide-db', 'gannet', 29, [1.31, 1.45]],
  ['tide-ingest', 'gannet', 16, [1.36, 2.4]],
  ['tide-db', 'razorbill', 9, [1.55, 1.49]],
];
const GIGABIT_MIB_A_SECOND = 112.23;

export async function writeMoves({ make, fleet, id, base }: Teller): Promise<void> {
  const before = (days: number) => new Date(base - days * 86_400_000).toISOString();
  const openStep = (key: string) =>
    [...fleet.all('moveStep')].filter((step) => step.key === key).at(-1)!.id;
  for (const [name, there, days, ratios] of ROUND_TRIPS) {
    const guestId = id('guest', name);
    const { hostId: home, memoryMiB } = fleet.need('guest', guestId);
    for (const [i, targetHostId] of [id('host', there), home].entries()) {
      await make({
        type: 'migration.plan',
        input: {
          guestId,
          targetHostId,
          targetPoolId: null,
          running: true,
          linkBitsPerSecond: 1e9,
        },
        reason: i === 0 ? `Work on ${fleet.need('host', home).name}` : 'Back again',
        override: 'Planned to be full for an hour',
        happenedAt: before(days - i * 0.2 + 0.1),
      });
      const copySeconds = Math.round((memoryMiB / GIGABIT_MIB_A_SECOND) * ratios[i]!);
      for (const key of ['moved', 'answers', 'accepted'])
        await make({
          type: 'migration.tick',
          input: {
            stepIds: [openStep(key)],
            state: 'done',
            ...(key === 'moved' ? { copySeconds } : {}),
            ...(key === 'accepted' ? { keepUntil: before(days - 2).slice(0, 10) } : {}),
          },
          happenedAt: before(days - i * 0.2),
        });
    }
  }
  await takenBack({ make, fleet, id, before, openStep });
  await planned({ make, fleet, id, before });
}

/** A move that came up without a network, and went back. */
async function takenBack({
  make,
  fleet,
  id,
  before,
  openStep,
}: Omit<Teller, 'base'> & {
  before: (days: number) => string;
  openStep: (key: string) => string;
}): Promise<void> {
  const guestId = id('guest', 'archive');
  await make({
    type: 'migration.plan',
    input: {
      guestId,
      targetHostId: id('host', 'fulmar'),
      targetPoolId: null,
      running: false,
      linkBitsPerSecond: 1e9,
      windowFrom: before(5.4),
      windowUntil: before(5.2),
    },
    reason: 'razorbill was to be opened',
    override: 'Planned to be full for a night',
    happenedAt: before(6),
  });
  const tick = (keys: string[], more: object = {}) =>
    make({
      type: 'migration.tick',
      input: { stepIds: keys.map(openStep), state: 'done', ...more },
      happenedAt: before(5.3),
      override: 'in a hurry',
    });
  const moveId = () => fleet.referring('migration', 'guestId', guestId).at(-1)!.id;
  const read = (when: 'before' | 'after', lines: readonly string[]) =>
    make({
      type: 'migration.take-reading',
      input: { id: moveId(), when, text: ['insel-reading: 1', ...lines].join('\n') },
      happenedAt: before(when === 'before' ? 5.35 : 5.28),
    });
  const [address] = fleet
    .referring('adapter', 'guestId', guestId)
    .flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id));
  const printed = [
    'name: archive',
    'machine-id: 5d0c1f6a2b7e4c93a1d8f0b26e47c35a',
    `address: eth0 ${address?.ip ?? '192.0.2.1'}/24`,
    'mount: / ext4',
    'mount: /srv/archive xfs',
    'listens: tcp 22',
  ];
  await read('before', [...printed, 'listens: tcp 2049', 'share: /srv/archive', 'uptime: 5184000']);
  await tick(['backup', 'shut-down']);
  await tick(['copied']);
  await tick(['source-off']);
  await tick(['first-start']);
  await read('after', [...printed, 'failed: storage-net.service', 'uptime: 340']);
  await tick(['answers'], {
    state: 'failed',
    remark: 'It came up without its second network: the switch port was not carried.',
  });
  const migration = fleet
    .referring('migration', 'guestId', guestId)
    .find(({ state }) => state === 'switched')!;
  await make({
    type: 'migration.step',
    input: { id: migration.id, step: 'roll back' },
    happenedAt: before(5.25),
    reason: 'No network by half past two',
  });
}

/** What is planned for the coming week: two of them at once at one host. */
async function planned({
  make,
  fleet,
  id,
  before,
}: Omit<Teller, 'base'> & { before: (days: number) => string }): Promise<void> {
  const night = (days: number, hours: number) =>
    new Date(
      Date.parse(`${before(-days).slice(0, 10)}T00:00:00Z`) + hours * 3_600_000,
    ).toISOString();
  const waiting = fleet.referring('migration', 'guestId', id('guest', 'bird-song'))[0]!;
  await make({
    type: 'migration.edit',
    input: { id: waiting.id, windowFrom: night(2, 20), windowUntil: night(3, 6) },
  });
  for (const [name, from] of [
    ['camera-store', 2],
    ['tide-ingest', 2.1],
  ] as const)
    await make({
      type: 'migration.plan',
      input: {
        guestId: id('guest', name),
        targetHostId: id('host', 'razorbill'),
        targetPoolId: null,
        running: true,
        linkBitsPerSecond: 1e9,
        windowFrom: night(5, from),
        windowUntil: night(5, from + 2),
      },
      reason: 'So that gannet and fulmar can be restarted',
      override: 'For one night razorbill is fuller than it should be',
    });
}
