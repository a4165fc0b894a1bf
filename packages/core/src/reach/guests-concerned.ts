/** Which machines have to be built anew after a change: rows of the record, by what a guest in the topology is made of. */
import type { Altered, Fleet, Kind } from '../record/index.js';

export interface Concerned {
  guests: ReadonlySet<string>;
  /** Whether anything is that is no guest's: hosts, equipment and what is drawn between them. */
  others: boolean;
}

type AnyRow = NonNullable<Altered['before']>;
type GuestsOf = (fleet: Fleet, row: AnyRow, id: string) => Iterable<string>;

/** Guests whose machine says something of the row; of kinds that are left out, no guest's does. */
const GUESTS_OF: Partial<Record<Kind, GuestsOf>> = {
  guest: (_, __, id) => [id],
  adapter: owner,
  address: owner,
  // What translates for a guest alone has the routes and ports of its host.
  route: ownerOrHosted,
  forwardedPort: ownerOrHosted,
  host: (fleet, _, id) => onHost(fleet, id),
  virtualSwitch: (fleet, { hostId }) => onHost(fleet, hostId as string),
  network: (fleet, _, id) => inNetwork(fleet, id),
  *subnet(fleet, { networkId }, id) {
    yield* inNetwork(fleet, networkId as string);
    for (const address of fleet.referring('address', 'subnetId', id))
      yield* owner(fleet, { ...address });
  },
  *platform(fleet, _, id) {
    for (const host of fleet.referring('host', 'platformId', id)) yield* onHost(fleet, host.id);
  },
};

/** Of these a row that is a guest's concerns nobody else. */
const PARTS: readonly Kind[] = ['adapter', 'address', 'route', 'forwardedPort'];
/** So many are built sooner than all. */
const FEW = 200;

/** @returns null: most of all guests are */
export function guestsConcerned(fleet: Fleet, altered: readonly Altered[]): Concerned | null {
  const guests = new Set<string>();
  let others = false;
  const most = FEW + fleet.count('guest') / 2;
  for (const { kind, id, before, after } of altered)
    for (const row of [before, after]) {
      if (!row) continue;
      for (const guest of GUESTS_OF[kind]?.(fleet, row, id) ?? []) guests.add(guest);
      if (guests.size > most) return null;
      others ||= kind !== 'guest' && !(PARTS.includes(kind) && owner(fleet, row).length > 0);
    }
  return { guests, others };
}

/** Of a part of a guest, the guest; none of what is a host's or a device's. */
function owner(fleet: Fleet, { guestId, adapterId }: AnyRow): string[] {
  if (typeof guestId === 'string') return [guestId];
  const adapter = typeof adapterId === 'string' ? fleet.get('adapter', adapterId) : undefined;
  return adapter ? [adapter.guestId] : [];
}

function ownerOrHosted(fleet: Fleet, row: AnyRow): string[] {
  return typeof row.hostId === 'string' ? onHost(fleet, row.hostId) : owner(fleet, row);
}

const onHost = (fleet: Fleet, hostId: string): string[] =>
  fleet.referring('guest', 'hostId', hostId).map(({ id }) => id);

const inNetwork = (fleet: Fleet, networkId: string): string[] =>
  fleet.referring('adapter', 'networkId', networkId).map(({ guestId }) => guestId);
