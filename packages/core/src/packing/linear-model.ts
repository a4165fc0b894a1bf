/**
 * A question as a mixed-integer program in the LP format (CPLEX LP, as HiGHS documents it), for a solver that is handed in:
 * x of a unit and a host is 1 where it goes there, y of a host is 1 where it is used. Costs units · hosts. What a solver
 * answers is counted again in whole numbers before anybody believes it.
 */
import { Board, needAt, type PackingQuestion, type Placing } from './question.js';
import { faultsOf } from './verify.js';

export interface LinearAnswer {
  status: 'optimal' | 'infeasible' | 'unknown';
  /** Of the best answer that was found; null: none was. */
  value: ((column: string) => number) | null;
  /** What no answer can be below. */
  bound: number;
  /** Of a program without whole numbers: what one more on the right of a row would cost. */
  price?: (row: string) => number;
}

/** Solves a program within so many seconds. */
export type SolveLinear = (program: string, seconds: number) => LinearAnswer;

/** What is used of the HiGHS library (npm `highs`): it is loaded where it runs, in a worker or a test. */
export interface HighsLike {
  solve: (
    program: string,
    options: { time_limit: number },
  ) => {
    Status: string;
    ObjectiveValue: number;
    Columns: Readonly<Record<string, object>>;
    Rows: readonly object[];
  };
}

export const solverOf =
  (highs: HighsLike): SolveLinear =>
  (program, seconds) => {
    const { Status, ObjectiveValue, Columns, Rows } = highs.solve(program, { time_limit: seconds });
    const status =
      Status === 'Optimal' ? 'optimal' : Status === 'Infeasible' ? 'infeasible' : 'unknown';
    const primal = (name: string) => (Columns[name] as { Primal?: number } | undefined)?.Primal;
    const known = status !== 'infeasible' && Object.keys(Columns).some((name) => primal(name));
    return {
      status,
      value: known ? (name) => primal(name) ?? 0 : null,
      bound: status === 'optimal' ? ObjectiveValue : -Infinity,
      price: pricesOf(Rows),
    };
  };

/** Rows of a program in whole numbers have neither name nor price. */
function pricesOf(rows: readonly { Name?: string; Dual?: number }[]): LinearAnswer['price'] {
  let byName: Map<string, number> | undefined;
  return (name) => {
    byName ??= new Map(rows.map((row) => [row.Name ?? '', row.Dual ?? 0]));
    return byName.get(name) ?? 0;
  };
}

export interface Prices {
  /** What it costs that a unit is on a host. */
  of?: (unit: number, host: number) => number;
  /** What it costs that a host is used. */
  ofHost?: (host: number) => number;
}

const x = (unit: number, host: number): string => `x${unit}_${host}`;

export function linearModel(question: PackingQuestion, prices: Prices = {}): string {
  const { units, hosts, dims, need, room, candidates, limits } = question;
  const board = new Board(question);
  const fitting = candidates.map((set, unit) =>
    Array.from(set).filter((host) => board.hasRoom(unit, host)),
  );
  const binaries: string[] = [];
  const costs: string[] = [];
  const rows: string[] = [];
  const onHost: number[][] = Array.from({ length: hosts }, () => []);
  for (let unit = 0; unit < units; unit += 1) {
    for (const host of fitting[unit]!) {
      binaries.push(x(unit, host));
      onHost[host]!.push(unit);
      const price = prices.of?.(unit, host) ?? 0;
      if (price !== 0) costs.push(`${price} ${x(unit, host)}`);
    }
    // Nowhere to go: a row that nothing fulfils.
    const places = fitting[unit]!.map((host) => x(unit, host));
    if (places.length === 0) binaries.push(x(unit, hosts));
    rows.push(places.length > 0 ? `${places.join(' + ')} = 1` : `${x(unit, hosts)} >= 2`);
  }
  for (let host = 0; host < hosts; host += 1) {
    if (onHost[host]!.length === 0) continue;
    const used = prices.ofHost?.(host);
    if (used !== undefined) {
      binaries.push(`y${host}`);
      costs.push(`${used} y${host}`);
    }
    for (let d = 0; d < dims; d += 1) {
      const terms = onHost[host]!.flatMap((unit) => {
        const demand = need[needAt(question, unit, host) + d]!;
        return demand > 0 ? `${demand} ${x(unit, host)}` : [];
      });
      if (terms.length === 0) continue;
      const has = Math.max(0, room[host * dims + d]!);
      rows.push(
        used === undefined
          ? `${terms.join(' + ')} <= ${has}`
          : `${terms.join(' + ')} - ${has} y${host} <= 0`,
      );
    }
    // A unit that needs nothing still uses its host.
    if (used !== undefined)
      for (const unit of onHost[host]!) rows.push(`${x(unit, host)} - y${host} <= 0`);
  }
  for (const [i, limit] of limits.entries()) rows.push(...rowsOfLimit(i, limit, fitting, binaries));
  return [
    'Minimize',
    ` cost: ${costs.length > 0 ? costs.join(' + ') : `0 ${binaries[0] ?? 'x0_0'}`}`,
    'Subject To',
    ...rows.map((row, i) => ` r${i}: ${row}`),
    'Binary',
    ...binaries.map((name) => ` ${name}`),
    'End',
  ].join('\n');
}

function rowsOfLimit(
  number: number,
  { members, zoneOf, most, standing }: PackingQuestion['limits'][number],
  fitting: readonly (readonly number[])[],
  binaries: string[],
): string[] {
  const inZone = new Map<number, string[]>();
  for (const unit of members)
    for (const host of fitting[unit]!) {
      const zone = zoneOf[host]!;
      inZone.set(zone, [...(inZone.get(zone) ?? []), x(unit, host)]);
    }
  if (most !== null)
    return [...inZone].map(
      ([zone, terms]) => `${terms.join(' + ')} <= ${Math.max(0, most - standing[zone]!)}`,
    );
  const chosen = [...inZone].map(([zone, terms]) => {
    binaries.push(`z${number}_${zone}`);
    return `${terms.join(' + ')} - ${members.length} z${number}_${zone} <= 0`;
  });
  const elsewhere = standing.findIndex((count) => count > 0);
  const names = [...inZone.keys()].map((zone) => `z${number}_${zone}`);
  const held = [...inZone.keys()]
    .filter((zone) => elsewhere >= 0 && zone !== elsewhere)
    .map((zone) => `z${number}_${zone} = 0`);
  return [...chosen, ...(names.length > 0 ? [`${names.join(' + ')} <= 1`] : []), ...held];
}

/** The placing that an answer says; null where it does not hold when it is counted in whole numbers. */
export function placingOf(question: PackingQuestion, { value }: LinearAnswer): Placing | null {
  if (!value) return null;
  const at = new Int32Array(question.units).fill(-1);
  for (let unit = 0; unit < question.units; unit += 1)
    for (const host of question.candidates[unit]!) if (value(x(unit, host)) > 0.5) at[unit] = host;
  return at.includes(-1) || faultsOf(question, at).length > 0 ? null : at;
}

/** Asks a solver whether there is any placing. */
export const exactlyBy =
  (solve: SolveLinear, seconds: number) =>
  (question: PackingQuestion): Placing | 'none' | null => {
    const answer = solve(linearModel(question), seconds);
    return answer.status === 'infeasible' ? 'none' : placingOf(question, answer);
  };
