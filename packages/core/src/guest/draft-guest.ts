/** Drafting a guest with its volumes, adapters and addresses: shared by planning, recording and cloning. */
import { generateMac, parseMac, parseName, macComplaint } from '../address/index.js';
import { carriesNetwork } from '../host/pool.js';
import { reaches } from '../host/pool.js';
import { giveAddress } from '../network/give-address.js';
import { macBlockAt } from '../network/mac-block.js';
import {
  isRefusal,
  object,
  refuse,
  type Draft,
  type Edge,
  type Fleet,
  type NewFields,
  type Refusal,
  type Row,
} from '../record/index.js';

export interface VolumeInput {
  poolId: string;
  bytes: number;
  label?: string;
  thin?: boolean;
  bus?: Row<'volume'>['bus'];
  use?: Row<'volume'>['use'];
  split?: boolean;
  /** Volume that a dependent clone shares blocks with. */
  baseId?: string | null;
}

export interface AdapterInput {
  networkId: string | null;
  /** Left out: planning generates one, recording leaves it unknown. */
  mac?: string;
  model?: Row<'adapter'>['model'];
  nameInside?: string;
  masquerade?: boolean;
  /** Next free, a chosen one, or none. */
  address: { take: 'next' } | { take: 'given'; ip: string } | { take: 'none' };
}

export interface GuestInput {
  fields: NewFields<'guest'>;
  volumes: VolumeInput[];
  adapters: AdapterInput[];
  /** Install images put into its drives, connected at power-on. */
  mediumIds?: string[];
}

/** Names, MACs and addresses promised earlier in the same change. */
export class Promised {
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
  edge: Edge,
  input: GuestInput,
  assigned: boolean,
  promised = new Promised(),
): DraftedGuest | Refusal {
  const name = parseName(String(input.fields.name ?? ''));
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
  const objections: Refusal[] = [];
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
        object({
          code: 'pool-out-of-reach',
          field: `volumes.${i}.poolId`,
          sentence: `${host.name} does not reach pool ${pool}.`,
          remedy: 'Choose a pool that it reaches.',
        }),
      );
    }
  }
  for (const [i, adapter] of input.adapters.entries()) {
    const fault = draftAdapter(fleet, draft, edge, {
      guestId,
      hostId,
      adapter,
      position: i,
      assigned,
      promised,
      objections,
    });
    if (fault) return fault;
  }
  for (const mediumId of new Set(input.mediumIds)) draft.create('drive', { guestId, mediumId });
  return { guestId, objections };
}

interface AdapterContext {
  guestId: string;
  hostId: string;
  adapter: AdapterInput;
  position: number;
  assigned: boolean;
  promised: Promised;
  objections: Refusal[];
}

function draftAdapter(
  fleet: Fleet,
  draft: Draft,
  edge: Edge,
  context: AdapterContext,
): Refusal | undefined {
  const { guestId, hostId, adapter, position, assigned, promised, objections } = context;
  const field = `adapters.${position}`;
  const mac = chooseMac(
    fleet,
    edge,
    macBlockAt(fleet, hostId),
    adapter.mac,
    assigned,
    promised,
    `${field}.mac`,
  );
  if (isRefusal(mac)) return mac;
  const network = fleet.get('network', adapter.networkId);
  if (assigned && network && !carriesNetwork(fleet, hostId, network.id)) {
    objections.push(
      object({
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
  });
  if (adapter.address.take === 'none') return undefined;
  const given = giveAddress(fleet, draft, {
    holder: { adapterId },
    networkId: adapter.networkId,
    ip: adapter.address.take === 'given' ? adapter.address.ip : undefined,
    assigned: assigned || adapter.address.take === 'next',
    field: `${field}.ip`,
    skip: promised.ips,
    now: edge.now,
    randomByte: edge.randomByte,
  });
  if (isRefusal(given)) return given;
  promised.ips.add(given.ip);
  if (assigned) objections.push(...given.objections);
  return undefined;
}

function chooseMac(
  fleet: Fleet,
  edge: Edge,
  block: string,
  given: string | undefined,
  assigned: boolean,
  promised: Promised,
  field: string,
): string | null | Refusal {
  if (given === undefined || given.trim() === '') {
    if (!assigned) return null;
    const mac = generateMac(
      (found) => promised.macs.has(found) || fleet.macHolders(found).length > 0,
      edge.randomByte,
      block,
    );
    promised.macs.add(mac);
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
