import { canonical } from '../address/index.js';
import { draftGuest, GivenOut, guestName, type AdapterInput } from '../guest/index.js';
import { roomObjections } from '../host/index.js';
import { firstSubnet, nextFree } from '../network/index.js';
import { processorFit } from '../placement/index.js';
import { copiedOf } from './inheritance.js';
import { namesOf, readPattern } from './name-pattern.js';
import { spreadClones, SPREAD_RULES } from './spread.js';
import {
  change,
  choice,
  draftOf,
  fieldsOf,
  holderName,
  IDENTITY_ITEMS,
  integer,
  isRefusal,
  list,
  noSuch,
  objection,
  omittable,
  ref,
  refs,
  refuse,
  type Context,
  type DeciderOf,
  type Fleet,
  type InputOf,
  type Refusal,
  type Row,
} from '../record/index.js';

/** More at once would be a plan of its own. */
export const MOST_CLONES = 200;

/** Copies of a guest, each with a name, fresh MACs, an address of its own and an open list of identity items. */
export const makeClones = change({
  type: 'clone.make',
  title: 'Make clones',
  carried: 'by hand',
  input: {
    originId: ref('guest'),
    copy: fieldsOf('clone').copy,
    /** Such as `tide-{01..12}` or `{host}-w{n}`: see name-pattern.ts. */
    pattern: guestName,
    start: integer(0, 99_999),
    /** Consecutive addresses, or the lowest ones wherever they lie. */
    taking: choice('run', 'single'),
    /** Which hosts; left out: beside the origin. */
    spread: omittable(choice(...SPREAD_RULES)),
    /** Only these hosts; left out: all that can. */
    among: omittable(refs('host', 200)),
    /** What is left out follows from pattern, spread and the next free run. */
    clones: list(
      {
        name: omittable(guestName),
        hostId: omittable(ref('host')),
        poolId: omittable(ref('pool')),
        /** Address of the first adapter. */
        ip: omittable(fieldsOf('address').ip),
      },
      MOST_CLONES,
    ),
  },
});
type MakeClones = InputOf<(typeof makeClones)['input']>;

export const decideMakeClones: DeciderOf<typeof makeClones> = (fleet, input, context) => {
  const origin = fleet.get('guest', input.originId);
  if (!origin) return noSuch('guest');
  const count = input.clones.length;
  if (count < 1 || count > MOST_CLONES)
    return refuse({
      code: 'how-many',
      field: 'count',
      sentence: `Make 1 to ${MOST_CLONES} clones at a time.`,
    });
  const adapters = fleet
    .referring('adapter', 'guestId', origin.id)
    .sort((a, b) => a.position - b.position);
  const seats = seatsOf(fleet, origin, input);
  if (isRefusal(seats)) return seats;
  const names = cloneNames(fleet, input, seats);
  if (isRefusal(names)) return names;
  const columns = addressColumns(fleet, context, adapters, input);
  if (isRefusal(columns)) return columns;
  const volumes = fleet.referring('volume', 'guestId', origin.id);
  const routes = fleet.referring('route', 'guestId', origin.id);
  const needs = fleet.referring('dependency', 'guestId', origin.id);
  const draft = draftOf(fleet, context);
  const givenOut = new GivenOut();
  const objections: Refusal[] = originObjections(origin);
  const subjects = [{ kind: 'guest' as const, id: origin.id, name: origin.name }];
  const places = { hosts: new Set<string>(), pools: new Set<string>() };
  for (const [i, wish] of seats.entries()) {
    const { hostId } = wish;
    const cannot = cannotBe(fleet, origin, volumes, input.copy, wish);
    if (cannot) return { ...cannot, field: `clones.${i}.${cannot.field}` };
    const drafted = draftGuest(
      fleet,
      draft,
      context,
      {
        fields: {
          ...copiedOf('guest', origin),
          name: names[i]!,
          hostId,
          state: 'planned',
          bootFirst: origin.bootFirst === 'unknown' ? 'unknown' : 'disk',
        },
        volumes: volumes.map((volume) => ({
          ...copiedOf('volume', volume),
          poolId: wish.poolId ?? volume.poolId,
          thin: volume.thin || input.copy === 'dependent',
          baseId: input.copy === 'dependent' ? volume.id : null,
        })),
        adapters: adapters.map((adapter, position) => ({
          ...copiedOf('adapter', adapter),
          networkId: adapter.networkId ?? undefined,
          address: addressFor(columns[position]![i]),
        })),
      },
      true,
      givenOut,
    );
    if (isRefusal(drafted))
      return { ...drafted, field: drafted.field && `clones.${i}.${drafted.field}` };
    objections.push(
      ...drafted.objections.map((objection) => ({
        ...objection,
        field: `clones.${i}.${objection.field}`,
      })),
    );
    const copy = { guestId: drafted.guestId };
    for (const route of routes) draft.create('route', { ...copiedOf('route', route), ...copy });
    for (const need of needs)
      draft.create('dependency', { ...copiedOf('dependency', need), ...copy });
    places.hosts.add(hostId);
    for (const volume of volumes) places.pools.add(wish.poolId ?? volume.poolId);
    const cloneId = draft.create('clone', {
      guestId: drafted.guestId,
      originId: origin.id,
      copy: input.copy,
      madeAt: context.now,
    });
    for (const item of identityOf(fleet, origin)) draft.create('identityItem', { cloneId, item });
    subjects.push({ kind: 'guest', id: drafted.guestId, name: names[i]! });
  }
  const room = [...places.pools].every((id) => fleet.get('pool', id))
    ? roomObjections(fleet, draft.patches(), places)
    : [];
  return {
    draft,
    title: `planned ${count} ${count === 1 ? 'clone' : 'clones'} of ${origin.name}: ${names.slice(0, 3).join(', ')}${count > 3 ? ' …' : ''}`,
    subjects,
    objections: [...room, ...objections],
  };
};

/** A copy of a disk runs on no other architecture; a dependent one holds nothing without the blocks of its base beside it. */
function cannotBe(
  fleet: Fleet,
  origin: Row<'guest'>,
  volumes: readonly Row<'volume'>[],
  copy: MakeClones['copy'],
  wish: Wanted,
): Refusal | undefined {
  const host = fleet.get('host', wish.hostId);
  const [architecture] = host
    ? processorFit(origin, fleet.need('host', origin.hostId), host, 'stopped')
    : [];
  if (architecture?.never) {
    const { sentence, remedy } = architecture;
    return refuse({ code: 'other-architecture', field: 'hostId', sentence, remedy });
  }
  const base = volumes.find((volume) => wish.poolId && volume.poolId !== wish.poolId);
  if (copy === 'full' || !base) return undefined;
  return refuse({
    code: 'away-from-base',
    field: 'poolId',
    sentence: `A dependent clone shares the blocks of ${base.label} of ${origin.name}, which lie in pool ${fleet.need('pool', base.poolId).name}: it lies there too.`,
    remedy: 'Leave the pool as it is, or make full clones.',
  });
}

/** What a copy must be given anew: what its profile says, or everything. */
function identityOf(
  fleet: Fleet,
  origin: Row<'guest'>,
): readonly (typeof IDENTITY_ITEMS)[number][] {
  const wanted = fleet.get('profile', origin.profileId)?.identity ?? [];
  const known = IDENTITY_ITEMS.filter((item) => wanted.includes(item));
  return known.length ? known : IDENTITY_ITEMS;
}

/** A clone that is asked for, with its place. */
interface Wanted {
  hostId: string;
  poolId?: string;
}

/** Where each is made: as it is given, else by the spread, which sees only those that are left to it. */
function seatsOf(
  fleet: Fleet,
  origin: Row<'guest'>,
  { copy, spread = 'beside', among = [], clones }: MakeClones,
): Wanted[] | Refusal {
  const count = clones.filter(({ hostId }) => !hostId).length;
  const seats = spreadClones(fleet, { origin, copy, count, how: spread, among });
  const placed = seats.filter((seat) => seat !== null);
  if (placed.length < count)
    return refuse({
      code: 'no-seat',
      field: 'spread',
      sentence: `There is room for ${placed.length} of these ${count} clones: no ${among.length ? 'host of those chosen' : 'other host'} has memory, processors, networks and a pool for one more.`,
      remedy: 'Make fewer, or choose their hosts yourself and write why.',
    });
  let next = 0;
  return clones.map(({ hostId, poolId }) => {
    const seat = hostId ? { hostId, poolId: null } : placed[next++]!;
    return { hostId: seat.hostId, poolId: poolId ?? seat.poolId ?? undefined };
  });
}

function cloneNames(fleet: Fleet, input: MakeClones, seats: readonly Wanted[]): string[] | Refusal {
  const written = input.clones.flatMap(({ name }, i) => (name ? [{ name, i }] : []));
  const own = new Set<string>();
  for (const { name, i } of written) {
    if (own.has(name.toLowerCase()))
      return refuse({
        code: 'name-twice',
        field: `clones.${i}.name`,
        sentence: `Two of these clones are called ${name}.`,
      });
    own.add(name.toLowerCase());
    const [other] = fleet.named(name);
    if (other)
      return refuse({
        code: 'name-taken',
        field: `clones.${i}.name`,
        sentence: `${name} is the name of another ${other.kind}.`,
        remedy: 'Choose another name, or empty the cell: the pattern gives one.',
      });
  }
  const pattern = readPattern(input.pattern.trim());
  if (input.pattern.trim() === '' || !pattern.ok)
    return refuse({
      code: 'bad-name',
      field: 'pattern',
      sentence: pattern.ok ? 'Write a name pattern, such as tide-{01..12}.' : pattern.sentence,
    });
  const slots = seats
    .filter((_, i) => !input.clones[i]!.name)
    .map(({ hostId }) => {
      const host = fleet.get('host', hostId);
      return { host: host?.name ?? '', site: fleet.get('site', host?.siteId ?? null)?.name ?? '' };
    });
  const made = namesOf(pattern, {
    slots,
    start: input.start,
    taken: (name) => own.has(name.toLowerCase()) || fleet.named(name).length > 0,
  });
  if (made.length < slots.length)
    return refuse({
      code: 'too-few-names',
      field: 'pattern',
      sentence: `${input.pattern.trim()} gives ${made.length} names that are free, ${slots.length} are needed.`,
      remedy: 'Write a longer range, or {n}, which counts on.',
    });
  let next = 0;
  return input.clones.map((clone) => clone.name ?? made[next++]!);
}

/** Per adapter one address for each clone; undefined where the origin's adapter has none. */
function addressColumns(
  fleet: Fleet,
  context: Context,
  adapters: Row<'adapter'>[],
  input: MakeClones,
): (string | undefined)[][] | Refusal {
  const taken = new Set<string>();
  const columns: (string | undefined)[][] = [];
  for (const [position, adapter] of adapters.entries()) {
    const chosen = input.clones.map((clone) =>
      position === 0 && clone.ip ? canonicalOr(clone.ip) : undefined,
    );
    const subnet = adapter.networkId ? firstSubnet(fleet, adapter.networkId) : undefined;
    for (const [i, ip] of chosen.entries()) {
      if (!ip) continue;
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
    const wanted = chosen.filter((ip) => ip === undefined).length;
    if (!subnet || wanted === 0 || fleet.referringCount('address', 'adapterId', adapter.id) === 0) {
      columns.push(chosen);
      continue;
    }
    const found = nextFree(fleet, subnet.id, {
      n: wanted,
      taking: input.taking,
      skip: taken,
      now: context.now,
      randomByte: context.randomByte,
    });
    if (found.length < wanted) return tooFew(subnet.prefix, wanted, found.length, input.taking);
    for (const ip of found) taken.add(ip);
    let next = 0;
    columns.push(chosen.map((ip) => ip ?? found[next++]));
  }
  return columns;
}

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

const addressFor = (ip: string | undefined): AdapterInput['address'] =>
  ip ? { as: 'given', ip } : { as: 'none' };

function canonicalOr(text: string): string {
  const read = canonical(text);
  return read.ok ? read.value : text;
}

function originObjections(origin: Row<'guest'>): Refusal[] {
  if (origin.state === 'stopped' || origin.template) return [];
  if (origin.state === 'in service') {
    return [
      objection({
        code: 'origin-running',
        field: 'originId',
        sentence: `${origin.name} is in service: the copy of a running disk may be torn.`,
        remedy: 'Stop it first, or write why the copy is sound.',
      }),
    ];
  }
  return [
    objection({
      code: 'origin-not-built',
      field: 'originId',
      sentence: `${origin.name} is ${origin.state}: there is no disk to copy yet.`,
      remedy: 'Build it first, or write why these clones are planned already.',
    }),
  ];
}
