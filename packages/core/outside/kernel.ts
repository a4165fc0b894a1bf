/**
 * A topology made of real network namespaces: a bridge for each segment, a namespace for each machine, real routes, real
 * translation by nftables. Everything lives in namespaces made here and is removed with them; nothing leaves them.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { formatAddress, formatPrefix, type Machine } from '../src/index.js';

const SWITCHES = 'switches';

/** Why namespaces cannot be made here, or undefined where they can. */
export function whyNot(): string | undefined {
  if (process.getuid?.() !== 0) return 'network namespaces take root';
  for (const [program, args] of [
    ['ip', ['-V']],
    ['nft', ['--version']],
    ['ping', ['-V']],
  ] as const) {
    if (spawnSync(program, args).error) return `${program} is not installed`;
  }
  const name = `insel-try-${process.pid}`;
  if (spawnSync('ip', ['netns', 'add', name]).status !== 0)
    return 'the kernel permits no network namespaces here';
  spawnSync('ip', ['netns', 'del', name]);
  return undefined;
}

export class Kernel {
  private readonly spaces = new Map<string, string>();
  private readonly prefix: string;

  constructor(
    private readonly machines: readonly Machine[],
    serial: number,
  ) {
    this.prefix = `insel-${process.pid}-${serial}`;
    const names = [SWITCHES, ...machines.map((machine) => machine.id)];
    names.forEach((name, i) => this.spaces.set(name, `${this.prefix}-${i}`));
  }

  private space = (name: string): string => this.spaces.get(name)!;

  build(): void {
    const lines = ['set -e', ...[...this.spaces.values()].map((space) => `ip netns add ${space}`)];
    const segments = new Set(
      this.machines.flatMap((machine) => machine.ifaces.flatMap((iface) => iface.segment ?? [])),
    );
    const inSwitches = [`sysctl -qw net.ipv6.conf.all.disable_ipv6=1`];
    for (const segment of segments)
      inSwitches.push(
        `ip link add br${segment} type bridge forward_delay 0 mcast_snooping 0`,
        `ip link set br${segment} up`,
      );
    lines.push(this.run(SWITCHES, inSwitches));
    this.machines.forEach((machine, m) => lines.push(...this.machine(machine, m)));
    execFileSync('sh', ['-c', lines.join('\n')], { stdio: ['ignore', 'ignore', 'pipe'] });
  }

  private run = (name: string, commands: readonly string[]): string =>
    `ip netns exec ${this.space(name)} sh -e <<'X'\n${commands.join('\n')}\nX`;

  private machine(machine: Machine, m: number): string[] {
    const lines: string[] = [];
    const reversePath = { off: 0, strict: 1, loose: 2 }[machine.reversePath ?? 'off'];
    const inside = [
      `sysctl -qw net.ipv4.conf.all.rp_filter=${reversePath} net.ipv4.conf.default.rp_filter=${reversePath} net.ipv6.conf.all.accept_dad=0 net.ipv6.conf.default.accept_dad=0 net.ipv4.icmp_ratelimit=0`,
      ...(machine.strongHost ? ['sysctl -qw net.ipv4.conf.all.arp_ignore=1'] : []),
      'ip link set lo up',
    ];
    if (machine.forwarding !== 'none')
      inside.push('sysctl -qw net.ipv4.ip_forward=1 net.ipv6.conf.all.forwarding=1');
    const late: string[] = [];
    machine.ifaces.forEach((iface, i) => {
      const outer = `v${m}x${i}`;
      lines.push(
        `ip link add e${i} netns ${this.space(machine.id)} type veth peer name ${outer} netns ${this.space(SWITCHES)}`,
      );
      late.push(
        `ip link set ${outer} up`,
        ...(iface.segment === null ? [] : [`ip link set ${outer} master br${iface.segment}`]),
      );
      // An adapter that is not connected has no addresses: that is what a machine's own network service makes of a pulled cable.
      inside.push(`ip link set e${i} ${iface.up && machine.on ? 'up' : 'down'}`);
      if (!iface.up || !machine.on) return;
      for (const address of iface.addresses)
        inside.push(
          `ip addr add ${formatAddress(address)}/${address.length} dev e${i}${address.family === 6 ? ' nodad' : ''}`,
        );
    });
    // A route that the kernel will not install is simply not there: that is the convention being tested.
    for (const { to, via, blackhole, metric } of machine.routes)
      inside.push(
        `ip route add ${blackhole ? 'blackhole ' : ''}${formatPrefix(to)} ${blackhole ? '' : `via ${formatAddress(via!)}`} ${metric == null ? '' : `metric ${metric}`} 2>/dev/null || true`,
      );
    for (const family of [4, 6] as const) {
      const gateway = machine.gateway[family];
      const device = machine.ifaces.findIndex(
        (iface) => iface.up && iface.addresses.some((address) => address.family === family),
      );
      if (gateway)
        inside.push(
          `ip -${family} route add default via ${formatAddress(gateway)}${machine.onLink ? ` dev e${device} onlink` : ''} 2>/dev/null || true`,
        );
    }
    inside.push(...filters(machine));
    return [...lines, this.run(SWITCHES, late), this.run(machine.id, inside)];
  }

  /** Pings each pair, all at once; gives which of them answered. */
  pingAll(pairs: readonly { from: string; to: string }[]): boolean[] {
    const one = ({ from, to }: { from: string; to: string }, i: number) =>
      `( ip netns exec ${this.space(from)} ping -n -q -c 1 -W 1 ${to} >/dev/null 2>&1 && echo ${i} ) &`;
    const said = execFileSync('sh', ['-c', [...pairs.map(one), 'wait'].join('\n')], {
      encoding: 'utf8',
    });
    const answered = new Set(said.split('\n').filter(Boolean).map(Number));
    return pairs.map((_, i) => answered.has(i));
  }

  remove(): void {
    for (const space of this.spaces.values()) spawnSync('ip', ['netns', 'del', space]);
  }
}

/** Translation and, for a host, what it passes between its sides. */
function filters(machine: Machine): string[] {
  const names = (side: string) =>
    machine.ifaces.flatMap((iface, i) => (iface.side === side ? [`"e${i}"`] : []));
  const outer = machine.ifaces.flatMap((iface, i) => (iface.masquerade ? [`"e${i}"`] : []));
  const set = (list: string[]) => `{ ${list.join(', ')} }`;
  const rules: string[] = [];
  if (machine.forwarding === 'sides') {
    const [nat, routed] = [names('nat'), names('routed')];
    const up = [...names('uplink'), ...names('plain')];
    rules.push(
      'table inet pass {',
      'chain forward { type filter hook forward priority 0; policy drop;',
      'ct state established,related accept',
    );
    if (nat.length && up.length)
      rules.push(`iifname ${set(nat)} oifname ${set(up)} meta mark set 1 accept`);
    if (routed.length && up.length)
      rules.push(
        `iifname ${set(routed)} oifname ${set([...routed, ...up])} accept`,
        `iifname ${set(up)} oifname ${set(routed)} accept`,
      );
    rules.push(
      '}',
      'chain post { type nat hook postrouting priority 100;',
      'meta mark 1 masquerade',
      '}',
      '}',
    );
  } else if (names('nat').length > 0) {
    const nat = names('nat');
    rules.push(
      'table inet pass {',
      'chain forward { type filter hook forward priority 0;',
      `iifname ${set(nat)} oifname != ${set(nat)} meta mark set 1`,
      '}',
      'chain post { type nat hook postrouting priority 100;',
      'meta mark 1 masquerade',
      ...(outer.length > 0 ? [`oifname ${set(outer)} masquerade`] : []),
      '}',
      '}',
    );
  } else if (outer.length > 0)
    rules.push(
      'table inet pass {',
      'chain post { type nat hook postrouting priority 100;',
      `oifname ${set(outer)} masquerade`,
      '}',
      '}',
    );
  if (machine.strongHost)
    rules.push(
      'table inet strong {',
      'chain in { type filter hook input priority 0;',
      'iifname != "lo" fib daddr . iif type != { local, broadcast, multicast } drop',
      '}',
      '}',
    );
  return rules.length === 0 ? [] : [`nft -f - <<'N'`, ...rules, 'N'];
}
