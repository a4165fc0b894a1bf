/**
 * Sets of blocks: merged without loss, covered by one, cut out of each other, and the free rest of a block. Two blocks
 * of equal length that differ only in their last bit make one (RFC 4632, section 4); the merged set is unique and minimal.
 */
import { BITS, type Family } from './ip.js';
import { containing, last, overlap, total, type Prefix } from './prefix.js';

const order = (a: Prefix, b: Prefix): number =>
  a.family - b.family || (a.first < b.first ? -1 : a.first > b.first ? 1 : a.length - b.length);

/**
 * The fewest blocks that hold exactly the same addresses, in order.
 *
 * @example aggregate of 192.0.2.0/25 and 192.0.2.128/25 // 192.0.2.0/24
 */
export function aggregate(blocks: readonly Prefix[]): Prefix[] {
  const stack: Prefix[] = [];
  for (const block of [...blocks].sort(order)) {
    const before = stack.at(-1);
    if (before && before.family === block.family && last(before) >= last(block)) continue;
    stack.push(block);
    while (stack.length > 1 && siblings(stack.at(-2)!, stack.at(-1)!)) {
      const right = stack.pop()!;
      const left = stack.pop()!;
      stack.push({ family: left.family, first: left.first, length: right.length - 1 });
    }
  }
  return stack;
}

function siblings(left: Prefix, right: Prefix): boolean {
  if (left.family !== right.family || left.length !== right.length || left.length === 0)
    return false;
  const size = total(left);
  return right.first === left.first + size && left.first % (size * 2n) === 0n;
}

/**
 * The smallest single block that holds all of them. @throws RangeError for none, or for mixed families
 */
export function singleCover(blocks: readonly Prefix[]): Prefix {
  const [one] = blocks;
  if (!one || blocks.some((block) => block.family !== one.family))
    throw new RangeError('one family, at least one block');
  const low = blocks.reduce((min, block) => (block.first < min ? block.first : min), one.first);
  const high = blocks.reduce((max, block) => (last(block) > max ? last(block) : max), last(one));
  let length = BITS[one.family];
  while (
    length > 0 &&
    low >> BigInt(BITS[one.family] - length) !== high >> BigInt(BITS[one.family] - length)
  )
    length -= 1;
  return containing({ family: one.family, value: low }, length);
}

/** The fewest blocks that hold exactly the addresses from first to last, both included. */
export function blocksOfRange(family: Family, first: bigint, end: bigint): Prefix[] {
  const blocks: Prefix[] = [];
  const bits = BITS[family];
  for (let at = first; at <= end;) {
    let length = bits;
    while (length > 0) {
      const size = 1n << BigInt(bits - length + 1);
      if (at % size !== 0n || at + size - 1n > end) break;
      length -= 1;
    }
    blocks.push({ family, first: at, length });
    at += 1n << BigInt(bits - length);
  }
  return blocks;
}

/** What is left of a block without the others, as maximal aligned blocks in order. */
export function freeBlocks(block: Prefix, taken: readonly Prefix[]): Prefix[] {
  const inside = aggregate(taken.filter((other) => overlap(other, block)));
  const free: Prefix[] = [];
  let at = block.first;
  for (const other of inside) {
    if (other.first > at) free.push(...blocksOfRange(block.family, at, other.first - 1n));
    if (last(other) >= at) at = last(other) + 1n;
  }
  if (at <= last(block)) free.push(...blocksOfRange(block.family, at, last(block)));
  return free;
}

/**
 * Where a block of that length goes among free ones: lowest place first, or in the smallest free block that holds it, which
 * keeps large blocks whole. Undefined where none is large enough.
 */
export function placeBlock(
  free: readonly Prefix[],
  length: number,
  fit: 'first' | 'best' = 'first',
): Prefix | undefined {
  const holding = free.filter((block) => block.length <= length);
  const home =
    fit === 'first'
      ? holding[0]
      : holding.reduce<Prefix | undefined>(
          (best, block) => (!best || block.length > best.length ? block : best),
          undefined,
        );
  return home && { family: home.family, first: home.first, length };
}

/** The two halves of a block. @throws RangeError for a single address */
export function halves(block: Prefix): [Prefix, Prefix] {
  if (block.length === BITS[block.family]) throw new RangeError('a single address has no halves');
  const length = block.length + 1;
  const left = { family: block.family, first: block.first, length };
  return [left, { ...left, first: block.first + total(left) }];
}

/** All blocks of that length inside a block, lowest first, at most `most`. */
export function splitInto(block: Prefix, length: number, most = 1024): Prefix[] {
  const parts: Prefix[] = [];
  const size = 1n << BigInt(BITS[block.family] - length);
  for (let first = block.first; first <= last(block) && parts.length < most; first += size)
    parts.push({ family: block.family, first, length });
  return parts;
}
