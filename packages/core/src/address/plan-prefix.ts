/**
 * Cutting subnets out of a block for a list of needs: the largest first, each at the lowest place where it is aligned. In
 * this order nothing fails while the sum of the blocks fits.
 */
import { freeBlocks, placeBlock } from './blocks.js';
import { formatAddress } from './ip.js';
import { formatPrefix, parsePrefix, smallestLength, total, usable, type Prefix } from './prefix.js';

export interface Need {
  name: string;
  /** Machines that want an address now. */
  machines: number;
  /** A line between two routers: a /31 (RFC 3021) or /127 (RFC 6164). */
  link?: boolean;
}

export interface Planned {
  name: string;
  machines: number;
  /** Machines with growth, and the gateway unless it is a link. */
  wanted: number;
  block: Prefix;
  /** Usable addresses beyond those wanted; null where counting says nothing (IPv6). */
  spare: number | null;
}

export interface PrefixPlan {
  parent: Prefix;
  planned: Planned[];
  /** What stays free, as maximal blocks. */
  free: Prefix[];
  /** Addresses in planned blocks that nobody asked for, in per cent of them; null for IPv6. */
  wastePercent: number | null;
}

export type PlanResult = { ok: true; plan: PrefixPlan } | { ok: false; sentence: string };

/**
 * @param growthPercent added to every need but links, rounded up
 * @param taken blocks inside the parent that are used already
 */
export function planPrefix(
  parent: Prefix,
  needs: readonly Need[],
  growthPercent = 0,
  taken: readonly Prefix[] = [],
): PlanResult {
  const wishes = needs.map((need) => ({ need, ...wish(parent, need, growthPercent) }));
  const tooLarge = wishes.find(({ length }) => length < parent.length);
  if (tooLarge)
    return {
      ok: false,
      sentence: `${tooLarge.need.name} alone needs a /${tooLarge.length}, larger than ${formatPrefix(parent)}.`,
    };
  const planned = new Map<Need, Planned>();
  const used = [...taken];
  for (const { need, wanted, length } of [...wishes].sort((a, b) => a.length - b.length)) {
    const block = placeBlock(freeBlocks(parent, used), length);
    if (!block) return { ok: false, sentence: shortBy(parent, wishes, taken) };
    used.push(block);
    planned.set(need, {
      name: need.name,
      machines: need.machines,
      wanted,
      block,
      spare: parent.family === 4 ? Number(usable(block).count) - wanted : null,
    });
  }
  const rows = needs.map((need) => planned.get(need)!);
  const size = rows.reduce((sum, row) => sum + Number(total(row.block)), 0);
  const needed = rows.reduce((sum, row) => sum + row.wanted, 0);
  return {
    ok: true,
    plan: {
      parent,
      planned: rows,
      free: freeBlocks(parent, used),
      wastePercent: parent.family === 4 && size > 0 ? ((size - needed) / size) * 100 : null,
    },
  };
}

function wish(
  parent: Prefix,
  need: Need,
  growthPercent: number,
): { wanted: number; length: number } {
  if (need.link) return { wanted: 2, length: parent.family === 4 ? 31 : 127 };
  // In whole numbers, so that 30 % of 10 is 3 and not 3.0000000000000004 rounded up.
  const grown = need.machines + Math.ceil((need.machines * growthPercent) / 100);
  const wanted = grown + 1;
  return { wanted, length: parent.family === 4 ? smallestLength(wanted) : 64 };
}

function shortBy(
  parent: Prefix,
  wishes: readonly { need: Need; length: number }[],
  taken: readonly Prefix[],
): string {
  const bits = parent.family === 4 ? 32 : 128;
  const sum = wishes.reduce((all, { length }) => all + (1n << BigInt(bits - length)), 0n);
  const room = freeBlocks(parent, taken).reduce((all, block) => all + total(block), 0n);
  if (sum > room)
    return `${formatPrefix(parent)} has ${room} addresses left for this, the subnets take ${sum}: ${sum - room} too few.`;
  return `${formatPrefix(parent)} has ${room} addresses left, enough for ${sum}, but not in blocks that are large enough: what is used lies in between.`;
}

/**
 * Reads needs as people say them: "60 guests, 12 management, 2 links, 30 % growth". A number before "link" or "links" is a
 * number of links; every other number is a number of machines.
 */
export function readNeeds(
  text: string,
): { ok: true; needs: Need[]; growthPercent: number } | { ok: false; sentence: string } {
  const needs: Need[] = [];
  let growthPercent = 0;
  for (const part of text
    .split(/[,;\n]+/)
    .map((found) => found.trim())
    .filter(Boolean)) {
    const growth = /^(\d+)\s*%\s*(?:growth)?$/.exec(part);
    const count = /^(\d+)\s*[x×]?\s*(.+)$/.exec(part) ?? /^(.+?)\s+(\d+)$/.exec(part);
    if (growth) growthPercent = Number(growth[1]);
    else if (!count)
      return { ok: false, sentence: `"${part}": write a number and a name, such as "60 guests".` };
    else {
      const [number, name] = /^\d+$/.test(count[1]!)
        ? [Number(count[1]), count[2]!.trim()]
        : [Number(count[2]), count[1]!.trim()];
      if (number < 1 || number > 10_000_000)
        return { ok: false, sentence: `"${part}": a number from 1 to 10,000,000.` };
      if (/^links?$/i.test(name)) {
        if (number > 256) return { ok: false, sentence: `"${part}": at most 256 links at once.` };
        for (let i = 1; i <= number; i += 1)
          needs.push({ name: number === 1 ? 'link' : `link ${i}`, machines: 2, link: true });
      } else needs.push({ name, machines: number });
    }
  }
  return needs.length === 0
    ? {
        ok: false,
        sentence: 'Write what is needed, such as "60 guests, 12 management, 2 links, 30 % growth".',
      }
    : { ok: true, needs, growthPercent };
}

/**
 * A quick question about blocks, as typed into the search field: "10.20.0.0/22 / 26" asks how many /26 are in it; a block
 * alone asks what it holds.
 *
 * @returns the answer in a sentence with the block, or undefined where this is no such question
 */
export function prefixQuestion(text: string): { sentence: string; block: string } | undefined {
  const match = /^\s*([^\s/]+\/\d+)\s*(?:\/\s*(\d+))?\s*$/.exec(text);
  const read = match ? parsePrefix(match[1]!) : undefined;
  if (!read?.ok) return undefined;
  const block = formatPrefix(read.value);
  const bits = read.value.family === 4 ? 32 : 128;
  if (match![2] === undefined) {
    const room = usable(read.value);
    const say = (value: bigint) => formatAddress({ family: read.value.family, value });
    return {
      block,
      sentence: `${block} holds ${room.count.toLocaleString('en-GB')} machines, ${say(room.first)} – ${say(room.last)}`,
    };
  }
  const length = Number(match![2]);
  if (length < read.value.length || length > bits)
    return { block, sentence: `A part of ${block} is from /${read.value.length} to /${bits}` };
  const parts = 1n << BigInt(length - read.value.length);
  const part = usable({ family: read.value.family, first: read.value.first, length });
  return {
    block,
    sentence: `${block} makes ${parts.toLocaleString('en-GB')} × /${length}, each for ${part.count.toLocaleString('en-GB')} machines`,
  };
}
