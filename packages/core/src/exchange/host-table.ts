/** A pasted table of hosts, from a spreadsheet or CSV: which column is what, what each cell was read as, and what is wrong with it. */
import { canonical, foundName } from '../address/index.js';
import { parseBytes } from '../quantity/index.js';
import { HOST_STATES } from '../record/index.js';
import {
  among,
  Cells,
  day,
  guessAmong,
  memory,
  oneOf,
  whole,
  withoutUndefined,
  wordList,
  words,
  type NamedRow,
  type ReadCell,
  type TableRow,
} from './read-cells.js';

/** Names to ids, as the record knows them. */
export interface TableLookups {
  sites: NamedRow[];
  platforms: NamedRow[];
  racks: NamedRow[];
  groups: NamedRow[];
  networks: NamedRow[];
}

export const HOST_COLUMNS = [
  'name',
  'state',
  'platform',
  'site',
  'group',
  'rack',
  'unit',
  'height',
  'machine',
  'serial',
  'processor',
  'sockets',
  'cores',
  'threads',
  'memory',
  'storage',
  'address',
  'network',
  'out-of-band',
  'purpose',
  'owner',
  'labels',
  'weight',
  'draw',
  'warranty',
  'notes',
] as const;
export type HostColumn = (typeof HOST_COLUMNS)[number];

/** Columns whose cells begin with a number. */
export const HOST_NUMBERS: readonly HostColumn[] = [
  'sockets',
  'cores',
  'threads',
  'memory',
  'storage',
  'weight',
  'draw',
];

/** Headings that people write for a column, beside its own name: English, German, French, Spanish. */
const ALSO: Partial<Record<HostColumn, RegExp>> = {
  name: /^(host(name)?|server|machine name|rechner|nom|nombre)$/,
  site: /^(location|place|building|standort|site|lieu|lugar)$/,
  group: /^(host group|cluster)$/,
  unit: /^(u|rack unit|position)$/,
  height: /^(height.*|rack units|size u)$/,
  machine: /^(model|machine model|type)$/,
  serial: /^(serial.*|s\/?n|seriennummer|numéro de série|número de serie)$/,
  processor: /^(cpu( model)?|processor model|prozessor|processeur|procesador)$/,
  sockets: /^(cpus|packages|sockets)$/,
  cores: /^(cores.*|kerne|cœurs|núcleos)$/,
  threads: /^(threads.*|smt)$/,
  memory: /^(ram.*|memory.*|mem|arbeitsspeicher|hauptspeicher|mémoire.*|memoria)$/,
  storage: /^(disk.*|pool.*|capacity|usable.*|speicherplatz|festplatten?|stockage|almacenamiento)$/,
  address: /^(ip.*|management.*|address|adresse|dirección)$/,
  network: /^(net|subnet|vlan.*)$/,
  'out-of-band': /^(oob.*|out.?of.?band.*|controller address|bmc.*)$/,
  purpose: /^(role|use|description|zweck|beschreibung|usage|descripción)$/,
  owner: /^(contact|responsible|verantwortlich.*|responsable)$/,
  labels: /^(tags?)$/,
  weight: /^(weight.*|kg|gewicht|poids|peso)$/,
  draw: /^(power.*|watts?|draw.*)$/,
  warranty: /^(warranty.*|support.*)$/,
  notes: /^(comment.*|remarks?|note|bemerkung(en)?|remarque|notas)$/,
};

/** What each heading probably is. */
export const guessColumns = (headings: readonly string[]): (HostColumn | null)[] =>
  guessAmong(headings, HOST_COLUMNS, ALSO);

export function readHostTable(
  rows: readonly (readonly string[])[],
  columns: readonly (HostColumn | null)[],
  lookups: TableLookups,
): TableRow<HostColumn>[] {
  const seen = new Map<string, number>();
  return rows.map((cells, n) => {
    const row = new Cells(cells, columns);
    const { errors } = row;
    const take = row.take.bind(row);
    const need = (column: HostColumn, read: ReadCell): unknown =>
      row.need(column, read, `Missing: every host needs its ${column}.`);
    const name = need('name', foundName) as string | undefined;
    const twin = name && seen.get(name.toLowerCase());
    if (twin) errors.push({ column: 'name', sentence: `${name} stands in row ${twin} already.` });
    if (name) seen.set(name.toLowerCase(), n + 1);
    const storage = take('storage', parseBytes);
    const ip = take('address', canonical);
    const networkId = take('network', among(lookups.networks, 'network'));
    const oob = take('out-of-band', canonical);
    const body = withoutUndefined({
      name,
      state: take('state', oneOf(HOST_STATES)) ?? 'in service',
      platformId:
        take('platform', among(lookups.platforms, 'platform')) ?? lookups.platforms[0]?.id,
      siteId: take('site', among(lookups.sites, 'site')),
      groupId: take('group', among(lookups.groups, 'host group')),
      rackId: take('rack', among(lookups.racks, 'rack')),
      rackUnit: take('unit', whole(1, 60)),
      rackHeight: take('height', whole(1, 20)),
      machineModel: take('machine', words),
      serial: take('serial', words),
      processorModel: take('processor', words),
      sockets: take('sockets', whole(1, 64)) ?? 1,
      coresPerSocket: need('cores', whole(1, 1024)),
      threadsPerCore: take('threads', whole(1, 16)) ?? 1,
      installedMiB: need('memory', memory),
      purpose: take('purpose', words),
      owner: take('owner', words),
      labels: take('labels', wordList),
      weightKg: take('weight', whole(1, 500)),
      drawWatts: take('draw', whole(1, 100_000)),
      warrantyUntil: take('warranty', day),
      notes: take('notes', words),
      pools:
        storage === undefined ? [] : [{ name: `${name ?? 'host'}-data`, usableBytes: storage }],
      networks: networkId ? [{ networkId }] : undefined,
      management: ip || networkId ? withoutUndefined({ ip, networkId }) : undefined,
      outOfBand: oob ? { ip: oob } : undefined,
    });
    return { body, errors };
  });
}
