/** What general tools print, pasted as it is: from the machine the tests run on, and in the layouts of their manuals. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readFacts } from './compare-facts.js';

const tool = (command: string, ...args: string[]) =>
  execFileSync(command, args, {
    encoding: 'utf8',
    env: { PATH: '/usr/sbin:/usr/bin:/sbin:/bin', LC_ALL: 'C' },
  });
const facts = (text: string) => {
  const read = readFacts(text);
  if (!read.ok) throw new Error(read.sentence);
  return read;
};

// dmidecode prints in this layout (its manual page); the machine is invented.
const DMI = `# dmidecode 3.4
Getting SMBIOS data from sysfs.
SMBIOS 3.2.0 present.

Handle 0x0001, DMI type 1, 27 bytes
System Information
	Manufacturer: Tern Works
	Product Name: Skerry 2
	Serial Number: TW-0042
	UUID: Not Specified

Handle 0x0011, DMI type 17, 40 bytes
Memory Device
	Array Handle: 0x0010
	Size: 16 GB
	Form Factor: DIMM
	Locator: DIMM_A1
	Speed: 2666 MT/s

Handle 0x0012, DMI type 17, 40 bytes
Memory Device
	Size: No Module Installed
	Locator: DIMM_A2

Handle 0x0013, DMI type 17, 40 bytes
Memory Device
	Size: 16 GB
	Locator: DIMM_B1
	Speed: 2666 MT/s
`;

describe('of the machine the tests run on', () => {
  const processors = Number(tool('nproc', '--all'));
  const threads = ({ facts: found }: ReturnType<typeof facts>) =>
    found.sockets! * found.coresPerSocket! * found.threadsPerCore!;
  it('lscpu is read, as JSON and as text', () => {
    expect(threads(facts(tool('lscpu', '--json')))).toBe(processors);
    expect(threads(facts(tool('lscpu')))).toBe(processors);
  });
  it('several pasted one after another are one machine', () => {
    const text = [
      tool('lscpu', '--json'),
      tool('lsblk', '--json', '-b'),
      tool('ip', '-j', 'addr'),
      tool('ip', '-j', 'route'),
      readFileSync('/proc/meminfo', 'utf8'),
      'nameserver 192.0.2.53\n',
    ].join('\n');
    const { facts: found, from } = facts(text);
    expect(from).toBe('output of system tools');
    expect(found.visibleMiB).toBe(Number(/^Mem:\s+(\d+)/m.exec(tool('free', '-m'))![1]));
    expect(found.nameServers).toEqual(['192.0.2.53']);
    for (const { ip } of found.addresses) expect(tool('ip', 'addr')).toContain(ip);
    const disks = tool('lsblk', '-b', '-d', '-n', '-o', 'SIZE,TYPE')
      .trim()
      .split('\n')
      .map((line) => line.trim().split(/\s+/))
      .filter(([size, type]) => type === 'disk' && size !== '0');
    expect(found.disks?.map(({ bytes }) => String(bytes)) ?? []).toEqual(
      disks.map(([size]) => size),
    );
  });
});

describe('what is not there', () => {
  it('stays unknown, and is said', () => {
    const { facts: found } = facts(tool('lscpu', '--json'));
    expect([found.disks, found.visibleMiB, found.installedMiB, found.gateway]).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(found.unread).toContain('disks (lsblk --json -b)');
  });
  it('the disk of the system itself is told, however deep its file system lies', () => {
    const disk = (name: string, children: object[] = []) => ({
      ...{ name, type: 'disk', size: 1e12 },
      children,
    });
    const lvm = { name: 'root', type: 'lvm', mountpoints: ['/'] };
    const lsblk = {
      blockdevices: [
        disk('sda', [{ name: 'sda1', type: 'part', mountpoint: null, children: [lvm] }]),
        disk('sdb', [{ name: 'sdb1', type: 'part', mountpoint: '/srv' }]),
        disk('sdc'),
      ],
    };
    const { facts: found } = facts(`${tool('lscpu', '--json')}\n${JSON.stringify(lsblk)}`);
    expect(found.systemBays).toEqual(['sda']);
    expect(found.disks).toHaveLength(3);
  });
  it('rounded sizes are no bytes', () => {
    const lsblk = { blockdevices: [{ name: 'sda', type: 'disk', size: '1.8T' }] };
    const { facts: found } = facts(`${tool('lscpu', '--json')}\n${JSON.stringify(lsblk)}`);
    expect(found.disks).toBeNull();
  });
  it('what a maker did not fill in is nothing', () => {
    const text = DMI.replace('TW-0042', 'To Be Filled By O.E.M.');
    expect(facts(`${tool('lscpu')}\n${text}`).facts.serial).toBeNull();
  });
});

it('dmidecode gives the machine and its modules; an empty slot is none', () => {
  const { facts: found } = facts(DMI);
  expect(found).toMatchObject({
    machineModel: 'Tern Works Skerry 2',
    serial: 'TW-0042',
    installedMiB: 32_768,
    modules: [
      { slot: 'DIMM_A1', sizeMiB: 16_384, speed: '2666 MT/s' },
      { slot: 'DIMM_B1', sizeMiB: 16_384, speed: '2666 MT/s' },
    ],
  });
});

it.each([
  ['a letter', 'Dear keeper, the machine is warm.'],
  ['JSON of something else', '{"weather": "fog"}'],
  ['a list of something else', '[1, 2, {"three": 3}]'],
  ['what breaks off', '{"lscpu": ['],
])('%s is refused in a sentence', (_, text) => {
  const read = readFacts(text);
  expect(read.ok).toBe(false);
});
it.each(['{'.repeat(5000), '['.repeat(5000) + ']'.repeat(5000), '"{\\'.repeat(3000)])(
  'deep or torn text ends in a sentence, not in a fault',
  (text) => expect(readFacts(text).ok).toBe(false),
);
