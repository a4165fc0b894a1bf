/** The parts of a host, typed in as lists: modules, disks and the arrays they form, ports, NUMA nodes. */
import { checkInput, type HostSheet, type Problem } from '@insel/contract';
import {
  ARRAY_LEVELS,
  DISK_CLASSES,
  formatBoth,
  formatMemory,
  KINDS,
  parseBytes,
  parseMemory,
  type ArrayLevel,
  type DiskClass,
} from '@insel/core';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { errorsOf, type Errors } from '../../components/field.js';
import { PartsTable, type PartColumn, type PartRow } from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { ArrayOptions } from './array-options.js';
import { useRead } from '../../frame/read.js';

type List = 'modules' | 'arrays' | 'disks' | 'ports' | 'nodes';
type Draft = Record<List, PartRow[]>;
const choices = (kind: 'array' | 'disk' | 'port', field: string): readonly string[] =>
  KINDS[kind].fields[field]!.choices!;

const columnsOf = (arrays: string[]): Record<List, PartColumn[]> => ({
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

const FRESH: Record<List, () => PartRow> = {
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

/** The exact size as a person would write it: nominal ones in GB or TB, measured ones in bytes. */
const exactSize = (bytes: number): string =>
  bytes > 0 && bytes % 1e11 === 0
    ? `${bytes / 1e12} TB`
    : bytes > 0 && bytes % 1e9 === 0
      ? `${bytes / 1e9} GB`
      : `${bytes} B`;

function draftOf(sheet: HostSheet): Draft {
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
function hardwareOf(draft: Draft): [object, Errors] {
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

export function HardwarePage() {
  const { id = '' } = useParams();
  const sheet = useRead('host', { id });
  if (sheet.error) return <p className="p-6 text-signal">{sheet.error.message}</p>;
  return sheet.data ? <HardwareForm key={id} sheet={sheet.data} /> : null;
}

function HardwareForm({ sheet }: { sheet: HostSheet }) {
  const go = useNavigate();
  const { host } = sheet;
  const [draft, set, forget] = useDraft<Draft>(`hardware:${host.id}`, () => draftOf(sheet));
  const [against, setAgainst] = useState({ id: host.id, revision: host.revision });
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const columns = columnsOf(draft.arrays.map((array) => String(array.name)));
  const send = async () => {
    const [hardware, faults] = hardwareOf(draft);
    const input = { hostId: host.id, hardware };
    const result = checkInput('host.set-hardware', input);
    const found: Errors = {
      ...(result.ok
        ? {}
        : Object.fromEntries(
            result.complaints.map(({ field, sentence }) => [
              field.replace('hardware.', ''),
              sentence,
            ]),
          )),
      ...faults,
    };
    setErrors(found);
    if (
      Object.keys(found).length ||
      !result.ok ||
      !(await make('host.set-hardware', result.value, { seen: against }))
    )
      return;
    forget();
    void go(`/hosts/${host.id}`);
  };
  const leave = () => {
    forget();
    void go(`/hosts/${host.id}`);
  };
  const all: Errors = { ...errorsOf(problem), ...errors };
  const of = (list: List): Errors =>
    Object.fromEntries(
      Object.entries(all).flatMap(([field, sentence]) =>
        field.startsWith(`${list}.`) ? [[field.slice(list.length + 1), sentence]] : [],
      ),
    );
  const table = (list: List, title: string, name: string) => (
    <PartsTable
      title={title}
      name={name}
      columns={columns[list]}
      rows={draft[list]}
      set={(rows) => set({ [list]: rows })}
      fresh={FRESH[list]}
      errors={of(list)}
    />
  );
  const bytes = draft.disks.map((disk) => parseBytes(String(disk.bytes)));
  const total = bytes.reduce((sum, found) => sum + (found.ok ? found.value : 0), 0);
  return (
    <Making
      title={`Hardware of ${host.name}`}
      consequences={
        <>
          <p className="mb-1 text-faint">
            {draft.disks.length} disks, {formatBoth(total)} raw
          </p>
          {['', ...draft.arrays.map((array) => String(array.name))].map((name) => {
            const members = draft.disks.filter((disk) => disk.array === name);
            const sizes = members
              .map((disk) => parseBytes(String(disk.bytes)))
              .flatMap((found) => (found.ok && found.value > 0 ? [found.value] : []));
            if (sizes.length < 2) return null;
            return (
              <section key={name} className="mb-4">
                <h2 className="font-bold text-pencil">
                  The {sizes.length} disks {name ? `of ${name}` : 'outside arrays'} in every level
                </h2>
                <ArrayOptions
                  disks={sizes}
                  diskClass={members[0]!.class as DiskClass}
                  spares={members.filter((disk) => disk.spare).length}
                  chosen={
                    draft.arrays.find((array) => array.name === name)?.level as
                      ArrayLevel | undefined
                  }
                  brief
                />
              </section>
            );
          })}
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          {table('arrays', 'Arrays', 'array')}
          {table('disks', 'Disks', 'disk')}
          {table('ports', 'Ports', 'port')}
          {table('modules', 'Memory modules', 'module')}
          {table('nodes', 'NUMA nodes', 'node')}
          {problem?.status === 412 ? (
            <Stale
              problem={problem}
              draft={draft}
              sheet={sheet}
              writeMine={(revision) => setAgainst({ id: host.id, revision })}
              dropMine={leave}
            />
          ) : (
            <ProblemNote problem={problem} />
          )}
          <p className="mt-4 flex gap-4">
            <button type="button" className="press" disabled={busy} onClick={() => void send()}>
              Keep these parts
            </button>
            <button type="button" className="act" onClick={leave}>
              Drop what I typed
            </button>
          </p>
        </form>
      }
    />
  );
}

/** Somebody altered the host meanwhile: how many parts each side has, and which to keep. */
function Stale({
  problem,
  draft,
  sheet,
  writeMine,
  dropMine,
}: {
  problem: Problem;
  draft: Draft;
  sheet: HostSheet;
  writeMine: (revision: number) => void;
  dropMine: () => void;
}) {
  const theirs = draftOf(sheet);
  const words = (rows: PartRow[]) =>
    rows
      .map((row) =>
        Object.values(row)
          .filter((value) => value !== '' && value !== false)
          .join(' '),
      )
      .join('; ') || 'none';
  const differing = (Object.keys(draft) as List[]).filter(
    (list) => words(draft[list]) !== words(theirs[list]),
  );
  const { revision } = (problem.current ?? { revision: 0 }) as { revision: number };
  return (
    <div role="alert" className="my-2 border-l-4 border-signal pl-3">
      <p>
        <span className="font-bold text-signal">■ {problem.title}.</span> {problem.sentence}
      </p>
      {differing.map((list) => (
        <div key={list} className="grid grid-cols-[90px_1fr] text-[13px]">
          <span className="text-faint">{list} now</span>
          <span>{words(theirs[list])}</span>
          <span className="text-faint">you typed</span>
          <b>{words(draft[list])}</b>
        </div>
      ))}
      <button type="button" className="act" onClick={() => writeMine(revision)}>
        Write mine: press “Keep these parts” again
      </button>{' '}
      <button type="button" className="act" onClick={dropMine}>
        Keep theirs
      </button>
    </div>
  );
}
