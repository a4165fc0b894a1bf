/** Measured samples from CSV: what the columns are, what a line says, what is wrong with it. */

/** Heads a column may have. A file is about guests, or about pools. */
const HEADS = {
  time: /^(time|at|timestamp|date)$/,
  guest: /^(guest|name|machine)$/,
  pool: /^(pool|storage pool)$/,
  cpu: /^cpu( ?%| percent|_percent| use)?$|^processor.*%?$/,
  memory: /^mem(ory)?( ?mib| used| mib used|_mib)?( used)?$/,
  disk: /^(disk|used)( ?bytes)?( used)?$|^bytes( used)?$/,
} as const;
export type SampleColumn = keyof typeof HEADS;

export interface SampleLayout {
  about: 'guest' | 'pool';
  at: Partial<Record<SampleColumn, number>>;
}

export interface SampleLine {
  name: string;
  /** ISO, UTC. */
  at: string;
  cpuPercent: number | null;
  memoryMiB: number | null;
  diskBytes: number | null;
}

type Read<T> = { ok: true; value: T } | { ok: false; sentence: string };
const no = (sentence: string) => ({ ok: false as const, sentence });

/** Reads the line of headings. */
export function sampleLayout(headings: readonly string[]): Read<SampleLayout> {
  const at: SampleLayout['at'] = {};
  for (const [i, heading] of headings.entries()) {
    const word = heading
      .replace(/^\uFEFF/, '')
      .trim()
      .toLowerCase();
    const column = (Object.keys(HEADS) as SampleColumn[]).find((name) => HEADS[name].test(word));
    if (!column)
      return no(
        `The heading "${heading.trim()}" is not known. Use: time, guest, cpu %, memory MiB, disk bytes; or: time, pool, used bytes.`,
      );
    if (at[column] !== undefined) return no(`Two columns are headed as ${column}.`);
    at[column] = i;
  }
  if (at.time === undefined) return no('There is no column "time".');
  if (at.guest !== undefined && at.pool !== undefined)
    return no('A file is about guests or about pools, not about both.');
  if (at.pool !== undefined)
    return at.disk === undefined
      ? no('There is no column "used bytes".')
      : { ok: true, value: { about: 'pool', at } };
  if (at.guest === undefined) return no('There is no column "guest".');
  if (at.cpu === undefined && at.memory === undefined && at.disk === undefined)
    return no('There is nothing measured: give cpu %, memory MiB or disk bytes.');
  return { ok: true, value: { about: 'guest', at } };
}

/** Reads one line. An empty cell was not measured; a line with nothing measured is a fault. @param now samples from later than this are refused */
export function readSample(
  cells: readonly string[],
  layout: SampleLayout,
  now: string,
): Read<SampleLine> {
  const cell = (column: SampleColumn): string =>
    layout.at[column] === undefined ? '' : (cells[layout.at[column]] ?? '').trim();
  const name = cell(layout.about);
  if (!name) return no(`It does not name a ${layout.about}.`);
  const at = readTime(cell('time'));
  if (!at.ok) return at;
  if (at.value > now) return no(`${cell('time')} lies in the future.`);
  const cpu = measured(cell('cpu'), 100, 'cpu %');
  if (!cpu.ok) return cpu;
  const memory = measured(cell('memory'), 2 ** 31 - 1, 'memory MiB');
  if (!memory.ok) return memory;
  const disk = measured(cell('disk'), Number.MAX_SAFE_INTEGER, 'disk bytes');
  if (!disk.ok) return disk;
  if (cpu.value === null && memory.value === null && disk.value === null)
    return no('Nothing is measured in it.');
  return {
    ok: true,
    value: {
      name,
      at: at.value,
      cpuPercent: cpu.value,
      memoryMiB: whole(memory.value),
      diskBytes: whole(disk.value),
    },
  };
}

const whole = (value: number | null): number | null => (value === null ? null : Math.round(value));

/** ISO 8601 with a zone, or without one for UTC; a blank may stand for the T; or whole seconds since 1970. */
function readTime(text: string): Read<string> {
  if (/^\d{9,10}$/.test(text))
    return { ok: true, value: new Date(Number(text) * 1000).toISOString() };
  const parts =
    /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}:\d{2}(?::\d{2}(?:\.\d+)?)?)\s*(Z|[+-]\d{2}:?\d{2})?)?$/.exec(
      text,
    );
  const at = parts ? Date.parse(`${parts[1]}T${parts[2] ?? '00:00'}${parts[3] ?? 'Z'}`) : NaN;
  const same =
    parts &&
    !Number.isNaN(at) &&
    new Date(`${parts[1]}T00:00Z`).toISOString().startsWith(parts[1]!);
  return same
    ? { ok: true, value: new Date(at).toISOString() }
    : no(`"${text}" is not a time: write 2026-11-20 08:05 (UTC) or 2026-11-20T08:05:00Z.`);
}

function measured(text: string, most: number, what: string): Read<number | null> {
  if (text === '') return { ok: true, value: null };
  const value = /^\d+(\.\d+)?$/.test(text) ? Number(text) : NaN;
  return value >= 0 && value <= most
    ? { ok: true, value }
    : no(`"${text}" is not ${what}: a number from 0 to ${most}, with a point.`);
}
