/**
 * Understands the document that the facts script prints: output of lscpu, lsblk and ip as they give it (util-linux,
 * iproute2), and lines of /proc and /sys. What is missing is unknown. Nothing here trusts the text: it is a paste.
 */
import { parseMac } from '../address/index.js';
import { MIB } from '../quantity/index.js';
import { flagSet } from '../host/index.js';
import { NO_FACTS, type FactsResult, type MachineFacts, type ModuleFact } from './machine-facts.js';
import { string, pairs, whole, PORTABLE, list } from './facts-values.js';
import { disksOf, systemBaysOf, diskUseOf } from './facts-disks.js';
import { addressesOf, gatewayOf } from './fact-addresses.js';

/** Longest paste that is read: a large machine prints about 200 kB. */
export const LONGEST_FACTS = 1_500_000;

/** Parses a paste as JSON, with a sentence where it cannot be. */
export function parsePaste(
  text: string,
): { ok: true; json: Record<string, unknown> } | { ok: false; sentence: string } {
  if (text.length > LONGEST_FACTS)
    return {
      ok: false,
      sentence: `This has ${Math.round(text.length / 1e5) / 10} million characters; a machine's facts have at most ${LONGEST_FACTS / 1e6}. Is it the right file?`,
    };
  const trimmed = text.trim();
  if (trimmed === '') return { ok: false, sentence: 'Paste what the script printed.' };
  try {
    const json: unknown = JSON.parse(trimmed);
    if (typeof json !== 'object' || json === null || Array.isArray(json))
      return {
        ok: false,
        sentence:
          'This is JSON, but not one object: paste all that the script printed, from the first { to the last }.',
      };
    return { ok: true, json: json as Record<string, unknown> };
  } catch (error) {
    if (trimmed.startsWith('{') && !trimmed.endsWith('}'))
      return {
        ok: false,
        sentence:
          'The text breaks off before its last }: copy the whole output, or send it as a file.',
      };
    const at = /position (\d+)/.exec((error as Error).message)?.[1];
    return {
      ok: false,
      sentence: `This is not JSON that can be read${at ? ` (it breaks at character ${at})` : ''}: paste exactly what was printed.`,
    };
  }
}

export function understandFacts(json: Record<string, unknown>): FactsResult {
  if (json.insel_facts !== 1)
    return {
      ok: false,
      sentence:
        'This JSON is neither the output of the facts script, nor a Redfish system resource, nor that of lscpu, lsblk or ip.',
    };
  const cpu = processorFields(json.lscpu);
  const unread: string[] = [];
  const need = <T>(value: T | null, what: string): T | null => {
    if (value === null) unread.push(what);
    return value;
  };
  const flags = cpu.get('Flags') ?? null;
  const guest = cpu.has('Hypervisor vendor') || flagSet(flags ?? '').has('hypervisor');
  const [name, ...domain] = string(json.host_name).split('.');
  const dmi = pairs(json.dmi);
  const { sockets, coresPerSocket, threadsPerCore } = {
    sockets: whole(cpu.get('Socket(s)')),
    coresPerSocket: whole(cpu.get('Core(s) per socket')),
    threadsPerCore: whole(cpu.get('Thread(s) per core')),
  };
  const facts: MachineFacts = {
    ...NO_FACTS,
    hostName: name && name !== 'localhost' ? name : null,
    domain: domain.join('.') || null,
    machineModel:
      [dmi.get('sys_vendor'), dmi.get('product_name')].filter(Boolean).join(' ') || null,
    serial: dmi.get('product_serial') ?? null,
    architecture: need(architectureOf(cpu.get('Architecture')), 'processors (lscpu)'),
    processorModel: cpu.get('Model name') ?? null,
    sockets,
    coresPerSocket,
    threadsPerCore,
    baseMhz: megahertz(cpu),
    flags,
    virtualisation: virtualisationOf(cpu),
    installedMiB: need(
      installedMiB(json, pairs(json.memory)),
      'installed memory (/sys/devices/system/memory)',
    ),
    visibleMiB: need(visibleMiB(json.meminfo), 'memory (/proc/meminfo)'),
    bootMode: json.efi === true ? 'UEFI' : json.efi === false ? 'legacy' : null,
    secureBoot:
      string(json.secure_boot) === '1' ? 'on' : string(json.secure_boot) === '0' ? 'off' : null,
    modules: modulesOf(string(json.modules)),
    nodes: nodesOf(string(json.nodes), threadsPerCore ?? 1),
    disks: need(disksOf(json.lsblk), 'disks (lsblk --json -b)'),
    systemBays: systemBaysOf(json.lsblk),
    diskUse: diskUseOf(json.lsblk),
    ports: portsOf(string(json.net)),
    addresses: need(addressesOf(json.addr), 'addresses (ip)') ?? [],
    gateway: gatewayOf(json.route),
    nameServers: [...string(json.resolv).matchAll(/^nameserver\s+(\S+)/gm)].map(
      (match) => match[1]!,
    ),
    isGuest: guest
      ? 'A hypervisor runs below it: this machine is itself a guest. Its flags are the masked ones, and its capacity is part of its host’s.'
      : null,
    isLaptop: PORTABLE.has(dmi.get('chassis_type') ?? '')
      ? `The chassis type (${dmi.get('chassis_type')}) is that of a portable machine: its wireless port cannot carry a bridge, and it sleeps when the lid closes.`
      : null,
    unread,
  };
  return { ok: true, facts, from: 'facts script' };
}

/** lscpu -J: pairs whose field ends in a colon; newer versions nest them. */
function processorFields(value: unknown): Map<string, string> {
  const fields = new Map<string, string>();
  const take = (items: unknown, depth: number) => {
    for (const item of list(items) ?? []) {
      if (typeof item.field === 'string' && typeof item.data === 'string')
        fields.set(item.field.replace(/:$/, ''), item.data);
      if (depth < 8) take(item.children, depth + 1);
    }
  };
  take((value as { lscpu?: unknown } | null)?.lscpu, 0);
  return fields;
}

function architectureOf(text: string | undefined): MachineFacts['architecture'] {
  if (!text) return null;
  return text === 'x86_64' ? 'x86-64' : text === 'aarch64' ? 'aarch64' : 'other';
}

function megahertz(cpu: Map<string, string>): number | null {
  const named = /(\d+(?:\.\d+)?)\s*GHz/.exec(cpu.get('Model name') ?? '');
  return named ? Math.round(Number(named[1]) * 1000) : null;
}

/** lscpu prints the line where the processor shows the extension (util-linux, from memory); a kernel does not show it where firmware switched it off. */
const virtualisationOf = (cpu: Map<string, string>): MachineFacts['virtualisation'] =>
  cpu.has('Virtualization') ? 'on' : null;

/** MemTotal; its "kB" is 1024 bytes (proc(5)). */
function visibleMiB(meminfo: unknown): number | null {
  const kib = /^MemTotal:\s+(\d{1,15}) kB$/m.exec(string(meminfo));
  return kib ? Math.floor(Number(kib[1]) / 1024) : null;
}

/** Sum of the modules where they could be read, otherwise online memory blocks times their size. */
function installedMiB(json: Record<string, unknown>, memory: Map<string, string>): number | null {
  const modules = modulesOf(string(json.modules));
  if (modules?.length) return modules.reduce((sum, module) => sum + module.sizeMiB, 0);
  const [size, online] = [memory.get('block_size_bytes'), memory.get('online')];
  if (!size || !online || !/^[0-9a-f]+$/i.test(size)) return null;
  const blocks = online.split(',').reduce((sum, part) => {
    const [first = NaN, last = first] = part.split('-').map(Number);
    return sum + (last - first + 1);
  }, 0);
  const mib = (parseInt(size, 16) * blocks) / MIB;
  return Number.isSafeInteger(mib) && mib > 0 ? mib : null;
}

/** Blocks of dmidecode type 17: Size, Locator, Speed. "No Module Installed" is an empty slot. */
function modulesOf(text: string): MachineFacts['modules'] {
  if (!text.trim()) return null;
  const modules: { -readonly [N in keyof ModuleFact]: ModuleFact[N] }[] = [];
  let size: number | null = null;
  for (const line of text.split('\n')) {
    const [, key = '', value = ''] = /^\s*([^:]+):\s*(.*)$/.exec(line) ?? [];
    if (key === 'Size') {
      const read = /^(\d{1,9}) (MB|GB)$/.exec(value.trim());
      size = read ? Number(read[1]) * (read[2] === 'GB' ? 1024 : 1) : null;
    } else if (key === 'Locator' && size)
      modules.push({ slot: value.trim().slice(0, 100), sizeMiB: size, speed: '' });
    else if (key === 'Speed' && size && modules.length)
      modules.at(-1)!.speed = value.trim().slice(0, 100);
  }
  return modules.length ? modules : null;
}

/** Lines "node0|0-7,16-23|memory in kB". */
function nodesOf(text: string, threadsPerCore: number): MachineFacts['nodes'] {
  const nodes = text.split('\n').flatMap((line) => {
    const [name = '', cpus = '', kib = ''] = line.split('|');
    const threads = cpus.split(',').reduce((sum, part) => {
      const [first = NaN, last = first] = part.split('-').map(Number);
      return sum + (last - first + 1);
    }, 0);
    const [node, cores, memoryMiB] = [
      Number(name.replace('node', '')),
      Math.round(threads / threadsPerCore),
      Math.floor(Number(kib) / 1024),
    ];
    return Number.isSafeInteger(node) && cores > 0 && memoryMiB > 0
      ? [{ node, cores, memoryMiB }]
      : [];
  });
  return nodes.length ? nodes : null;
}

/** Lines "name|wired|speed in Mbit/s|mac|card". A port without link reads −1, or nothing. */
function portsOf(text: string): MachineFacts['ports'] {
  const ports = text.split('\n').flatMap((line) => {
    const [name = '', kind, speed, mac = '', card = ''] = line.split('|');
    if (!name) return [];
    const read = parseMac(mac);
    const megabits = Number(speed);
    return [
      {
        name: name.slice(0, 100),
        wired: kind !== 'wireless',
        connector: kind === 'wireless' ? ('wireless' as const) : ('unknown' as const),
        bitsPerSecond: Number.isSafeInteger(megabits) && megabits > 0 ? megabits * 1e6 : null,
        mac: read.ok ? read.value : null,
        card: card.replace(/\.\d+$/, '').slice(0, 200),
      },
    ];
  });
  return ports.length ? ports : null;
}
