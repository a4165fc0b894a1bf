import { describe, expect, it } from 'vitest';
import { guessColumns, readHostTable, type HostColumn } from './host-table.js';

const lookups = {
  sites: [{ id: 's1', name: 'Harbour house' }],
  platforms: [{ id: 'p1', name: 'Generic' }],
  racks: [],
  groups: [],
  networks: [{ id: 'n1', name: 'shore' }],
};
const read = (header: string, ...rows: string[]) =>
  readHostTable(
    rows.map((row) => row.split('|')),
    guessColumns(header.split('|')),
    lookups,
  );

describe('columns', () => {
  it('are guessed from what people write, each once', () =>
    expect(
      guessColumns([
        'Hostname',
        'Location',
        'RAM (GB)',
        'CPU',
        'Cores',
        'IP address',
        'S/N',
        'Colour',
        'Name',
      ]),
    ).toEqual(['name', 'site', 'memory', 'processor', 'cores', 'address', 'serial', null, null]));
});

describe('a row', () => {
  it('becomes the request that records it', () => {
    const [row] = read(
      'name|site|cores|memory|storage|ip|network|labels|warranty',
      'gannet|harbour house|16|128|4 TB|192.0.2.7|shore|old, loud|2027-05-31',
    );
    expect(row!.errors).toEqual([]);
    expect(row!.body).toEqual({
      name: 'gannet',
      state: 'in service',
      platformId: 'p1',
      siteId: 's1',
      sockets: 1,
      coresPerSocket: 16,
      threadsPerCore: 1,
      installedMiB: 131_072,
      labels: ['old', 'loud'],
      warrantyUntil: '2027-05-31',
      pools: [{ name: 'gannet-data', usableBytes: 4e12 }],
      networks: [{ networkId: 'n1' }],
      management: { ip: '192.0.2.7', networkId: 'n1' },
    });
  });
  it('reads memory as people write it: a bare number and GB both mean GiB', () => {
    for (const text of ['64', '64 GB', '64GiB', '65536 MiB'])
      expect(read('name|cores|memory', `a|4|${text}`)[0]!.body.installedMiB).toBe(65_536);
  });
  it('tells the fault at its cell and keeps the rest', () => {
    const cases: [string, string, HostColumn, string][] = [
      ['name|cores|memory', `${'a'.repeat(64)}|4|8`, 'name', 'at most 63 characters'],
      ['name|cores|memory', 'a||8', 'cores', 'every host needs its cores'],
      ['name|cores|memory', 'a|four|8', 'cores', 'not a whole number from 1 to 1024'],
      ['name|cores|memory', 'a|4|much', 'memory', 'not a size'],
      ['name|cores|memory|site', 'a|4|8|Moon', 'site', 'no site "Moon"'],
      ['name|cores|memory|ip', 'a|4|8|192.0.2.300', 'address', '192.0.2.300'],
      ['name|cores|memory|warranty', 'a|4|8|31.5.2027', 'warranty', 'not a date'],
      ['name|cores|memory|state', 'a|4|8|fine', 'state', 'not one of'],
      ['name|cores|memory|storage', 'a|4|8|4T', 'storage', 'write one of them'],
    ];
    for (const [header, row, column, sentence] of cases)
      expect(read(header, row)[0]!.errors).toEqual([
        { column, sentence: expect.stringContaining(sentence) as string },
      ]);
  });
  it('names the earlier row of the same name', () =>
    expect(read('name|cores|memory', 'a|4|8', 'A|4|8')[1]!.errors).toEqual([
      { column: 'name', sentence: 'A stands in row 1 already.' },
    ]));
});
