/**
 * Reads what the machine Insel runs on is made of, from fixed files and commands of a Linux system, without a shell.
 * What cannot be read is unknown, never 0.
 */
import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { promisify } from 'node:util';
import type { ThisMachine } from '@insel/contract';

const run = promisify(execFile);
type Reader = { file: (path: string) => Promise<string | null>; json: (command: string, ...args: string[]) => Promise<unknown> };

/** Reads of the live system; a test hands in its own. */
export const LIVE: Reader = {
  file: (path) => readFile(path, 'utf8').then((text) => text.trim(), () => null),
  json: async (command, ...args) => {
    try {
      const { stdout } = await run(command, args, { timeout: 5000, env: { PATH: '/usr/bin:/bin:/usr/sbin:/sbin', LC_ALL: 'C' }, maxBuffer: 4e6 });
      return JSON.parse(stdout) as unknown;
    } catch {
      return null;
    }
  },
};

/** SMBIOS chassis types of portable machines (DMTF DSP0134, table 17: from memory). */
const PORTABLE = new Set(['8', '9', '10', '11', '14', '30', '31', '32']);

export async function readThisMachine(reader: Reader = LIVE): Promise<ThisMachine> {
  const unread: string[] = [];
  const cpu = processorFields(await reader.json('lscpu', '-J'));
  if (!cpu) unread.push('processors (lscpu)');
  const visibleMiB = visibleMemory(await reader.file('/proc/meminfo'));
  if (visibleMiB === null) unread.push('memory (/proc/meminfo)');
  const installedMiB = await installedMemory(reader);
  if (installedMiB === null) unread.push('installed memory modules (/sys/devices/system/memory)');
  const disks = disksOf(await reader.json('lsblk', '-J', '-b', '-d', '-o', 'NAME,TYPE,SIZE,ROTA,MODEL'));
  if (!disks) unread.push('disks (lsblk)');
  const addresses = addressesOf(await reader.json('ip', '-j', 'addr'));
  if (!addresses) unread.push('addresses (ip)');
  const routes = (await reader.json('ip', '-j', 'route')) as { dst?: string; gateway?: string }[] | null;
  return {
    hostName: hostname(),
    processorModel: cpu?.get('Model name') ?? null,
    architecture: cpu?.get('Architecture') ?? null,
    sockets: whole(cpu?.get('Socket(s)')),
    coresPerSocket: whole(cpu?.get('Core(s) per socket')),
    threadsPerCore: whole(cpu?.get('Thread(s) per core')),
    installedMiB,
    visibleMiB,
    disks: disks ?? [],
    addresses: addresses ?? [],
    gateway: routes?.find((route) => route.dst === 'default')?.gateway ?? null,
    nameServers: nameServers(await reader.file('/etc/resolv.conf')),
    isGuest: cpu?.has('Hypervisor vendor') ? 'The processor says that a hypervisor runs below it (lscpu, hypervisor field): this machine is itself a guest. Its capacity is part of its host’s.' : null,
    isLaptop: await laptop(reader),
    unread,
  };
}

function processorFields(json: unknown): Map<string, string> | undefined {
  const list = (json as { lscpu?: { field?: string; data?: string | null; children?: unknown[] }[] } | null)?.lscpu;
  if (!Array.isArray(list)) return undefined;
  const fields = new Map<string, string>();
  const take = (items: typeof list) => {
    for (const item of items) {
      if (item.field && item.data) fields.set(item.field.replace(/:$/, ''), item.data);
      if (Array.isArray(item.children)) take(item.children as typeof list);
    }
  };
  take(list);
  return fields;
}

const whole = (text: string | undefined): number | null => (text && /^[1-9]\d*$/.test(text) ? Number(text) : null);

/** MemTotal; its "kB" is 1024 bytes (proc(5)). */
function visibleMemory(meminfo: string | null): number | null {
  const kib = /^MemTotal:\s+(\d+) kB$/m.exec(meminfo ?? '');
  return kib ? Math.floor(Number(kib[1]) / 1024) : null;
}

/** Online memory blocks times their size: what firmware gave the kernel, before the kernel's own share. */
async function installedMemory(reader: Reader): Promise<number | null> {
  const [size, online] = await Promise.all([reader.file('/sys/devices/system/memory/block_size_bytes'), reader.file('/sys/devices/system/memory/online')]);
  if (!size || !online) return null;
  const blocks = online.split(',').reduce((sum, part) => {
    const [first, last = first] = part.split('-').map(Number);
    return sum + (last! - first! + 1);
  }, 0);
  const mib = (parseInt(size, 16) * blocks) / 2 ** 20;
  return Number.isFinite(mib) && mib > 0 ? mib : null;
}

function disksOf(json: unknown): ThisMachine['disks'] | undefined {
  const list = (json as { blockdevices?: { name: string; type: string; size: number | string; rota?: boolean | string; model?: string | null }[] } | null)?.blockdevices;
  if (!Array.isArray(list)) return undefined;
  return list
    .filter((disk) => disk.type === 'disk' && Number(disk.size) > 0)
    .map((disk) => ({ name: disk.name, model: disk.model?.trim() || null, bytes: Number(disk.size), rotating: disk.rota === undefined ? null : disk.rota === true || disk.rota === '1' }));
}

interface Port {
  ifname: string;
  address?: string;
  flags?: string[];
  addr_info?: { local: string; prefixlen: number; scope: string }[];
}

function addressesOf(json: unknown): ThisMachine['addresses'] | undefined {
  if (!Array.isArray(json)) return undefined;
  return (json as Port[])
    .filter((port) => !port.flags?.includes('LOOPBACK'))
    .flatMap((port) =>
      (port.addr_info ?? [])
        .filter((info) => info.scope === 'global')
        .map((info) => ({ port: port.ifname, mac: port.address ?? null, ip: info.local, prefixLength: info.prefixlen })),
    );
}

const nameServers = (text: string | null): string[] => [...(text ?? '').matchAll(/^nameserver\s+(\S+)/gm)].map((match) => match[1]!);

async function laptop(reader: Reader): Promise<string | null> {
  const chassis = await reader.file('/sys/class/dmi/id/chassis_type');
  return chassis && PORTABLE.has(chassis) ? `The chassis type (${chassis}) is that of a portable machine: its wireless port cannot carry a bridge, and it sleeps when the lid closes.` : null;
}
