import { canonical, namesFrom } from '../address/index.js';
import { draftGuest, Promised, type AdapterInput } from '../guest/draft-guest.js';
import { roomObjections } from '../host/room.js';
import { firstSubnet, nextFree } from '../network/subnet.js';
import {
  draftOf,
  IDENTITY_ITEMS,
  isRefusal,
  noSuch,
  object,
  refuse,
  type ChangeBase,
  type Decider,
  type Edge,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';

/** What one clone gets; what is left out follows from pattern, origin and the next free run. */
export interface CloneWish {
  name?: string;
  hostId?: string;
  poolId?: string;
  /** Address of the first adapter. */
  ip?: string;
}

/** Makes copies of a guest, each with a name, fresh MACs, an address of its own and an open list of identity items. */
export interface MakeClones extends ChangeBase {
  type: 'clone.make';
  originId: string;
  copy: 'full' | 'dependent';
  /** "#" stands for the number. */
  pattern: string;
  start: number;
  /** Consecutive addresses, or the lowest ones wherever they lie. */
  taking: 'run' | 'single';
  clones: CloneWish[];
}

/** More at once would be a plan of its own. */
export const MOST_CLONES = 200;

export const makeClones: Decider<MakeClones> = (fleet, change, edge) => {
  const origin = fleet.get('guest', change.originId);
  if (!origin) return noSuch('guest');
  const count = change.clones.length;
  if (count < 1 || count > MOST_CLONES)
    return refuse({
      code: 'how-many',
      field: 'count',
      sentence: `Make 1 to ${MOST_CLONES} clones at a time.`,
    });
  const adapters = fleet
    .referring('adapter', 'guestId', origin.id)
    .sort((a, b) => a.position - b.position);
  const names = cloneNames(fleet, change, count);
  if (isRefusal(names)) return names;
  const columns = addressColumns(fleet, edge, adapters, change);
  if (isRefusal(columns)) return columns;
  const volumes = fleet.referring('volume', 'guestId', origin.id);
  const draft = draftOf(fleet, edge);
  const promised = new Promised();
  const objections: Refusal[] = originObjections(origin);
  const subjects = [{ kind: 'guest' as const, id: origin.id, name: origin.name }];
  const places = { hosts: new Set<string>(), pools: new Set<string>() };
  for (const [i, wish] of change.clones.entries()) {
    const hostId = wish.hostId ?? origin.hostId;
    const drafted = draftGuest(
      fleet,
      draft,
      edge,
      {
        fields: {
          name: names[i]!,
          hostId,
          state: 'planned',
          family: origin.family,
          purpose: origin.purpose,
          vcpu: origin.vcpu,
          memoryMiB: origin.memoryMiB,
          heldWhenStopped: origin.heldWhenStopped,
          processorMode: origin.processorMode,
          profileId: origin.profileId,
          firmware: origin.firmware,
          bootFirst: origin.bootFirst === 'unknown' ? 'unknown' : 'disk',
          graphics: origin.graphics,
          startSeconds: origin.startSeconds,
          labels: origin.labels,
        },
        volumes: volumes.map((volume) => ({
          ...volume,
          poolId: wish.poolId ?? volume.poolId,
          thin: volume.thin || change.copy === 'dependent',
          baseId: change.copy === 'dependent' ? volume.id : null,
        })),
        adapters: adapters.map((adapter, position) => ({
          networkId: adapter.networkId,
          model: adapter.model,
          nameInside: adapter.nameInside,
          address: addressFor(columns[position]![i]),
        })),
      },
      true,
      promised,
    );
    if (isRefusal(drafted))
      return { ...drafted, field: drafted.field && `clones.${i}.${drafted.field}` };
    objections.push(
      ...drafted.objections.map((objection) => ({
        ...objection,
        field: `clones.${i}.${objection.field}`,
      })),
    );
    places.hosts.add(hostId);
    for (const volume of volumes) places.pools.add(wish.poolId ?? volume.poolId);
    const cloneId = draft.create('clone', {
      guestId: drafted.guestId,
      originId: origin.id,
      copy: change.copy,
      madeAt: edge.now,
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

/** What a copy must be given anew: what its profile says, or everything. */
function identityOf(
  fleet: Fleet,
  origin: Row<'guest'>,
): readonly (typeof IDENTITY_ITEMS)[number][] {
  const wanted = fleet.get('profile', origin.profileId)?.identity ?? [];
  const known = IDENTITY_ITEMS.filter((item) => wanted.includes(item));
  return known.length ? known : IDENTITY_ITEMS;
}

function cloneNames(fleet: Fleet, change: MakeClones, count: number): string[] | Refusal {
  const own = new Set(
    change.clones.flatMap((clone) => (clone.name ? [clone.name.toLowerCase()] : [])),
  );
  if (own.size < change.clones.filter((clone) => clone.name).length) {
    return refuse({
      code: 'name-twice',
      field: 'clones',
      sentence: 'Two of these clones have the same name.',
    });
  }
  if (change.pattern.trim() === '')
    return refuse({
      code: 'bad-name',
      field: 'pattern',
      sentence: 'Write a name pattern, such as tide-##.',
    });
  const made = namesFrom(
    change.pattern.trim(),
    count,
    change.start,
    (name) => own.has(name.toLowerCase()) || fleet.named(name).length > 0,
  );
  let next = 0;
  return change.clones.map((clone) => clone.name ?? made[next++]!);
}

/** Per adapter one address for each clone; undefined where the origin's adapter has none. */
function addressColumns(
  fleet: Fleet,
  edge: Edge,
  adapters: Row<'adapter'>[],
  change: MakeClones,
): (string | undefined)[][] | Refusal {
  const taken = new Set<string>();
  const columns: (string | undefined)[][] = [];
  for (const [position, adapter] of adapters.entries()) {
    const chosen = change.clones.map((clone) =>
      position === 0 && clone.ip ? canonicalOr(clone.ip) : undefined,
    );
    for (const ip of chosen) if (ip) taken.add(ip);
    const subnet = adapter.networkId ? firstSubnet(fleet, adapter.networkId) : undefined;
    const wanted = chosen.filter((ip) => ip === undefined).length;
    if (!subnet || wanted === 0 || fleet.referringCount('address', 'adapterId', adapter.id) === 0) {
      columns.push(chosen);
      continue;
    }
    const found = nextFree(fleet, subnet.id, {
      n: wanted,
      taking: change.taking,
      skip: taken,
      now: edge.now,
      randomByte: edge.randomByte,
    });
    if (found.length < wanted) return tooFew(subnet.prefix, wanted, found.length, change.taking);
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
  ip ? { take: 'given', ip } : { take: 'none' };

function canonicalOr(text: string): string {
  const read = canonical(text);
  return read.ok ? read.value : text;
}

function originObjections(origin: Row<'guest'>): Refusal[] {
  if (origin.state === 'stopped' || origin.template) return [];
  if (origin.state === 'in service') {
    return [
      object({
        code: 'origin-running',
        field: 'originId',
        sentence: `${origin.name} is in service: the copy of a running disk may be torn.`,
        remedy: 'Stop it first, or write why the copy is sound.',
      }),
    ];
  }
  return [
    object({
      code: 'origin-not-built',
      field: 'originId',
      sentence: `${origin.name} is ${origin.state}: there is no disk to copy yet.`,
      remedy: 'Build it first, or write why these clones are planned already.',
    }),
  ];
}
