/**
 * The parts of a host as lists: memory modules, NUMA nodes, arrays, disks, ports. A list that is given replaces the one
 * recorded; parts are recognised by slot, node number, name or bay, so that a part keeps its row when a value alters.
 */
import {
  isRefusal,
  refuse,
  tidy,
  type Draft,
  type Fleet,
  type Kind,
  type Refusal,
  type Values,
} from '../record/index.js';
import { arrayFault } from './array.js';
import type { HardwareInput } from './host-input.js';

/** Drafts the lists of a host, one that is being created included. */
export function draftHardware(
  fleet: Fleet,
  draft: Draft,
  hostId: string,
  hardware: HardwareInput,
): Refusal | undefined {
  const twice = twiceIn(hardware);
  if (twice) return twice;
  if (hardware.modules) replace(fleet, draft, 'memoryModule', 'slot', hostId, hardware.modules);
  if (hardware.nodes) replace(fleet, draft, 'numaNode', 'node', hostId, hardware.nodes);
  if (hardware.ports) replace(fleet, draft, 'port', 'name', hostId, hardware.ports);
  const arrays = hardware.arrays
    ? replace(fleet, draft, 'array', 'name', hostId, hardware.arrays)
    : recordedArrays(fleet, hostId);
  if (isRefusal(arrays)) return arrays;
  if (!hardware.disks) return undefined;
  const disks: Values[] = [];
  for (const [i, { array, ...disk }] of hardware.disks.entries()) {
    const arrayId = array ? arrays.get(array) : null;
    if (arrayId === undefined)
      return refuse({
        code: 'no-such-array',
        field: `disks.${i}.array`,
        sentence: `There is no array "${array}" at this host.`,
        remedy: `Name one of: ${[...arrays.keys()].join(', ') || 'none yet'}.`,
      });
    disks.push({ ...disk, arrayId, spare: Boolean(arrayId) && disk.spare === true });
  }
  replace(fleet, draft, 'disk', 'bay', hostId, disks);
  return hardware.arrays ? unbuildable(hardware) : undefined;
}

const recordedArrays = (fleet: Fleet, hostId: string) =>
  new Map(fleet.referring('array', 'hostId', hostId).map((array) => [array.name, array.id]));

/** Gives the ids of the rows by their key. */
function replace(
  fleet: Fleet,
  draft: Draft,
  kind: 'memoryModule' | 'numaNode' | 'array' | 'disk' | 'port',
  key: string,
  hostId: string,
  wanted: readonly Values[],
): Map<string, string> {
  const held = new Map(
    (
      fleet.referring(kind, 'hostId' as never, hostId) as unknown as (Values & { id: string })[]
    ).map((row) => [String(row[key]), row]),
  );
  const ids = new Map<string, string>();
  for (const values of wanted) {
    const fields = tidy(kind, values);
    const row = held.get(String(fields[key]));
    held.delete(String(fields[key]));
    if (row) draft.update(kind, row.id, fields);
    ids.set(String(fields[key]), row?.id ?? draft.create(kind, { ...fields, hostId }));
  }
  for (const row of held.values()) draft.remove(kind as Kind, row.id);
  return ids;
}

function twiceIn({
  modules = [],
  nodes = [],
  arrays = [],
  disks = [],
  ports = [],
}: HardwareInput): Refusal | undefined {
  const lists: [string, string, string, readonly Values[]][] = [
    ['modules', 'slot', 'memory slot', modules],
    ['nodes', 'node', 'NUMA node', nodes],
    ['arrays', 'name', 'array', arrays],
    ['disks', 'bay', 'bay', disks],
    ['ports', 'name', 'port', ports],
  ];
  for (const [list, key, word, rows] of lists) {
    const seen = new Set<string>();
    for (const [i, row] of rows.entries()) {
      const value = String(row[key]).trim();
      if (seen.has(value))
        return refuse({
          code: 'twice',
          field: `${list}.${i}.${key}`,
          sentence: `The ${word} ${value} stands here twice.`,
        });
      seen.add(value);
    }
  }
  return undefined;
}

/** An array whose members cannot form it is impossible, not just unwise. */
function unbuildable({ arrays = [], disks = [] }: HardwareInput): Refusal | undefined {
  for (const [i, array] of arrays.entries()) {
    const members = disks
      .filter((disk) => disk.array === array.name && !disk.spare)
      .map((disk) => disk.bytes ?? 0);
    const fault = array.level && arrayFault(array.level, members, array.groups ?? 1);
    if (fault)
      return refuse({
        code: 'array-impossible',
        field: `arrays.${i}.level`,
        sentence: `Array ${array.name}: ${fault}`,
        remedy: 'Choose another level, or say which disks belong to it.',
      });
  }
  return undefined;
}
