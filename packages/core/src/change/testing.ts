/** A small fleet for tests, made by changes like any other. */
import {
  Fleet,
  isRefusal,
  SHAPE,
  type Context,
  type Decision,
  type LogEntry,
  type Refusal,
  STAND_ALONE,
  type StandAlone,
} from '../record/index.js';
import { decide, type Change, type ChangeOf } from './decide.js';

export class World {
  readonly fleet = new Fleet();
  readonly log: LogEntry[] = [];
  private counter = 0;
  now = '2026-11-20T08:00:00.000Z';

  context(): Context {
    return {
      now: this.now,
      actor: { id: 'planner', name: 'planner', role: 'administrator' },
      newId: () => `00000000-0000-7000-8000-${String((this.counter += 1)).padStart(12, '0')}`,
      randomByte: () => (this.counter += 1) % 256,
    };
  }

  try(change: Change): Decision | Refusal {
    return decide(this.fleet, change, this.context(), {
      entry: change.type === 'undo' ? this.log[change.input.revision - 1] : undefined,
      pasted: { redacted: false },
    });
  }

  /** Decides and applies. @throws Error with the refusal's sentence */
  make(change: Change): Decision {
    const decision = this.try(change);
    if (isRefusal(decision)) throw new Error(`${decision.code}: ${decision.sentence}`);
    this.record(change, decision);
    return decision;
  }

  /** Applies what was decided. */
  record(change: Change, decision: Decision): void {
    const revision = this.fleet.revision + 1;
    const { patches, title, subjects } = decision;
    this.fleet.apply(patches, revision);
    this.log.push({
      revision,
      shape: SHAPE,
      at: this.now,
      happenedAt: null,
      actorId: 'planner',
      actorName: 'planner',
      title,
      reason: '',
      override: '',
      change: { type: change.type, shape: 1, input: change.input },
      subjects,
      patches,
    });
  }

  id(
    kind:
      | 'host'
      | 'guest'
      | 'network'
      | 'pool'
      | 'platform'
      | 'service'
      | 'device'
      | 'physicalSwitch'
      | 'medium'
      | 'profile'
      | 'guestGroup'
      | 'placementRule'
      | 'hostGroup'
      | 'template'
      | 'plan'
      | 'entitlement'
      | 'site',
    name: string,
  ): string {
    for (const row of this.fleet.all(kind)) if (row.name === name) return row.id;
    throw new Error(`no ${kind} ${name}`);
  }

  host(
    name: string,
    memoryGiB: number,
    { networks = ['shore'], state = 'in service' as 'in service' | 'building', cores = 8 } = {},
  ): string {
    this.make({
      type: 'host.record',
      input: {
        name,
        state,
        platformId: this.id('platform', 'Generic bare-metal 1'),
        sockets: 1,
        coresPerSocket: cores,
        threadsPerCore: 2,
        installedMiB: memoryGiB * 1024,
        visibleMiB: memoryGiB * 1024,
        pools: [{ name: `${name}-data`, usableBytes: 1e12 }],
        networks: networks.map((found) => ({ networkId: this.id('network', found) })),
      },
    });
    return this.id('host', name);
  }

  plan(
    name: string,
    host: string,
    memoryMiB: number,
    more: { vcpu?: number; bytes?: number; override?: string; ip?: string } = {},
  ): ChangeOf<'guest.plan'> {
    return {
      type: 'guest.plan',
      input: {
        name,
        hostId: this.id('host', host),
        family: 'Linux',
        vcpu: more.vcpu ?? 2,
        memoryMiB,
        volumes: [{ poolId: this.id('pool', `${host}-data`), bytes: more.bytes ?? 50e9 }],
        adapters: [
          {
            networkId: this.id('network', 'shore'),
            address: more.ip ? { as: 'given', ip: more.ip } : { as: 'next' },
          },
        ],
      },
      override: more.override,
    };
  }

  found(
    name: string,
    host: string,
    memoryMiB: number,
    ip: string,
    state: 'in service' | 'stopped' = 'in service',
    mac?: string,
  ): ChangeOf<'guest.record'> {
    return {
      type: 'guest.record',
      input: {
        name,
        hostId: this.id('host', host),
        state,
        family: 'Linux',
        vcpu: 2,
        memoryMiB,
        volumes: [{ poolId: this.id('pool', `${host}-data`), bytes: 50e9 }],
        adapters: [{ networkId: this.id('network', 'shore'), mac, address: { as: 'given', ip } }],
      },
    };
  }
}

/** A change of one of the kinds that stand alone, whichever: for tests that go through them. */
export function one(kind: StandAlone, verb: 'record' | 'edit' | 'remove', input: object): Change {
  const [slug] = Object.entries(STAND_ALONE).find(([, found]) => found === kind)!;
  return { type: `${slug}.${verb}`, input } as unknown as Change;
}

/** One network 192.0.2.0/24 with a dynamic range and its router, two hosts of 16 GiB. */
export function smallWorld(): World {
  const world = new World();
  world.make({ type: 'record.begin', input: {} });
  world.make({
    type: 'network.record',
    input: {
      name: 'shore',
      subnet: {
        prefix: '192.0.2.0/24',
        gateway: '192.0.2.1',
        nameServers: ['203.0.113.53'],
        ranges: [{ use: 'dynamic', firstIp: '192.0.2.100', lastIp: '192.0.2.199' }],
      },
    },
  });
  const ports = [
    { name: 'inner', networkId: world.id('network', 'shore'), addresses: [{ ip: '192.0.2.1' }] },
  ];
  world.make({
    type: 'device.record',
    input: { name: 'gate', kind: 'router', forwards: true, ports },
  });
  world.host('gannet', 16);
  world.host('tern', 16);
  return world;
}
