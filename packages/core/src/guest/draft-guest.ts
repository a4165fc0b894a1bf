/** Drafting a guest with its volumes, adapters and addresses: shared by planning, recording and cloning. */
import { generateMac, parseMac, foundName, parseName, macComplaint } from '../address/index.js';
import { carriesNetwork } from '../host/pool.js';
import { reaches } from '../host/pool.js';
import { processorFit, type ProcessorPoint } from '../placement/processor-fit.js';
import { giveAddress } from '../network/give-address.js';
import { macBlockAt } from '../network/mac-block.js';
import type { AdapterInput, GuestInput, VolumeInput } from './guest-input.js';
import {
  isRefusal,
  objection,
  refuse,
  type Draft,
  type Context,
  type Fleet,
  type NewFields,
  type Refusal,
  type Row,
} from '../record/index.js';

/** What is said of a copy: what is planned is plugged in, and has its address set inside. */
type AdapterParts = AdapterInput & {
  connected?: boolean;
  use?: Row<'address'>['use'];
  /** Of a sub-interface: the place of the adapter that it travels over. */
  trunk?: number;
};

/** A guest to be drafted: its own fields apart from its parts. */
export interface GuestParts {
  fields: NewFields<'guest'>;
  /** `baseId` is the volume that a dependent clone shares blocks with. */
  volumes: readonly (VolumeInput & { baseId?: string | null })[];
  adapters: readonly AdapterParts[];
  mediumIds?: readonly string[];
}

export function partsOf({ volumes, adapters, mediumIds, ...fields }: GuestInput): GuestParts {
  return { fields, volumes, adapters, mediumIds };
}

/** MACs and addresses given out earlier in the same change. */
export class GivenOut {
  readonly ips = new Set<string>();
  readonly macs = new Set<string>();
}

export interface DraftedGuest {
  guestId: string;
  objections: Refusal[];
}

/**
 * Drafts a guest. With `assigned` its name, MACs and addresses are given out by Insel and therefore unique, and
 * objections of planning are collected; without, everything is taken as found.
 */
export function draftGuest(
  fleet: Fleet,
  draft: Draft,
  context: Context,
  input: GuestParts,
  assigned: boolean,
  givenOut = new GivenOut(),
): DraftedGuest | Refusal {
  const name = (assigned ? parseName : foundName)(String(input.fields.name ?? ''));
  if (!name.ok)
    return refuse({
      code: 'bad-name',
      field: 'name',
      sentence: name.sentence,
      remedy: name.suggestion && `Write ${name.suggestion}.`,
    });
  const hostId = String(input.fields.hostId ?? '');
  const host = fleet.get('host', hostId);
  if (!host)
    return refuse({
      code: 'no-such-record',
      field: 'hostId',
      sentence: 'Choose a host from the record.',
    });
  const guestId = draft.create('guest', {
    ...input.fields,
    name: name.value,
    nameAssigned: assigned,
  });
  const objections: Refusal[] = assigned ? processorObjections(input.fields, host) : [];
  for (const [i, volume] of input.volumes.entries()) {
    const { poolId, bytes, thin, bus, use, split, baseId } = volume;
    draft.create('volume', {
      guestId,
      poolId,
      bytes,
      thin: thin ?? false,
      bus,
      use,
      split,
      baseId,
      label: volume.label || `disk ${i + 1}`,
    });
    if (assigned && fleet.get('pool', volume.poolId) && !reaches(fleet, hostId, volume.poolId)) {
      const pool = fleet.need('pool', volume.poolId).name;
      objections.push(
        objection({
          code: 'pool-out-of-reach',
          field: `volumes.${i}.poolId`,
          sentence: `${host.name} does not reach pool ${pool}.`,
          remedy: 'Choose a pool that it reaches.',
        }),
      );
    }
  }
  const adapterIds: string[] = [];
  for (const [i, adapter] of input.adapters.entries()) {
    const made = draftAdapter(fleet, draft, context, {
      guestId,
      hostId,
      adapter,
      position: i,
      assigned,
      givenOut,
      objections,
    });
    if (isRefusal(made)) return made;
    adapterIds.push(made.adapterId);
  }
  for (const [i, { trunk }] of input.adapters.entries())
    if (trunk !== undefined)
      draft.update('adapter', adapterIds[i]!, { trunkId: adapterIds[trunk]! });
  for (const mediumId of new Set(input.mediumIds)) draft.create('drive', { guestId, mediumId });
  return { guestId, objections };
}

/**
 * What its processors ask of a host that the host does not have, or is not known to have.
 * @param from where its disk was made, if it has one
 */
export function processorObjections(
  fields: NewFields<'guest'>,
  host: Row<'host'>,
  from: Row<'host'> | null = null,
): Refusal[] {
  const guest = {
    name: String(fields.name ?? 'It'),
    processorMode: fields.processorMode ?? 'unknown',
    nestedVirtualisation: fields.nestedVirtualisation ?? false,
  };
  const points = processorFit(guest, null, host, 'new');
  if (from) points.push(...processorFit(guest, from, host, 'stopped').filter(({ never }) => never));
  return points
    .filter((point) => point.fits === false)
    .map(({ name, never, sentence, remedy }) =>
      (never ? refuse : objection)({
        code: OBJECTION[name].code,
        field: OBJECTION[name].field,
        sentence,
        remedy,
      }),
    );
}

const OBJECTION: Readonly<Record<ProcessorPoint['name'], { code: string; field: string }>> = {
  architecture: { code: 'other-architecture', field: 'hostId' },
  level: { code: 'level-missing', field: 'processorMode' },
  'processor model': { code: 'other-processor', field: 'hostId' },
  'nested virtualisation': { code: 'no-virtualisation', field: 'nestedVirtualisation' },
};

interface AdapterDraft {
  guestId: string;
  hostId: string;
  adapter: AdapterParts;
  position: number;
  assigned: boolean;
  givenOut: GivenOut;
  objections: Refusal[];
}

function draftAdapter(
  fleet: Fleet,
  draft: Draft,
  context: Context,
  one: AdapterDraft,
): Refusal | { adapterId: string } {
  const { guestId, hostId, adapter, position, assigned, givenOut, objections } = one;
  const field = `adapters.${position}`;
  const mac =
    adapter.trunk === undefined
      ? chooseMac(
          fleet,
          context,
          macBlockAt(fleet, hostId),
          adapter.mac,
          assigned,
          givenOut,
          `${field}.mac`,
        )
      : null;
  if (isRefusal(mac)) return mac;
  const network = fleet.get('network', adapter.networkId);
  if (assigned && network && !carriesNetwork(fleet, hostId, network.id)) {
    objections.push(
      objection({
        code: 'network-not-carried',
        field: `${field}.networkId`,
        sentence: `${fleet.need('host', hostId).name} does not carry ${network.name}.`,
        remedy: 'Record the network on the host, choose another, or write why this will do.',
      }),
    );
  }
  const adapterId = draft.create('adapter', {
    guestId,
    networkId: adapter.networkId,
    position,
    mac,
    macAssigned: assigned && mac !== null,
    model: adapter.model,
    nameInside: adapter.nameInside,
    masquerade: adapter.masquerade,
    masqueradeFrom: adapter.masqueradeFrom,
    connected: adapter.connected,
  });
  if (adapter.address.as === 'none') return { adapterId };
  const given = giveAddress(fleet, draft, {
    holder: { adapterId },
    networkId: adapter.networkId ?? null,
    ip: adapter.address.as === 'given' ? adapter.address.ip : undefined,
    assigned: assigned || adapter.address.as === 'next',
    use: adapter.use,
    field: `${field}.ip`,
    skip: givenOut.ips,
    now: context.now,
    randomByte: context.randomByte,
  });
  if (isRefusal(given)) return given;
  givenOut.ips.add(given.ip);
  if (assigned) objections.push(...given.objections);
  return { adapterId };
}

function chooseMac(
  fleet: Fleet,
  context: Context,
  block: string,
  given: string | undefined,
  assigned: boolean,
  givenOut: GivenOut,
  field: string,
): string | null | Refusal {
  if (given === undefined || given.trim() === '') {
    if (!assigned) return null;
    const mac = generateMac(
      (found) => givenOut.macs.has(found) || fleet.macHolders(found).length > 0,
      context.randomByte,
      block,
    );
    givenOut.macs.add(mac);
    return mac;
  }
  const read = parseMac(given);
  if (!read.ok) return refuse({ code: 'bad-mac', field, sentence: read.sentence });
  const complaint = assigned ? macComplaint(read.value) : undefined;
  if (complaint)
    return refuse({
      code: 'bad-mac',
      field,
      sentence: complaint,
      remedy: 'Leave it empty to have one generated.',
    });
  return read.value;
}
