/** A pasted table of hosts, from a spreadsheet or CSV: which column is what, what each cell was read as, and what is wrong with it. */
import { canonical, parseName } from '../address/index.js';
import { parseBytes, parseMemory } from '../quantity/index.js';
import { HOST_STATES } from '../record/index.js';

/** Names to ids, as the record knows them. */
export interface TableLookups {
  sites: { id: string; name: string }[];
  platforms: { id: string; name: string }[];
  racks: { id: string; name: string }[];
  groups: { id: string; name: string }[];
  networks: { id: string; name: string }[];
}

export const HOST_COLUMNS = ['name', 'state', 'platform', 'site', 'group', 'rack', 'unit', 'height', 'machine', 'serial', 'processor', 'sockets', 'cores', 'threads', 'memory', 'storage', 'address', 'network', 'out-of-band', 'purpose', 'owner', 'labels', 'weight', 'draw', 'warranty', 'notes'] as const;
export type HostColumn = (typeof HOST_COLUMNS)[number];

/** Headings that people write for a column, beside its own name. */
const ALSO: Partial<Record<HostColumn, RegExp>> = {
  name: /^(host(name)?|server|machine name)$/,
  site: /^(location|place|building)$/,
  group: /^(host group|cluster)$/,
  unit: /^(u|rack unit|position)$/,
  height: /^(height.*|rack units|size u)$/,
  machine: /^(model|machine model|type)$/,
  serial: /^(serial.*|s\/?n)$/,
  processor: /^(cpu( model)?|processor model)$/,
  sockets: /^(cpus|packages|sockets)$/,
  cores: /^(cores.*)$/,
  threads: /^(threads.*|smt)$/,
  memory: /^(ram.*|memory.*|mem)$/,
  storage: /^(disk.*|pool.*|capacity|usable.*)$/,
  address: /^(ip.*|management.*|address)$/,
  network: /^(net|subnet|vlan.*)$/,
  'out-of-band': /^(oob.*|out.?of.?band.*|controller address|bmc.*)$/,
  purpose: /^(role|use|description)$/,
  owner: /^(contact|responsible)$/,
  labels: /^(tags?)$/,
  weight: /^(weight.*|kg)$/,
  draw: /^(power.*|watts?|draw.*)$/,
  warranty: /^(warranty.*|support.*)$/,
  notes: /^(comment.*|remarks?|note)$/,
};

/** What each heading probably is; each column is taken once, the rest is left out. */
export function guessColumns(headings: readonly string[]): (HostColumn | null)[] {
  const taken = new Set<HostColumn>();
  return headings.map((heading) => {
    const word = heading.trim().toLowerCase();
    const found = HOST_COLUMNS.find((column) => !taken.has(column) && (word === column || ALSO[column]?.test(word)));
    if (found) taken.add(found);
    return found ?? null;
  });
}

/** One row as the request that records it; cells that could not be read are listed. */
export interface TableRow {
  body: Record<string, unknown>;
  errors: { column: HostColumn; sentence: string }[];
}

type Read = (text: string) => { ok: true; value: unknown } | { ok: false; sentence: string };

export function readHostTable(rows: readonly (readonly string[])[], columns: readonly (HostColumn | null)[], lookups: TableLookups): TableRow[] {
  const seen = new Map<string, number>();
  return rows.map((cells, n) => {
    const errors: TableRow['errors'] = [];
    const cell = (column: HostColumn): string => (cells[columns.indexOf(column)] ?? '').trim();
    const take = (column: HostColumn, read: Read): unknown => {
      const text = cell(column);
      if (!columns.includes(column) || text === '') return undefined;
      const result = read(text);
      if (result.ok) return result.value;
      errors.push({ column, sentence: result.sentence });
      return undefined;
    };
    const need = (column: HostColumn, read: Read): unknown => {
      if (cell(column) === '') errors.push({ column, sentence: `Missing: every host needs its ${column}.` });
      return take(column, read);
    };
    const name = need('name', parseName) as string | undefined;
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
      platformId: take('platform', among(lookups.platforms, 'platform')) ?? lookups.platforms[0]?.id,
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
      labels: take('labels', (text) => ({ ok: true, value: text.split(/[,;]\s*/).filter(Boolean) })),
      weightKg: take('weight', whole(1, 500)),
      drawWatts: take('draw', whole(1, 100_000)),
      warrantyUntil: take('warranty', day),
      notes: take('notes', words),
      pools: storage === undefined ? [] : [{ name: `${name ?? 'host'}-data`, usableBytes: storage }],
      networks: networkId ? [{ networkId }] : undefined,
      management: ip || networkId ? withoutUndefined({ ip, networkId }) : undefined,
      outOfBand: oob ? { ip: oob } : undefined,
    });
    return { body, errors };
  });
}

const withoutUndefined = (values: Record<string, unknown>): Record<string, unknown> => Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined));
const words: Read = (text) => ({ ok: true, value: text });

const whole =
  (min: number, max: number): Read =>
  (text) => {
    const value = Number(text);
    return /^\d+$/.test(text) && value >= min && value <= max ? { ok: true, value } : { ok: false, sentence: `"${text}" is not a whole number from ${min} to ${max}.` };
  };

/** A bare number of a memory column means GiB, as people write it. */
const memory: Read = (text) => parseMemory(/^\d+(\.\d+)?$/.test(text) ? `${text} GiB` : text.replace(/\b([MGT])B$/i, '$1iB'));

const day: Read = (text) => (/^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) ? { ok: true, value: text } : { ok: false, sentence: `"${text}" is not a date: write 2027-05-31.` });

const oneOf =
  (choices: readonly string[]): Read =>
  (text) => {
    const found = choices.find((choice) => choice === text.toLowerCase());
    return found ? { ok: true, value: found } : { ok: false, sentence: `"${text}" is not one of: ${choices.join(', ')}.` };
  };

const among =
  (rows: readonly { id: string; name: string }[], kind: string): Read =>
  (text) => {
    const found = rows.find((row) => row.name.toLowerCase() === text.toLowerCase());
    return found ? { ok: true, value: found.id } : { ok: false, sentence: `There is no ${kind} "${text}" in the record.` };
  };
