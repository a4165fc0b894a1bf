/**
 * Sets of VLAN ids (IEEE Std 802.1Q, clause 9.6): 1 to 4094; 0 marks priority only and 4095 is reserved. Written as
 * people write them, "10-12,20".
 */
const LAST_VLAN = 4094;

export type VlansResult = { ok: true; value: number[] } | { ok: false; sentence: string };

/** @example parseVlans('10-12, 20') // [10, 11, 12, 20] */
export function parseVlans(text: string): VlansResult {
  const found = new Set<number>();
  for (const part of text.split(/[\s,]+/).filter(Boolean)) {
    const match = /^([1-9]\d*)(?:-([1-9]\d*))?$/.exec(part);
    if (!match)
      return { ok: false, sentence: `"${part}": write VLAN ids from 1 to 4094, such as 10-12,20.` };
    const [first, last] = [Number(match[1]), Number(match[2] ?? match[1])];
    if (first > LAST_VLAN || last > LAST_VLAN)
      return { ok: false, sentence: `"${part}": a VLAN id is 1 to 4094.` };
    if (last < first) return { ok: false, sentence: `"${part}": the larger id comes last.` };
    for (let id = first; id <= last; id += 1) found.add(id);
  }
  return { ok: true, value: [...found].sort((a, b) => a - b) };
}

/** @example formatVlans([20, 10, 11, 12]) // '10-12,20' */
export function formatVlans(ids: readonly number[]): string {
  const sorted = [...new Set(ids)].sort((a, b) => a - b);
  const runs: [number, number][] = [];
  for (const id of sorted) {
    const before = runs.at(-1);
    if (before && before[1] === id - 1) before[1] = id;
    else runs.push([id, id]);
  }
  return runs
    .map(([first, last]) =>
      first === last ? String(first) : last === first + 1 ? `${first},${last}` : `${first}-${last}`,
    )
    .join(',');
}
