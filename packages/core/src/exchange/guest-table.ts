/** A pasted table of guests that exist: which column is what, what each cell was read as, and what is wrong with it. */
import { canonical, parseMac, foundName } from '../address/index.js';
import { parseBytes } from '../quantity/index.js';
import { CRITICALITIES, FAMILIES, GUEST_STATES } from '../record/index.js';
import {
  among,
  byName,
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
export interface GuestTableLookups {
  hosts: (NamedRow & { pools: NamedRow[] })[];
  networks: NamedRow[];
  profiles: NamedRow[];
  groups: NamedRow[];
}

export const GUEST_COLUMNS = [
  'name',
  'host',
  'state',
  'family',
  'role',
  'group',
  'vcpu',
  'memory',
  'disk',
  'pool',
  'network',
  'address',
  'mac',
  'purpose',
  'owner',
  'labels',
  'criticality',
  'end',
  'notes',
] as const;
export type GuestColumn = (typeof GUEST_COLUMNS)[number];

/** Columns whose cells begin with a number. */
export const GUEST_NUMBERS: readonly GuestColumn[] = ['vcpu', 'memory', 'disk'];

/** Headings that people write for a column, beside its own name: English, German, French, Spanish. */
const ALSO: Partial<Record<GuestColumn, RegExp>> = {
  name: /^(guest|vm|machine|server|host ?name|rechner|nom|nombre)$/,
  host: /^(node|on|runs on|hypervisor|wirt|hôte|anfitrión)$/,
  state: /^(status|power.*|zustand|état|estado)$/,
  family: /^(os|system|guest os|operating system)$/,
  role: /^(profile)$/,
  vcpu: /^(v?cpus?|cores|processors|prozessoren|kerne|processeurs|procesadores)$/,
  memory: /^(ram.*|mem.*|arbeitsspeicher|hauptspeicher|mémoire.*)$/,
  disk: /^(disk.*|storage|size|provisioned.*|festplatte|speicherplatz|disque|disco)$/,
  pool: /^(storage pool)$/,
  network: /^(net|vlan.*|subnet|netz|réseau|red)$/,
  address: /^(ip.*|adresse|dirección)$/,
  mac: /^(mac.*)$/,
  purpose: /^(use|description|what|zweck|beschreibung|descripción)$/,
  owner: /^(contact|responsible|verantwortlich.*|propriétaire|propietario)$/,
  labels: /^(tags?)$/,
  end: /^(end date|until|expires.*)$/,
  notes: /^(comment.*|remarks?|note|bemerkung(en)?|remarque|notas)$/,
};

export const guessGuestColumns = (headings: readonly string[]): (GuestColumn | null)[] =>
  guessAmong(headings, GUEST_COLUMNS, ALSO);

const macCell: ReadCell = (text) => parseMac(text);

/** A state as consoles print it; anything else must be one of ours. */
const state: ReadCell = (text) =>
  /^(on|running|powered on|up)$/i.test(text)
    ? { ok: true, value: 'in service' }
    : /^(off|powered off|down|shut ?down)$/i.test(text)
      ? { ok: true, value: 'stopped' }
      : oneOf(GUEST_STATES)(text);

export function readGuestTable(
  rows: readonly (readonly string[])[],
  columns: readonly (GuestColumn | null)[],
  lookups: GuestTableLookups,
): TableRow<GuestColumn>[] {
  return rows.map((cells) => {
    const row = new Cells(cells, columns);
    const need = (column: GuestColumn, read: ReadCell): unknown =>
      row.need(column, read, `Missing: every guest needs its ${column}.`);
    const host = byName(lookups.hosts, row.text('host'));
    const hostId = need('host', among(lookups.hosts, 'host'));
    const bytes = row.take('disk', diskCell);
    const poolId =
      row.take('pool', among(host?.pools ?? [], host ? `pool of ${host.name}` : 'pool')) ??
      host?.pools[0]?.id;
    if (bytes !== undefined && host && !poolId)
      row.errors.push({
        column: 'disk',
        sentence: `${host.name} reaches no pool: record one first, or leave the disk out.`,
      });
    const networkId = row.take('network', among(lookups.networks, 'network'));
    const ip = row.take('address', canonical);
    const mac = row.take('mac', macCell);
    const wired = networkId !== undefined || ip !== undefined || mac !== undefined;
    const body = withoutUndefined({
      name: need('name', foundName),
      hostId,
      state: row.take('state', state) ?? 'in service',
      family: row.take('family', oneOf(FAMILIES)) ?? 'other',
      profileId: row.take('role', among(lookups.profiles, 'role')),
      groupId: row.take('group', among(lookups.groups, 'group')),
      vcpu: need('vcpu', whole(1, 4096)),
      memoryMiB: need('memory', memory),
      purpose: row.take('purpose', words),
      owner: row.take('owner', words),
      labels: row.take('labels', wordList),
      criticality: row.take('criticality', oneOf(CRITICALITIES)),
      endDate: row.take('end', day),
      notes: row.take('notes', words),
      volumes: bytes === undefined || !poolId ? [] : [{ poolId, bytes, label: 'system' }],
      adapters: wired
        ? [
            withoutUndefined({
              networkId: networkId ?? null,
              mac,
              address: ip === undefined ? { as: 'none' } : { as: 'given', ip },
            }),
          ]
        : [],
    });
    return { body, errors: row.errors };
  });
}

/** A bare number of a disk column means GiB, as most consoles print it. */
const diskCell: ReadCell = (text) => parseBytes(/^\d+(\.\d+)?$/.test(text) ? `${text} GiB` : text);
