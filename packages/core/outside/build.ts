/** Topologies by hand, in few words. */
import {
  addressOf,
  prefixOf,
  type Iface,
  type Machine,
  type ReversePath,
  type Side,
} from '../src/index.js';

export interface IfaceWish {
  seg: number | null;
  ip?: string[];
  up?: boolean;
  masq?: boolean;
  /** Only what comes from these blocks is translated. */
  from?: string[];
  side?: Side;
  /** Number of the interface by which a NAT network is translated. */
  by?: number;
}

export interface MachineWish {
  ifs: IfaceWish[];
  gw?: string;
  gw6?: string;
  onLink?: boolean;
  forwards?: boolean;
  host?: boolean;
  /** To which block, by whom (null: nowhere), with which metric. */
  routes?: [string, string | null, number?][];
  on?: boolean;
  strongHost?: boolean;
  reversePath?: ReversePath;
  /** Which TCP port leads on to which address and port; at which of its own addresses. */
  ports?: [number, string, number, string?][];
}

export const build = (wishes: Record<string, MachineWish>): Machine[] =>
  Object.entries(wishes).map(([id, wish]) => ({
    id,
    name: id,
    on: wish.on ?? true,
    forwarding: wish.host ? 'sides' : wish.forwards ? 'all' : 'none',
    onLink: wish.onLink ?? false,
    gateway: { 4: wish.gw ? addressOf(wish.gw) : null, 6: wish.gw6 ? addressOf(wish.gw6) : null },
    routes: (wish.routes ?? []).map(([to, via, metric = null]) => ({
      to: prefixOf(to),
      via: via === null ? null : addressOf(via),
      blackhole: via === null,
      metric,
    })),
    strongHost: wish.strongHost ?? null,
    reversePath: wish.reversePath ?? null,
    portForwards: (wish.ports ?? []).map(([port, to, toPort, at]) => ({
      ...{ protocol: 'tcp', port, to: addressOf(to), toPort },
      at: at ? addressOf(at) : null,
    })),
    ifaces: wish.ifs.map((iface, i): Iface => ({
      id: `${id}.${i}`,
      name: `e${i}`,
      node: iface.seg,
      up: iface.up ?? true,
      masquerade: iface.masq ?? false,
      masqueradeFrom: iface.from?.map(prefixOf) ?? null,
      translatedBy: iface.by === undefined ? null : `${id}.${iface.by}`,
      side: iface.side ?? 'plain',
      addresses: (iface.ip ?? []).map((text) => {
        const [ip, length] = text.split('/');
        return { ...addressOf(ip!), length: Number(length) };
      }),
    })),
  }));

/** Whole numbers below a limit from a fixed seed (mulberry32). */
export function random(seed: number): (limit: number) => number {
  let state = seed;
  return (limit) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) % limit;
  };
}
