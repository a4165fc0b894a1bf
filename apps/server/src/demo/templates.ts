/** The line of the gauge template, probes cloned from it, one pair of twins, what licences allow. All invented. */
import { GIB, type Change, type Context, type Fleet } from '@insel/core';

interface Teller {
  make: (change: Change, actor?: Context['actor']) => Promise<void>;
  fleet: Fleet;
  id: (kind: 'guest' | 'host' | 'template' | 'medium' | 'profile', name: string) => string;
  base: number;
}

const PROBES = 9;

export async function writeTemplates({ make, fleet, id, base }: Teller): Promise<void> {
  const before = (days: number) => new Date(base - days * 86_400_000).toISOString();
  const templateId = () => id('template', 'gauge');
  const version = (number: number) =>
    fleet
      .referring('templateVersion', 'templateId', templateId())
      .find((row) => row.number === number)!.id;
  const seal = async (number: number, days: number) => {
    const items = fleet.referring('sealItem', 'versionId', version(number));
    await make({
      type: 'template.tick',
      input: { itemIds: items.map((row) => row.id), done: true },
      happenedAt: before(days),
    });
    await make({
      type: 'template.seal',
      input: { id: version(number) },
      happenedAt: before(days),
    });
  };
  await make({
    type: 'template.begin',
    input: {
      guestId: id('guest', 'gauge-master'),
      name: 'gauge',
      changed: 'The first one.',
      installed: 'time, monitoring, reader of the gauges 3',
      mediumId: id('medium', 'linux-server-11.img'),
    },
  });
  await make({
    type: 'template.edit',
    input: {
      id: templateId(),
      purpose: 'Reads one gauge, keeps a day of readings, sends them on.',
    },
  });
  await seal(1, 151);
  await make({
    type: 'template.new-version',
    input: {
      templateId: templateId(),
      changed: 'Release 12, reader of the gauges 4.',
      installed: 'time, monitoring, reader of the gauges 4',
    },
  });
  for (const state of ['building', 'stopped'] as const)
    await make({ type: 'guest.set-state', input: { id: id('guest', 'gauge-v2'), state } });
  await seal(2, 47);
  const [disk] = fleet.referring('volume', 'guestId', id('guest', 'gauge-v2'));
  await make({
    type: 'volume.edit',
    input: { id: disk!.id, thin: true, usedBytes: Math.round(2.3 * GIB) },
  });
  await make({
    type: 'clone.make',
    input: {
      originId: id('guest', 'gauge-v2'),
      copy: 'dependent',
      pattern: 'probe-{nn}',
      start: 1,
      taking: 'run',
      spread: 'one a host',
      among: ['gannet', 'razorbill'].map((name) => id('host', name)),
      vcpu: 1,
      memoryMiB: 256,
      owner: 'keeper of the gauges',
      purpose: 'probe on the outer moles',
      groupId: null,
      clones: Array.from({ length: PROBES }, () => ({})),
    },
    reason: 'One probe on each of the outer moles',
  });
  await giveIdentity({ make, fleet, id });
  await make({
    type: 'template.new-version',
    input: { templateId: templateId(), changed: 'Updates of the autumn.' },
  });
  await make({
    type: 'entitlement.record',
    input: {
      name: 'NT-family server, by core pair',
      unit: 'core pair',
      count: 16,
      leastPerHost: 8,
      copiesPerHost: 2,
      family: 'NT family',
      notes: 'Contract in the office safe, folder 4.',
    },
  });
  await make({
    type: 'entitlement.record',
    input: {
      name: 'monitoring agents',
      unit: 'copy',
      count: 60,
      family: 'Linux',
      until: '2027-06-30',
    },
  });
}

const probe = (n: number) => `probe-0${n}`;

/** Six serve, of which two were seen to have one identifier; one is late with its jobs; the rest are planned. */
async function giveIdentity({ make, fleet, id }: Omit<Teller, 'base'>): Promise<void> {
  const items = (name: string) =>
    fleet
      .referring('clone', 'guestId', id('guest', name))
      .flatMap((clone) => fleet.referring('identityItem', 'cloneId', clone.id));
  const up = [1, 2, 3, 4, 5, 6].map(probe);
  await make({
    type: 'clone.tick',
    input: {
      itemIds: up.flatMap((name) =>
        items(name)
          .filter(({ item }) => item !== 'scheduled jobs' || name !== probe(3))
          .map((row) => row.id),
      ),
      done: true,
    },
  });
  const ids = up.map((name) => id('guest', name));
  for (const state of ['building', 'in service'] as const)
    await make({ type: 'guest.set-state-many', input: { ids, state } });
  await make({
    type: 'clone.record-times',
    input: { guestIds: ids, copySeconds: 2 },
  });
  for (const [n, machine] of [
    [1, '3f0c9b'],
    [4, '71ae20'],
    [5, '71ae20'],
  ] as const)
    await make({
      type: 'guest.take-proof',
      input: {
        guestId: id('guest', probe(n)),
        text: `insel-identity: 1\nname: ${probe(n)}\nmachine-id: ${machine.padEnd(32, '4d8e')}\nhost-key: SHA256:${String(n).padEnd(43, 'bN7q')}`,
      },
    });
  for (const [n, bytes] of [
    [1, 0.4],
    [2, 0.9],
    [3, 0.2],
  ] as const) {
    const [disk] = fleet.referring('volume', 'guestId', id('guest', probe(n)));
    await make({
      type: 'volume.edit',
      input: { id: disk!.id, usedBytes: Math.round(bytes * GIB) },
    });
  }
}
