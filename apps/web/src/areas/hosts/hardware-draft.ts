/** Hardware as it is typed: columns, fresh rows, and what is sent of them. */
import type { HostSheet } from '@insel/contract';
import {
  KINDS,
  ARRAY_LEVELS,
  DISK_CLASSES,
  formatMemory,
  parseMemory,
  parseBytes,
} from '@insel/core';
import type { Errors } from '../../components/field.js';
import type { PartRow, PartColumn } from '../../components/parts-table.js';

export type List = 'modules' | 'arrays' | 'disks' | 'ports' | 'nodes';
export type Draft = Record<List, PartRow[]>;

export const FRESH: Record<List, () => PartRow> = {
  modules: () => ({ slot: 'A1', size: '32 GiB', speed: '' }),
  arrays: () => ({ name: 'guests', level: '10', groups: '2', purpose: 'guests' }),
  disks: () => ({
    bay: '1',
    bytes: '4 TB',
    class: 'enterprise disk',
    model: '',
    serial: '',
    array: '',
    spare: false,
    purpose: 'none',
  }),
  ports: () => ({
    name: 'p1',
    speed: '10',
    connector: 'unknown',
    wired: true,
    management: false,
    mac: '',
    card: '',
    pluggedInto: '',
  }),
  nodes: () => ({ node: '0', cores: '8', memory: '64 GiB' }),
};

const choices = (kind: 'array' | 'disk' | 'port', field: string): readonly string[] =>
  KINDS[kind].fields[field]!.choices!;

export const columnsOf = (arrays: string[]): Record<List, PartColumn[]> => ({
  modules: [
    { field: 'slot', title: 'Slot', width: '140px' },
    { field: 'size', title: 'Size', width: '110px', mono: true, placeholder: '32 GiB' },
    { field: 'speed', title: 'Speed', width: '150px' },
  ],
  arrays: [
    { field: 'name', title: 'Name', width: '140px' },
    { field: 'level', title: 'Level', width: '80px', choices: ARRAY_LEVELS },
    { field: 'groups', title: 'Groups (50, 60)', width: '110px', mono: true },
    { field: 'purpose', title: 'For', width: '150px', choices: choices('array', 'purpose') },
  ],
  disks: [
    { field: 'bay', title: 'Bay', width: '50px' },
    { field: 'bytes', title: 'Size', width: '144px', mono: true, placeholder: '4 TB' },
    { field: 'class', title: 'Class', width: '132px', choices: DISK_CLASSES },
    { field: 'model', title: 'Model', width: '92px' },
    { field: 'serial', title: 'Serial', width: '84px', mono: true },
    { field: 'array', title: 'Array', width: '86px', choices: ['', ...arrays] },
    { field: 'spare', title: 'Spare', width: '34px', flag: true },
    {
      field: 'purpose',
      title: 'If alone, for',
      width: '92px',
      choices: choices('disk', 'purpose'),
    },
  ],
  ports: [
    { field: 'name', title: 'Name', width: '64px', mono: true },
    { field: 'speed', title: 'Gbit/s', width: '54px', mono: true },
    {
      field: 'connector',
      title: 'Connector',
      width: '100px',
      choices: choices('port', 'connector'),
    },
    { field: 'wired', title: 'Wired', width: '44px', flag: true },
    { field: 'management', title: 'Mgmt', width: '44px', flag: true },
    { field: 'mac', title: 'MAC', width: '152px', mono: true },
    { field: 'card', title: 'Card', width: '100px' },
    { field: 'pluggedInto', title: 'Cable goes to', width: '120px' },
  ],
  nodes: [
    { field: 'node', title: 'Node', width: '70px', mono: true },
    { field: 'cores', title: 'Cores', width: '80px', mono: true },
    { field: 'memory', title: 'Memory', width: '120px', mono: true },
  ],
});

/** The exact size as a person would write it: nominal ones in GB or TB, measured ones in bytes. */
const exactSize = (bytes: number): string =>
  bytes > 0 && bytes % 1e11 === 0
    ? `${bytes / 1e12} TB`
    : bytes > 0 && bytes % 1e9 === 0
      ? `${bytes / 1e9} GB`
      : `${bytes} B`;

export function draftOf(sheet: HostSheet): Draft {
  const arrayName = (id: string | null) =>
    sheet.arrays.find((array) => array.id === id)?.name ?? '';
  return {
    modules: sheet.modules.map(({ slot, sizeMiB, speed }) => ({
      slot,
      size: formatMemory(sizeMiB),
      speed,
    })),
    arrays: sheet.arrays.map(({ name, level, groups, purpose }) => ({
      name,
      level,
      groups: String(groups),
      purpose,
    })),
    disks: sheet.disks.map((disk) => ({
      bay: disk.bay,
      bytes: exactSize(disk.bytes),
      class: disk.class,
      model: disk.model,
      serial: disk.serial,
      array: arrayName(disk.arrayId),
      spare: disk.spare,
      purpose: disk.purpose,
    })),
    ports: sheet.ports.map((port) => ({
      name: port.name,
      speed: port.bitsPerSecond ? String(port.bitsPerSecond / 1e9) : '',
      connector: port.connector,
      wired: port.wired,
      management: port.management,
      mac: port.mac ?? '',
      card: port.card,
      pluggedInto: port.pluggedInto,
    })),
    nodes: sheet.nodes.map(({ node, cores, memoryMiB }) => ({
      node: String(node),
      cores: String(cores),
      memory: formatMemory(memoryMiB),
    })),
  };
}

/** The request, and what could not be read, by "list.row.column". */
export function hardwareOf(draft: Draft): [object, Errors] {
  const faults: Errors = {};
  const size = (
    at: string,
    text: unknown,
    parse: (text: string) => { ok: true; value: number } | { ok: false; sentence: string },
  ) => {
    const found = parse(String(text));
    if (!found.ok) faults[at] = found.sentence;
    return found.ok ? found.value : 0;
  };
  const speed = (at: string, text: unknown) => {
    if (String(text).trim() === '') return null;
    const value = Math.round(Number(text) * 1e9);
    if (!Number.isSafeInteger(value) || value <= 0)
      faults[at] = 'Write the speed in Gbit/s, such as 10 or 2.5.';
    return value;
  };
  const { modules, arrays, disks, ports, nodes } = draft;
  const hardware = {
    modules: modules.map((row, i) => ({
      slot: row.slot,
      sizeMiB: size(`modules.${i}.size`, row.size, parseMemory),
      speed: row.speed,
    })),
    arrays: arrays.map(({ groups, level, ...row }) => ({
      ...row,
      level,
      groups: level === '50' || level === '60' ? Number(groups) : 1,
    })),
    disks: disks.map(({ bytes, array, ...row }, i) => ({
      ...row,
      bytes: size(`disks.${i}.bytes`, bytes, parseBytes),
      array: array || null,
    })),
    ports: ports.map(({ speed: text, mac, ...row }, i) => ({
      ...row,
      bitsPerSecond: speed(`ports.${i}.speed`, text),
      mac: String(mac).trim() || null,
    })),
    nodes: nodes.map((row, i) => ({
      node: Number(row.node),
      cores: Number(row.cores),
      memoryMiB: size(`nodes.${i}.memory`, row.memory, parseMemory),
    })),
  };
  return [hardware, faults];
}
