/** A guest drafted as a copy of another: what it takes over, what it is given anew. Clones and new versions are made so. */
import { draftGuest, type DraftedGuest, type GivenOut, type AdapterInput } from '../guest/index.js';
import type { Context, Draft, Fleet, NewFields, Refusal, Row } from '../record/index.js';
import { copiedOf } from './inheritance.js';

/** A guest with its parts, read once for all its copies. */
export interface Origin {
  guest: Row<'guest'>;
  volumes: readonly Row<'volume'>[];
  /** In their order. */
  adapters: readonly Row<'adapter'>[];
  routes: readonly Row<'route'>[];
  forwardedPorts: readonly Row<'forwardedPort'>[];
  needs: readonly Row<'dependency'>[];
}

export function originOf(fleet: Fleet, guest: Row<'guest'>): Origin {
  return {
    guest,
    volumes: fleet.referring('volume', 'guestId', guest.id),
    adapters: fleet
      .referring('adapter', 'guestId', guest.id)
      .sort((a, b) => a.position - b.position),
    routes: fleet.referring('route', 'guestId', guest.id),
    forwardedPorts: fleet.referring('forwardedPort', 'guestId', guest.id),
    needs: fleet.referring('dependency', 'guestId', guest.id),
  };
}

export interface CopyWish {
  name: string;
  hostId: string;
  /** Left out: where the origin's volumes lie. */
  poolId?: string;
  dependent: boolean;
  fields?: NewFields<'guest'>;
  /** For each adapter, in their order. */
  adapters: readonly (Pick<AdapterInput, 'address' | 'mac'> & { use?: Row<'address'>['use'] })[];
}

/** Place of an adapter among them; undefined for none. */
const placeIn = (adapters: Origin['adapters'], id: string | null): number | undefined =>
  id === null ? undefined : adapters.findIndex((adapter) => adapter.id === id);

export function copyGuest(
  fleet: Fleet,
  draft: Draft,
  context: Context,
  { guest, volumes, adapters, routes, forwardedPorts, needs }: Origin,
  wish: CopyWish,
  givenOut?: GivenOut,
): DraftedGuest | Refusal {
  const drafted = draftGuest(
    fleet,
    draft,
    context,
    {
      fields: {
        ...copiedOf('guest', guest),
        ...wish.fields,
        name: wish.name,
        hostId: wish.hostId,
        state: 'planned',
        bootFirst: guest.bootFirst === 'unknown' ? 'unknown' : 'disk',
      },
      volumes: volumes.map((volume) => ({
        ...copiedOf('volume', volume),
        poolId: wish.poolId ?? volume.poolId,
        thin: volume.thin || wish.dependent,
        baseId: wish.dependent ? volume.id : null,
      })),
      adapters: adapters.map((adapter, i) => ({
        ...copiedOf('adapter', adapter),
        networkId: adapter.networkId ?? undefined,
        trunk: placeIn(adapters, adapter.trunkId),
        ...wish.adapters[i]!,
      })),
    },
    true,
    givenOut,
  );
  if ('refused' in drafted) return drafted;
  const copy = { guestId: drafted.guestId };
  for (const route of routes) draft.create('route', { ...copiedOf('route', route), ...copy });
  for (const port of forwardedPorts)
    draft.create('forwardedPort', { ...copiedOf('forwardedPort', port), ...copy });
  for (const need of needs)
    draft.create('dependency', { ...copiedOf('dependency', need), ...copy });
  return drafted;
}
