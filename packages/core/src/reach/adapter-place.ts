/** Where a guest's adapter is joined: at the virtual switch of its host that carries its network, and why it may not be. */
import { isolatesGuests } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';
import { nodeKeys } from './wire-record.js';
import type { Blocked, Wiring } from './wiring.js';

export interface AdapterPlace {
  /** Node of the wiring; null: it is in no network. */
  node: number | null;
  /** Why frames do not pass between it and that node. */
  blocked: Blocked | null;
  /** It is alone with what translates for it, whoever else is there. */
  alone: boolean;
}

/** Finds places; what switches a host has is looked up once. */
export class AdapterPlaces {
  private readonly switchesOf = new Map<
    string,
    { networkId: string | null; node: number | null; isolates: boolean }[]
  >();

  constructor(
    private readonly fleet: Fleet,
    private readonly wiring: Wiring,
  ) {}

  of(adapter: Row<'adapter'>, guest: Row<'guest'>, host: Row<'host'>): AdapterPlace {
    const { networkId } = adapter;
    if (!networkId) return { node: null, blocked: null, alone: false };
    const blocked = this.unplugged(adapter, guest);
    const found = this.carrying(host.id, networkId);
    if (!found) {
      const node = this.wiring.numbers.of(nodeKeys.wire(networkId));
      return { node, blocked: blocked ?? this.notCarried(host, networkId), alone: false };
    }
    if (!found.isolates) return { node: found.node, blocked, alone: false };
    return { node: this.wiring.numbers.of(nodeKeys.inside(adapter.id)), blocked, alone: true };
  }

  isAlone = ({ networkId }: Row<'adapter'>, hostId: string): boolean =>
    networkId !== null && this.carrying(hostId, networkId)?.isolates === true;

  /** Where two carry one network, it is the later one. */
  private carrying = (hostId: string, networkId: string) =>
    this.switches(hostId).findLast((one) => one.networkId === networkId);

  private switches(hostId: string) {
    let known = this.switchesOf.get(hostId);
    if (!known) {
      known = this.fleet.referring('virtualSwitch', 'hostId', hostId).map((one) => ({
        networkId: one.networkId,
        node: this.wiring.find(nodeKeys.virtualSwitch(one.id)) ?? null,
        isolates: isolatesGuests(this.fleet, one),
      }));
      this.switchesOf.set(hostId, known);
    }
    return known;
  }

  private unplugged(adapter: Row<'adapter'>, { id, name }: Row<'guest'>): Blocked | null {
    const trunk = this.fleet.get('adapter', adapter.trunkId);
    const loose = trunk && !trunk.connected ? trunk : adapter;
    if (loose.connected) return null;
    return {
      code: 'adapter-unplugged',
      sentence: `Adapter ${loose.position + 1} of ${name} is not connected.`,
      mends: [
        {
          label: `Connect adapter ${loose.position + 1} of ${name}`,
          change: { type: 'adapter.edit', input: { id: loose.id, connected: true } },
        },
      ],
      at: { kind: 'guest', id, name },
    };
  }

  private notCarried(host: Row<'host'>, networkId: string): Blocked {
    const network = this.fleet.need('network', networkId);
    return {
      code: 'network-not-carried',
      sentence: `${host.name} does not carry ${network.name}.`,
      mends: [
        {
          label: `Let ${host.name} carry ${network.name}`,
          change: {
            type: 'host.carry',
            input: { hostId: host.id, networkId: network.id, mode: 'bridged' },
          },
        },
      ],
      at: { kind: 'host', id: host.id, name: host.name },
    };
  }
}
