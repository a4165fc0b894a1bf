/**
 * Reads what the machine Insel runs on is made of, from fixed files and commands of a Linux system, without a shell.
 * They are put together as the document that the facts script prints, and understood by the same rules; what cannot be
 * read is unknown, never 0.
 */
import { execFile } from 'node:child_process';
import { readdir, readFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { promisify } from 'node:util';
import { understandFacts, type MachineFacts } from '@insel/core';

const run = promisify(execFile);
export interface Reader {
  file: (path: string) => Promise<string | null>;
  names: (folder: string) => Promise<string[]>;
  json: (command: string, ...args: string[]) => Promise<unknown>;
}

/** Reads of the live system; a test hands in its own. */
const LIVE: Reader = {
  file: (path) =>
    readFile(path, 'utf8').then(
      (text) => text.trim(),
      () => null,
    ),
  names: (folder) => readdir(folder).catch(() => []),
  json: async (command, ...args) => {
    try {
      const { stdout } = await run(command, args, {
        timeout: 5000,
        env: { PATH: '/usr/bin:/bin:/usr/sbin:/sbin', LC_ALL: 'C' },
        maxBuffer: 4e6,
      });
      return JSON.parse(stdout) as unknown;
    } catch {
      return null;
    }
  },
};

const DMI = ['sys_vendor', 'product_name', 'product_serial', 'chassis_type'];

export async function readThisMachine(reader: Reader = LIVE): Promise<MachineFacts> {
  const lines = async (folder: string, names: readonly string[]) => {
    const values = await Promise.all(
      names.map(async (name) => [name, await reader.file(`${folder}/${name}`)] as const),
    );
    return values
      .flatMap(([name, value]) =>
        value === null ? [] : [`${folder}/${name}=${value.split('\n')[0]}`],
      )
      .join('\n');
  };
  const [lscpu, lsblk, addr, route] = await Promise.all([
    reader.json('lscpu', '-J'),
    reader.json('lsblk', '-J', '-b', '-o', 'NAME,TYPE,SIZE,ROTA,MODEL,SERIAL,MOUNTPOINT'),
    reader.json('ip', '-j', 'addr'),
    reader.json('ip', '-j', 'route'),
  ]);
  const efi = (await reader.names('/sys/firmware')).includes('efi');
  const read = understandFacts({
    insel_facts: 1,
    host_name: hostname(),
    lscpu,
    lsblk,
    addr,
    route,
    meminfo: await reader.file('/proc/meminfo'),
    resolv: await reader.file('/etc/resolv.conf'),
    dmi: await lines('/sys/class/dmi/id', DMI),
    memory: await lines('/sys/devices/system/memory', ['block_size_bytes', 'online']),
    net: await ports(reader),
    nodes: await nodes(reader),
    efi,
  });
  if (!read.ok) throw new Error(read.sentence);
  return read.facts;
}

/** Ports with a device behind them, as lines "name|wired|speed|mac|". */
async function ports(reader: Reader): Promise<string> {
  const lines = await Promise.all(
    (await reader.names('/sys/class/net')).map(async (name) => {
      const parts = await reader.names(`/sys/class/net/${name}`);
      if (!parts.includes('device')) return '';
      const wireless = parts.includes('wireless') || parts.includes('phy80211');
      return [
        name,
        wireless ? 'wireless' : 'wired',
        (await reader.file(`/sys/class/net/${name}/speed`)) ?? '',
        (await reader.file(`/sys/class/net/${name}/address`)) ?? '',
        '',
      ].join('|');
    }),
  );
  return lines.filter(Boolean).join('\n');
}

async function nodes(reader: Reader): Promise<string> {
  const folder = '/sys/devices/system/node';
  const names = (await reader.names(folder)).filter((name) => /^node\d+$/.test(name));
  const lines = await Promise.all(
    names.map(async (name) => {
      const kib =
        / MemTotal:\s+(\d+)/.exec((await reader.file(`${folder}/${name}/meminfo`)) ?? '')?.[1] ??
        '';
      return `${name}|${(await reader.file(`${folder}/${name}/cpulist`)) ?? ''}|${kib}`;
    }),
  );
  return lines.join('\n');
}
