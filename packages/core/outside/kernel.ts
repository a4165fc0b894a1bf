/**
 * A topology made of real network namespaces: a bridge for each segment, a namespace for each machine, real routes, real
 * translation by nftables. Everything lives in namespaces made here and is removed with them; nothing leaves them.
 */
import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { formatAddress, formatPrefix, type Machine, type Prefix } from '../src/index.js';

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
  private listeners: ChildProcess[] = [];

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
      this.machines.flatMap((machine) => machine.ifaces.flatMap((iface) => iface.node ?? [])),
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
        ...(iface.node === null ? [] : [`ip link set ${outer} master br${iface.node}`]),
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

  /** Waits, in seconds: who was looked for in vain is looked for again after a while. */
  rest(seconds: number): void {
    execFileSync('sleep', [String(seconds)]);
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

  /**
   * On every machine somebody listens on the TCP ports and says which machine it is; each pair connects. Gives who
   * answered, or null.
   */
  connectAll(
    pairs: readonly { from: string; to: string; port: number }[],
    ports: readonly number[],
  ): (string | null)[] {
    const server = (id: string) =>
      `for (const port of ${JSON.stringify(ports)}) require('net').createServer((s) => s.end('${id}')).listen(port, '::')`;
    this.listeners = this.machines
      .filter((machine) => machine.on)
      .map(({ id }) =>
        spawn('ip', ['netns', 'exec', this.space(id), process.execPath, '-e', server(id)], {
          stdio: 'ignore',
        }),
      );
    const client = `
      const net = require('net');
      const ask = ([i, to, port], tries) => {
        const socket = net.connect(port, to);
        const failed = () => { socket.destroy(); if (tries > 1) ask([i, to, port], tries - 1); };
        socket.setTimeout(1000, failed);
        socket.on('error', (e) => setTimeout(failed, e.code === 'ECONNREFUSED' ? 100 : 10));
        socket.on('data', (said) => { tries = 0; console.log(i + ' ' + said); });
      };
      for (const pair of JSON.parse(process.argv[1])) ask(pair, 3);`;
    const senders = [...new Set(pairs.map(({ from }) => from))];
    const said = execFileSync(
      'sh',
      [
        '-c',
        [
          'sleep 0.5',
          ...senders.map((sender) => {
            const mine = pairs.flatMap(({ from, to, port }, i) =>
              from === sender ? [[i, to, port]] : [],
            );
            return `ip netns exec ${this.space(sender)} ${process.execPath} -e "$CLIENT" '${JSON.stringify(mine)}' &`;
          }),
          'wait',
        ].join('\n'),
      ],
      { encoding: 'utf8', env: { ...process.env, CLIENT: client } },
    );
    const answers = new Map(said.split('\n').map((line) => line.split(' ') as [string, string]));
    return pairs.map((_, i) => answers.get(String(i)) || null);
  }

  remove(): void {
    for (const listener of this.listeners) listener.kill('SIGKILL');
    for (const space of this.spaces.values()) spawnSync('ip', ['netns', 'del', space]);
  }
}

/** Translation, ports that lead on and, for a host, what it passes between its sides. */
function filters(machine: Machine): string[] {
  const names = (side: string) =>
    machine.ifaces.flatMap((iface, i) => (iface.side === side ? [`"e${i}"`] : []));
  const set = (list: string[]) => `{ ${list.join(', ')} }`;
  const nat = names('nat');
  // What comes from a NAT network is marked for translation where it leaves by its uplink.
  const marks = machine.ifaces.flatMap((iface, i) => {
    if (iface.side !== 'nat') return [];
    const by = machine.ifaces.findIndex(({ id }) => id === iface.translatedBy);
    return [`iifname "e${i}" oifname ${by < 0 ? `!= ${set(nat)}` : `"e${by}"`} meta mark set 1`];
  });
  const forward: string[] = [];
  if (machine.forwarding === 'sides') {
    const routed = names('routed');
    const up = [...names('uplink'), ...names('plain')];
    forward.push(
      'chain forward { type filter hook forward priority 0; policy drop;',
      'ct state established,related accept',
      ...marks,
      'ct status dnat accept',
    );
    if (nat.length && up.length) forward.push(`iifname ${set(nat)} oifname ${set(up)} accept`);
    if (routed.length && up.length)
      forward.push(
        `iifname ${set(routed)} oifname ${set([...routed, ...up])} accept`,
        `iifname ${set(up)} oifname ${set(routed)} accept`,
      );
    forward.push('}');
  } else if (marks.length > 0)
    forward.push('chain forward { type filter hook forward priority 0;', ...marks, '}');
  const post = [
    ...(marks.length > 0 ? ['meta mark 1 masquerade'] : []),
    ...(machine.forwarding === 'sides' ? [] : machine.ifaces).flatMap((iface, i) =>
      !iface.masquerade
        ? []
        : (iface.masqueradeFrom?.map(sourceIn) ?? ['']).map(
            (from) => `oifname "e${i}" ${from} masquerade`,
          ),
    ),
  ];
  const pre = (machine.portForwards ?? []).map(({ protocol, port, at, to, toPort }) => {
    const ip = to.family === 4 ? 'ip' : 'ip6';
    const inner = to.family === 4 ? formatAddress(to) : `[${formatAddress(to)}]`;
    const where = at ? `${ip} daddr ${formatAddress(at)}` : `meta nfproto ipv${to.family}`;
    return `${where} fib daddr type local ${protocol} dport ${port} dnat ${ip} to ${inner}:${toPort}`;
  });
  const rules = [
    ...forward,
    ...(post.length > 0
      ? ['chain post { type nat hook postrouting priority 100;', ...post, '}']
      : []),
    ...(pre.length > 0 ? ['chain pre { type nat hook prerouting priority -100;', ...pre, '}'] : []),
  ];
  const strong = machine.strongHost
    ? [
        'table inet strong {',
        'chain in { type filter hook input priority 0;',
        'iifname != "lo" fib daddr . iif type != { local, broadcast, multicast } drop',
        '}',
        '}',
      ]
    : [];
  const tables = rules.length > 0 ? ['table inet pass {', ...rules, '}', ...strong] : strong;
  return tables.length === 0 ? [] : [`nft -f - <<'N'`, ...tables, 'N'];
}

const sourceIn = (block: Prefix): string =>
  `${block.family === 4 ? 'ip' : 'ip6'} saddr ${formatPrefix(block)}`;
