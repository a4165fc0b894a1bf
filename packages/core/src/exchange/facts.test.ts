import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, beforeEach, describe, expect, it, test } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { compareFacts, readFacts } from './compare-facts.js';
import { FACTS_SCRIPT } from './facts-script.js';
import type { MachineFacts } from './machine-facts.js';

const understood = (document: unknown): MachineFacts => {
  const read = readFacts(JSON.stringify(document));
  if (!read.ok) throw new Error(read.sentence);
  return read.facts;
};

describe('the script on the machine the tests run on', () => {
  let out = '';
  let facts: MachineFacts;
  const tool = (command: string, ...args: string[]) =>
    execFileSync(command, args, {
      encoding: 'utf8',
      env: { PATH: '/usr/sbin:/usr/bin:/sbin:/bin', LC_ALL: 'C' },
    });
  beforeAll(() => {
    const file = join(mkdtempSync(join(tmpdir(), 'facts-')), 'facts.sh');
    writeFileSync(file, FACTS_SCRIPT);
    out = execFileSync('sh', [file], { encoding: 'utf8' });
    const read = readFacts(out);
    if (!read.ok) throw new Error(read.sentence);
    facts = read.facts;
  });
  it('prints one JSON document', () => expect(JSON.parse(out)).toMatchObject({ insel_facts: 1 }));
  it('gives the processors that nproc counts and the flags of /proc/cpuinfo', () => {
    const flags = /^flags\s*:\s*(.*)$/m.exec(readFileSync('/proc/cpuinfo', 'utf8'))?.[1] ?? '';
    expect(facts.sockets! * facts.coresPerSocket! * facts.threadsPerCore!).toBe(
      Number(tool('nproc', '--all')),
    );
    expect(new Set(facts.flags!.split(' '))).toEqual(new Set(flags.split(' ')));
  });
  it('gives the memory that free counts', () =>
    expect(facts.visibleMiB).toBe(Number(/^Mem:\s+(\d+)/m.exec(tool('free', '-m'))![1])));
  it('gives the disks with the bytes that lsblk counts', () => {
    const wanted = tool('lsblk', '-b', '-d', '-n', '-o', 'NAME,SIZE,TYPE')
      .trim()
      .split('\n')
      .map((line) => line.trim().split(/\s+/))
      .filter(([, size, type]) => type === 'disk' && size !== '0');
    expect(facts.disks!.map((disk) => [disk.bay, String(disk.bytes)])).toEqual(
      wanted.map(([name, size]) => [name, size]),
    );
  });
  it('gives the addresses that ip shows', () => {
    for (const { ip, prefixLength } of facts.addresses)
      expect(tool('ip', 'addr')).toContain(`${ip}/${prefixLength}`);
  });
  it('survives a machine without any of the tools', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'facts-')), 'bare.sh');
    writeFileSync(
      file,
      FACTS_SCRIPT.replace(
        'PATH=/usr/sbin:/usr/bin:/sbin:/bin;',
        'lscpu() { return 127; }; lsblk() { return 127; }; ip() { return 127; }; dmidecode() { return 127; };',
      ),
    );
    const bare = readFacts(execFileSync('sh', [file], { encoding: 'utf8' }));
    expect(bare).toMatchObject({ ok: true, facts: { sockets: null, disks: null, addresses: [] } });
  });
});

/** Shapes as the tools print them (util-linux 2.38, iproute2 6.1); values invented. */
const DOCUMENT = {
  insel_facts: 1,
  host_name: 'gannet.nordholm.example',
  lscpu: {
    lscpu: [
      { field: 'Architecture:', data: 'x86_64' },
      {
        field: 'Model name:',
        data: 'Invented R2 2.90GHz',
        children: [
          { field: 'Socket(s):', data: '2' },
          { field: 'Core(s) per socket:', data: '16' },
          { field: 'Thread(s) per core:', data: '2' },
          { field: 'Flags:', data: 'fpu sse' },
          { field: 'Virtualization:', data: 'full' },
        ],
      },
    ],
  },
  lsblk: {
    blockdevices: [
      {
        name: 'sda',
        type: 'disk',
        size: 480103981056,
        rota: false,
        model: 'Disk A ',
        serial: 'A1',
      },
      { name: 'sdb', type: 'disk', size: '4000787030016', rota: '1', model: null, serial: null },
      { name: 'sr0', type: 'rom', size: 1 },
      { name: 'sdc', type: 'disk', size: 0 },
    ],
  },
  addr: [
    {
      ifname: 'lo',
      flags: ['LOOPBACK'],
      addr_info: [{ family: 'inet', local: '127.0.0.1', prefixlen: 8, scope: 'host' }],
    },
    {
      ifname: 'p1',
      flags: ['UP'],
      address: '02:00:5e:10:00:01',
      addr_info: [
        { family: 'inet', local: '192.0.2.7', prefixlen: 24, scope: 'global' },
        { family: 'inet6', local: 'fe80::1', prefixlen: 64, scope: 'link' },
      ],
    },
  ],
  route: [{ dst: 'default', gateway: '192.0.2.1', dev: 'p1' }],
  meminfo: 'MemTotal:       24684096 kB\nMemFree: 1 kB',
  resolv: 'nameserver 192.0.2.53\nnameserver 192.0.2.54',
  dmi: '/sys/class/dmi/id/sys_vendor=Invented Works\n/sys/class/dmi/id/product_name=Rock 2\n/sys/class/dmi/id/chassis_type=23',
  net: 'p1|wired|10000|02:00:5e:10:00:01|0000:3b:00.0\np2|wired|-1|02:00:5e:10:00:02|0000:3b:00.1\nw0|wireless||02:00:5e:10:00:03|0000:04:00.0',
  memory:
    '/sys/devices/system/memory/block_size_bytes=8000000\n/sys/devices/system/memory/online=0-191',
  nodes: 'node0|0-15,32-47|12342048\nnode1|16-31,48-63|12342048',
  modules:
    '\tSize: 16 GB\n\tLocator: DIMM A1\n\tSpeed: 3200 MT/s\n\tSize: No Module Installed\n\tLocator: DIMM A2\n\tSpeed: Unknown\n\tSize: 16384 MB\n\tLocator: DIMM B1\n\tSpeed: 3200 MT/s',
  efi: true,
  secure_boot: '1',
};

describe('a document', () => {
  it('is understood value by value', () => {
    expect(understood(DOCUMENT)).toMatchObject({
      hostName: 'gannet',
      domain: 'nordholm.example',
      machineModel: 'Invented Works Rock 2',
      architecture: 'x86-64',
      sockets: 2,
      coresPerSocket: 16,
      threadsPerCore: 2,
      baseMhz: 2900,
      virtualisation: 'on',
      installedMiB: 32_768,
      // 24,684,096 kB of /proc/meminfo are KiB (proc(5)).
      visibleMiB: 24_105,
      bootMode: 'UEFI',
      secureBoot: 'on',
      modules: [
        { slot: 'DIMM A1', sizeMiB: 16_384, speed: '3200 MT/s' },
        { slot: 'DIMM B1', sizeMiB: 16_384, speed: '3200 MT/s' },
      ],
      nodes: [
        { node: 0, cores: 16, memoryMiB: 12_052 },
        { node: 1, cores: 16, memoryMiB: 12_052 },
      ],
      disks: [
        { bay: 'sda', bytes: 480_103_981_056, class: 'enterprise flash', model: 'Disk A' },
        { bay: 'sdb', bytes: 4_000_787_030_016, class: 'enterprise disk' },
      ],
      addresses: [{ ip: '192.0.2.7', prefixLength: 24 }],
      gateway: '192.0.2.1',
      nameServers: ['192.0.2.53', '192.0.2.54'],
      isGuest: null,
      isLaptop: null,
    });
  });
  it('tells ports of one card by their place on the bus, and wireless ones', () => {
    const ports = understood(DOCUMENT).ports!;
    expect(ports.map(({ card, wired, bitsPerSecond }) => [card, wired, bitsPerSecond])).toEqual([
      ['0000:3b:00', true, 1e10],
      ['0000:3b:00', true, null],
      ['0000:04:00', false, null],
    ]);
  });
  it('without modules counts memory blocks: 192 of 128 MiB', () =>
    expect(understood({ ...DOCUMENT, modules: '' }).installedMiB).toBe(24_576));
  it('of a guest or a laptop says so', () => {
    expect(
      understood({ ...DOCUMENT, lscpu: { lscpu: [{ field: 'Hypervisor vendor:', data: 'some' }] } })
        .isGuest,
    ).toContain('itself a guest');
    expect(
      understood({ ...DOCUMENT, dmi: '/sys/class/dmi/id/chassis_type=10' }).isLaptop,
    ).toContain('portable');
  });
  it('with nonsense in every place is unknown in every place', () => {
    const facts = understood({
      insel_facts: 1,
      lscpu: 7,
      lsblk: [],
      addr: 'x',
      route: {},
      meminfo: 3,
      net: '|||',
      memory: 'block_size_bytes=zz',
      nodes: 'node|x|y',
      modules: 'Size: much',
    });
    expect(facts).toMatchObject({
      sockets: null,
      visibleMiB: null,
      installedMiB: null,
      disks: null,
      ports: null,
      nodes: null,
      modules: null,
      addresses: [],
      gateway: null,
    });
    expect(facts.unread.length).toBe(5);
  });
});

describe('a paste that is none', () => {
  test.each([
    ['', 'Paste what the script printed'],
    ['{"insel_facts":1,', 'breaks off before its last }'],
    ['lscpu: not found', 'not JSON that can be read'],
    ['[1,2]', 'not one object'],
    ['{"name":"x"}', 'neither the output of the facts script, nor a Redfish'],
    [`{"insel_facts":1,"x":"${'y'.repeat(2_000_000)}"}`, 'million characters'],
    ['{"insel_facts":1e400}', 'neither'],
  ])('%.30s', (text, sentence) =>
    expect(readFacts(text)).toMatchObject({
      ok: false,
      sentence: expect.stringContaining(sentence) as string,
    }),
  );
});

/** Property names of DMTF DSP0268, from memory; values invented. */
const REDFISH = {
  '@odata.type': '#ComputerSystem.v1_20_0.ComputerSystem',
  Id: '1',
  HostName: 'tern.nordholm.example',
  Manufacturer: 'Invented Works',
  Model: 'Skerry 1',
  SerialNumber: 'S-77',
  SystemType: 'Physical',
  ProcessorSummary: { Count: 2, CoreCount: 32, LogicalProcessorCount: 64, Model: 'Invented E1' },
  MemorySummary: { TotalSystemMemoryGiB: 128 },
  Processors: {
    Members: [
      {
        '@odata.type': '#Processor.v1_0_0.Processor',
        ProcessorType: 'CPU',
        Model: 'Invented E1 2.4 GHz',
        TotalCores: 16,
        TotalThreads: 32,
        InstructionSet: 'x86-64',
      },
      {
        '@odata.type': '#Processor.v1_0_0.Processor',
        ProcessorType: 'CPU',
        TotalCores: 16,
        TotalThreads: 32,
      },
    ],
  },
  Memory: {
    Members: [
      {
        '@odata.type': '#Memory.v1_0_0.Memory',
        DeviceLocator: 'A1',
        CapacityMiB: 65_536,
        MemoryDeviceType: 'DDR5',
        OperatingSpeedMhz: 4800,
      },
      { '@odata.type': '#Memory.v1_0_0.Memory', DeviceLocator: 'A2', CapacityMiB: 0 },
      { '@odata.type': '#Memory.v1_0_0.Memory', DeviceLocator: 'B1', CapacityMiB: 65_536 },
    ],
  },
  Storage: {
    Members: [
      {
        Drives: [
          {
            '@odata.type': '#Drive.v1_0_0.Drive',
            Id: '0',
            CapacityBytes: 960_197_124_096,
            MediaType: 'SSD',
            SerialNumber: 'D1',
            Model: 'Flint',
          },
          {
            '@odata.type': '#Drive.v1_0_0.Drive',
            Id: '1',
            CapacityBytes: 4_000_787_030_016,
            MediaType: 'HDD',
          },
        ],
      },
    ],
  },
  EthernetInterfaces: {
    Members: [
      {
        '@odata.type': '#EthernetInterface.v1_0_0.EthernetInterface',
        Id: 'p1',
        PermanentMACAddress: '02-00-5E-10-00-09',
        SpeedMbps: 25_000,
      },
    ],
  },
  SecureBoot: { SecureBootEnable: true, SecureBootCurrentBoot: 'Disabled' },
};

describe('a Redfish system', () => {
  it('is understood with its parts', () =>
    expect(understood(REDFISH)).toMatchObject({
      hostName: 'tern',
      machineModel: 'Invented Works Skerry 1',
      serial: 'S-77',
      sockets: 2,
      coresPerSocket: 16,
      threadsPerCore: 2,
      installedMiB: 131_072,
      secureBoot: 'off',
      architecture: 'x86-64',
      modules: [{ slot: 'A1', speed: 'DDR5 4800 MHz' }, { slot: 'B1' }],
      disks: [{ bytes: 960_197_124_096, class: 'enterprise flash' }, { class: 'enterprise disk' }],
      ports: [{ name: 'p1', mac: '02:00:5e:10:00:09', bitsPerSecond: 2.5e10 }],
    }));
  it('from its summaries where the parts are not given', () => {
    const { Processors: _p, Memory: _m, ...summary } = REDFISH;
    expect(understood(summary)).toMatchObject({
      sockets: 2,
      coresPerSocket: 16,
      threadsPerCore: 2,
      installedMiB: 131_072,
      modules: null,
    });
  });
  it('counts only what is a whole number above none', () => {
    const { Processors: _p, Memory: _m, ...summary } = REDFISH;
    const sockets = (Count: unknown) =>
      understood({ ...summary, ProcessorSummary: { ...summary.ProcessorSummary, Count } }).sockets;
    expect([0, -1, 1.5, '2', null].map(sockets)).toEqual([null, null, null, null, null]);
    expect(sockets(4)).toBe(4);
  });
  it('that is virtual says so, and another resource is refused', () => {
    expect(understood({ ...REDFISH, SystemType: 'Virtual' }).isGuest).toContain('virtual');
    expect(readFacts('{"@odata.type":"#Chassis.v1_0_0.Chassis","Id":"1"}')).toMatchObject({
      ok: false,
      sentence: expect.stringContaining('no ComputerSystem') as string,
    });
  });
});

describe('taking facts', () => {
  let world: World;
  beforeEach(() => {
    world = smallWorld();
  });
  const gannet = () => world.id('host', 'gannet');
  const take = (chosen: string[], document: object = DOCUMENT) =>
    world.make({
      type: 'host.take-facts',
      input: { hostId: gannet(), text: JSON.stringify(document), chosen },
    });
  it('shows what differs, takes what is chosen, and marks the host as confirmed', () => {
    const rows = compareFacts(world.fleet, understood(DOCUMENT), gannet());
    expect(rows.find((row) => row.field === 'sockets')).toEqual({
      field: 'sockets',
      title: 'Sockets',
      recorded: '1',
      understood: '2',
      differs: true,
    });
    expect(rows.find((row) => row.field === 'threadsPerCore')!.differs).toBe(false);
    take(['sockets', 'nodes', 'disks']);
    expect(world.fleet.need('host', gannet())).toMatchObject({
      sockets: 2,
      coresPerSocket: 8,
      confirmedBy: 'import (facts script)',
      confirmedAt: world.now,
    });
    expect(
      compareFacts(world.fleet, understood(DOCUMENT), gannet()).find(
        (row) => row.field === 'disks',
      )!.differs,
    ).toBe(false);
  });
  it('keeps what a person said of a disk or a port: bay, class, array, where the cable goes', () => {
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: gannet(),
        hardware: {
          arrays: [{ name: 'a', level: '0', purpose: 'guests' }],
          disks: [
            { bay: 'front 1', serial: 'A1', bytes: 480e9, class: 'consumer flash', array: 'a' },
          ],
          ports: [
            { name: 'p1', mac: '02:00:5e:10:00:01', management: true, pluggedInto: 'switch 1' },
          ],
        },
      },
    });
    take(['disks', 'ports']);
    const disk = world.fleet
      .referring('disk', 'hostId', gannet())
      .find((found) => found.serial === 'A1');
    expect(disk).toMatchObject({
      bay: 'front 1',
      class: 'consumer flash',
      bytes: 480_103_981_056,
      arrayId: expect.any(String) as string,
    });
    expect(
      world.fleet.referring('port', 'hostId', gannet()).find((port) => port.name === 'p1'),
    ).toMatchObject({ management: true, pluggedInto: 'switch 1', bitsPerSecond: 1e10 });
  });
  it('is refused when nothing is chosen', () =>
    expect(() => take([])).toThrow('Choose at least one fact'));
});
