import { describe, expect, it } from 'vitest';
import { smallWorld } from '../change/testing.js';
import type { Input } from '../change/index.js';
import { guessGuestColumns, readGuestTable, type GuestTableLookups } from './guest-table.js';

const LOOKUPS: GuestTableLookups = {
  hosts: [
    {
      id: 'h1',
      name: 'gannet',
      pools: [
        { id: 'p1', name: 'gannet-data' },
        { id: 'p2', name: 'quay' },
      ],
    },
    { id: 'h2', name: 'bare', pools: [] },
  ],
  networks: [{ id: 'n1', name: 'shore' }],
  profiles: [{ id: 'r1', name: 'web server' }],
  groups: [],
};
const HEADS = [
  'VM',
  'Node',
  'Status',
  'OS',
  'Role',
  'CPUs',
  'RAM',
  'Disk',
  'Pool',
  'Network',
  'IP',
  'MAC',
];
const read = (...cells: string[]) => readGuestTable([cells], guessGuestColumns(HEADS), LOOKUPS)[0]!;

describe('a table of guests', () => {
  it('headings are guessed, each column once', () => {
    expect(guessGuestColumns(HEADS)).toEqual([
      'name',
      'host',
      'state',
      'family',
      'role',
      'vcpu',
      'memory',
      'disk',
      'pool',
      'network',
      'address',
      'mac',
    ]);
    expect(guessGuestColumns(['name', 'guest', 'wind'])).toEqual(['name', null, null]);
  });
  it('a row becomes the request that records it', () => {
    expect(
      read(
        'web',
        'Gannet',
        'running',
        'linux',
        'Web server',
        '2',
        '4',
        '50',
        'quay',
        'shore',
        '192.0.2.10',
        '02-00-00-00-00-0A',
      ),
    ).toEqual({
      errors: [],
      body: {
        name: 'web',
        hostId: 'h1',
        state: 'in service',
        family: 'Linux',
        profileId: 'r1',
        vcpu: 2,
        memoryMiB: 4096,
        volumes: [{ poolId: 'p2', bytes: 50 * 2 ** 30, label: 'system' }],
        adapters: [
          {
            networkId: 'n1',
            mac: '02:00:00:00:00:0a',
            address: { as: 'given', ip: '192.0.2.10' },
          },
        ],
      },
    });
  });
  it('what is left out takes the first pool, no adapter, and counts as in service', () => {
    const row = read('web', 'gannet', '', '', '', '1', '512 MB', '10 GB');
    expect(row.body).toMatchObject({
      state: 'in service',
      family: 'other',
      memoryMiB: 512,
      volumes: [{ poolId: 'p1', bytes: 1e10 }],
      adapters: [],
    });
  });
  it('every cell that could not be read is named', () => {
    const row = read(
      'web one',
      'skua',
      'sleeping',
      'Linux',
      'poet',
      'two',
      'much',
      '1',
      '',
      'sea',
      '192.0.2.300',
      'xx',
    );
    expect(row.errors.map((error) => error.column)).toEqual([
      'host',
      'network',
      'address',
      'mac',
      'state',
      'role',
      'vcpu',
      'memory',
    ]);
    expect(read('web', 'bare', 'off', '', '', '1', '1', '20').errors).toEqual([
      {
        column: 'disk',
        sentence: 'bare reaches no pool: record one first, or leave the disk out.',
      },
    ]);
  });
});

it('what was read of a row is what is recorded: the change decides it', () => {
  const world = smallWorld();
  const found = (kind: 'host' | 'pool' | 'network', name: string) => ({
    id: world.id(kind, name),
    name,
  });
  const rows = readGuestTable(
    [['web', 'gannet', '2', '4', '50', 'shore', '192.0.2.30', '02:00:00:00:00:0a']],
    guessGuestColumns(['VM', 'Host', 'CPUs', 'RAM', 'Disk', 'Network', 'IP', 'MAC']),
    {
      hosts: [{ ...found('host', 'gannet'), pools: [found('pool', 'gannet-data')] }],
      networks: [found('network', 'shore')],
      profiles: [],
      groups: [],
    },
  );
  const input = { guests: rows.map(({ body }) => body) } as unknown as Input<'guest.record-many'>;
  world.make({ type: 'guest.record-many', input });
  const [address] = [...world.fleet.all('address')].filter(({ ip }) => ip === '192.0.2.30');
  expect(address).toMatchObject({ adapterId: expect.any(String) as string });
});
