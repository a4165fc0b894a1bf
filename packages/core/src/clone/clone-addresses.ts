/** Addresses of a batch of clones: per adapter of the origin a column, one for each clone. */
import { canonicalOr, parseAddress } from '../address/index.js';
import { firstSubnet, nextFree } from '../network/index.js';
import {
  holderName,
  refuse,
  type Context,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';
import type { CopyWish } from './copy-guest.js';
import type { MakeClones } from './make-clones.js';

type Column = (string | undefined)[];

/** Undefined where the origin's adapter has no address, or none is wanted. */
export function addressColumns(
  fleet: Fleet,
  context: Context,
  adapters: readonly Row<'adapter'>[],
  input: MakeClones,
): Column[] | Refusal {
  const taken = new Set<string>();
  const columns: Column[] = [];
  for (const [position, adapter] of adapters.entries()) {
    const chosen = input.clones.map((clone) =>
      position === 0 && clone.ip ? canonicalOr(clone.ip) : undefined,
    );
    const subnet = adapter.networkId ? firstSubnet(fleet, adapter.networkId) : undefined;
    for (const [i, ip] of chosen.entries()) {
      if (!ip) continue;
      const read = parseAddress(ip);
      if (!read.ok)
        return refuse({
          code: 'bad-address',
          field: `clones.${i}.ip`,
          sentence: read.sentence,
          remedy: 'Empty the cell: it takes the next free one.',
        });
      const held = subnet && fleet.withIp(subnet.domainId, ip).find((row) => row.use !== 'shared');
      if (held || taken.has(ip))
        return refuse({
          code: 'address-taken',
          field: `clones.${i}.ip`,
          sentence: `${ip} is ${held ? `an address of ${holderName(fleet, held)}` : 'given to two of these clones'}.`,
          remedy: 'Empty the cell: it takes the next free one.',
        });
      taken.add(ip);
    }
    const { taking } = input;
    const wanted = chosen.filter((ip) => ip === undefined).length;
    const has = fleet.referringCount('address', 'adapterId', adapter.id) > 0;
    if (taking === 'none' || !subnet || wanted === 0 || !wantsAddress(fleet, adapter, has)) {
      columns.push(chosen);
      continue;
    }
    const found = nextFree(fleet, subnet.id, {
      n: wanted,
      taking,
      skip: taken,
      now: context.now,
      randomByte: context.randomByte,
    });
    if (found.length < wanted) return tooFew(subnet.prefix, wanted, found.length, taking);
    for (const ip of found) taken.add(ip);
    let next = 0;
    columns.push(chosen.map((ip) => ip ?? found[next++]));
  }
  return columns;
}

/** An adapter of a template carries no address, since what is sealed holds none: its copies get one all the same. */
const wantsAddress = (fleet: Fleet, adapter: Row<'adapter'>, has: boolean): boolean =>
  has || fleet.referringCount('templateVersion', 'guestId', adapter.guestId) > 0;

/** What each adapter of one clone is given. */
export const adapterWishes = (
  columns: readonly Column[],
  { addressUse, clones }: MakeClones,
  i: number,
): CopyWish['adapters'] =>
  columns.map((column, position) => ({
    address: column[i] ? { as: 'given', ip: column[i] } : { as: 'none' },
    use: addressUse,
    mac: position === 0 ? clones[i]!.mac : undefined,
  }));

function tooFew(
  prefix: string,
  wanted: number,
  found: number,
  taking: MakeClones['taking'],
): Refusal {
  return taking === 'run'
    ? refuse({
        code: 'no-free-run',
        field: 'taking',
        sentence: `${prefix} has no ${wanted} consecutive free addresses.`,
        remedy: 'Take the lowest free addresses wherever they lie.',
      })
    : refuse({
        code: 'no-free-address',
        field: 'taking',
        sentence: `${prefix} has only ${found} free addresses, ${wanted} are needed.`,
        remedy: 'Make fewer clones, or shorten a range.',
      });
}
