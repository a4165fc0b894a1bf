/** What was understood of a machine next to what is recorded, field by field, so that a person takes all or some. */
import { formatBoth, formatLinkSpeed, formatMemory } from '../quantity/index.js';
import type { HardwareInput } from '../host/index.js';
import type { Fleet, Row, Values } from '../record/index.js';
import { isRedfish, understandRedfish } from './redfish.js';
import { LONGEST_FACTS, parsePaste, understandFacts } from './facts.js';
import { gatherRaw } from './raw-facts.js';
import type { FactsResult, MachineFacts } from './machine-facts.js';

/** Reads a paste: what our script prints, a Redfish document, or what general tools print, one after another. */
export function readFacts(text: string): FactsResult {
  const paste = parsePaste(text);
  if (paste.ok && isRedfish(paste.json) && paste.json.insel_facts === undefined)
    return understandRedfish(paste.json);
  if (paste.ok && paste.json.insel_facts !== undefined) return understandFacts(paste.json);
  const raw = text.length > LONGEST_FACTS ? undefined : gatherRaw(text);
  if (!raw) return paste.ok ? understandFacts(paste.json) : paste;
  const read = understandFacts(raw);
  return read.ok ? { ...read, from: 'output of system tools' } : read;
}

export interface FactRow {
  /** Field of the host, or list of its parts. */
  field: string;
  title: string;
  recorded: string;
  understood: string;
  differs: boolean;
}

const TITLES: [keyof Row<'host'> & keyof MachineFacts, string, (value: never) => string][] = [
  ['machineModel', 'Machine', String],
  ['serial', 'Serial', String],
  ['domain', 'Domain', String],
  ['architecture', 'Architecture', String],
  ['processorModel', 'Processor', String],
  ['sockets', 'Sockets', String],
  ['coresPerSocket', 'Cores per socket', String],
  ['threadsPerCore', 'Threads per core', String],
  ['baseMhz', 'Base clock', (value: number) => `${value} MHz`],
  [
    'flags',
    'Processor flags',
    (value: string) => (value ? `${value.split(/\s+/).length} flags` : ''),
  ],
  ['virtualisation', 'Virtualisation extension', String],
  ['installedMiB', 'Memory installed', (value: number) => formatMemory(value)],
  ['visibleMiB', 'System sees', (value: number) => formatMemory(value)],
  ['bootMode', 'Boot mode', String],
  ['secureBoot', 'Secure boot', String],
  ['gateway', 'Gateway', String],
  ['nameServers', 'Name servers', (value: string[]) => value.join(', ')],
];

/** Rows to choose from; without a host, everything understood differs from nothing. */
export function compareFacts(fleet: Fleet, facts: MachineFacts, hostId: string | null): FactRow[] {
  const host = fleet.get('host', hostId);
  const rows: FactRow[] = [];
  for (const [field, title, print] of TITLES) {
    const understood = facts[field];
    if (understood === null || (Array.isArray(understood) && understood.length === 0)) continue;
    const held = host?.[field];
    const recorded = held === null || held === undefined ? '' : print(held as never);
    rows.push({
      field,
      title,
      recorded,
      understood: print(understood as never),
      differs: !host || String(held ?? '') !== String(understood),
    });
  }
  for (const [field, title, held, print] of partLists(fleet, hostId)) {
    const understood = facts[field] as Values[] | null;
    if (!understood) continue;
    const said = (parts: readonly object[]) =>
      parts
        .map((part) => print(part as never))
        .sort()
        .join('; ');
    const [one, other] = [said(held), said(understood)];
    rows.push({ field, title, recorded: one, understood: other, differs: one !== other });
  }
  return rows;
}

type Part = 'modules' | 'nodes' | 'disks' | 'ports';
function partLists(
  fleet: Fleet,
  hostId: string | null,
): [Part, string, readonly object[], (part: never) => string][] {
  const parts = (kind: 'memoryModule' | 'numaNode' | 'disk' | 'port'): object[] =>
    hostId ? fleet.referring(kind, 'hostId' as never, hostId) : [];
  return [
    [
      'modules',
      'Memory modules',
      parts('memoryModule'),
      (part: Row<'memoryModule'>) => `${part.slot} ${formatMemory(part.sizeMiB)}`,
    ],
    [
      'nodes',
      'NUMA nodes',
      parts('numaNode'),
      (part: Row<'numaNode'>) =>
        `node ${part.node}: ${part.cores} cores, ${formatMemory(part.memoryMiB)}`,
    ],
    [
      'disks',
      'Disks',
      parts('disk'),
      (part: Row<'disk'>) =>
        [part.bay, part.model, part.serial, formatBoth(part.bytes)].filter(Boolean).join(' '),
    ],
    [
      'ports',
      'Ports',
      parts('port'),
      (part: Row<'port'>) =>
        [
          part.name,
          part.wired ? 'wired' : 'wireless',
          part.bitsPerSecond ? formatLinkSpeed(part.bitsPerSecond) : '',
          part.mac ?? '',
        ]
          .filter(Boolean)
          .join(' '),
    ],
  ];
}

const PARTS: ReadonlySet<string> = new Set(['modules', 'nodes', 'disks', 'ports']);

/** The chosen facts as fields and parts of a host. Disks and ports keep what the record says beyond the facts: array, purpose, card. */
export function chosenFacts(
  fleet: Fleet,
  facts: MachineFacts,
  chosen: readonly string[],
  hostId: string | null,
): { fields: Values; hardware: HardwareInput } {
  const fields: Record<string, unknown> = {};
  const hardware: Record<string, unknown> = {};
  for (const field of chosen) {
    const value = facts[field as keyof MachineFacts];
    if (value === null || value === undefined) continue;
    if (!PARTS.has(field)) fields[field] = value;
    else
      hardware[field] =
        field === 'disks' || field === 'ports'
          ? (value as Values[]).map((part) => ({
              ...keptOf(fleet, field, hostId, part),
              ...withoutGuesses(field, fleet, hostId, part),
            }))
          : value;
  }
  return { fields, hardware };
}

function partOf(
  fleet: Fleet,
  field: 'disks' | 'ports',
  hostId: string | null,
  part: Values,
): Values | undefined {
  if (!hostId) return undefined;
  const held = (field === 'disks'
    ? fleet.referring('disk', 'hostId', hostId)
    : fleet.referring('port', 'hostId', hostId)) as unknown as Values[];
  const same = (name: string) =>
    held.find((found) => found[name] !== '' && found[name] !== null && found[name] === part[name]);
  return field === 'disks' ? (same('serial') ?? same('bay')) : (same('mac') ?? same('name'));
}

function keptOf(
  fleet: Fleet,
  field: 'disks' | 'ports',
  hostId: string | null,
  part: Values,
): Values {
  const held = partOf(fleet, field, hostId, part);
  if (!held) return {};
  if (field === 'ports')
    return {
      management: held.management,
      pluggedInto: held.pluggedInto,
      connector: held.connector,
      card: held.card,
    };
  return {
    bay: held.bay,
    array: fleet.get('array', held.arrayId as string | null)?.name ?? null,
    spare: held.spare,
    purpose: held.purpose,
    class: held.class,
  };
}

/** A bay named by a person and a class chosen by one outweigh the device name and the guess from "rotating". */
function withoutGuesses(
  field: 'disks' | 'ports',
  fleet: Fleet,
  hostId: string | null,
  part: Values,
): Values {
  if (!partOf(fleet, field, hostId, part)) return part;
  const skip = field === 'disks' ? ['bay', 'class'] : ['connector', ...(part.card ? [] : ['card'])];
  return Object.fromEntries(Object.entries(part).filter(([name]) => !skip.includes(name)));
}
