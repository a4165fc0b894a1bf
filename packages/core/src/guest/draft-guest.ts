/** Drafting a guest with its volumes, adapters and addresses: shared by planning, recording and cloning. */
import { foundName, parseName } from '../address/index.js';
import { reaches } from '../host/index.js';
import { processorFit } from '../placement/index.js';
import type { GuestInput, VolumeInput } from './guest-input.js';
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
import { type AdapterParts, draftAdapter, GivenOut, OBJECTION } from './draft-adapter.js';

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
