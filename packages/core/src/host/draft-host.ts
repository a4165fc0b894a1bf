/** Drafting a host with its pools, switches, addresses and parts: shared by recording one and several. */
import { foundName, parseName } from '../address/index.js';
import { giveAddress } from '../network/index.js';
import {
  isRefusal,
  refuse,
  tidy,
  type Context,
  type Draft,
  type Fleet,
  type Refusal,
} from '../record/index.js';
import { draftHardware } from './draft-hardware.js';
import type { HostInput } from './host-input.js';
import { OUT_OF_BAND } from './management.js';

export interface DraftedHost {
  hostId: string;
  name: string;
  objections: Refusal[];
}

/** @param taken addresses given out earlier in the same change; this host's are added */
export function draftHost(
  fleet: Fleet,
  draft: Draft,
  context: Context,
  input: HostInput,
  taken: Set<string> = new Set(),
): DraftedHost | Refusal {
  const {
    name: given,
    pools,
    reaches = [],
    networks = [],
    management,
    outOfBand,
    hardware,
    ...fields
  } = input;
  const planned = fields.state === 'planned' || fields.state === 'building';
  const name = (planned ? parseName : foundName)(given);
  if (!name.ok)
    return refuse({
      code: 'bad-name',
      field: 'name',
      sentence: name.sentence,
      remedy: name.suggestion && `Write ${name.suggestion}.`,
    });
  const hostId = draft.create('host', {
    ...tidy('host', fields),
    name: name.value,
    nameAssigned: planned,
    networkChangedAt: context.now,
  });
  for (const pool of pools) {
    const poolId = draft.create('pool', pool);
    draft.create('poolReach', { poolId, hostId });
  }
  for (const poolId of reaches) draft.create('poolReach', { poolId, hostId });
  for (const { networkId, mode = 'bridged' } of networks) {
    draft.create('virtualSwitch', {
      hostId,
      networkId,
      mode,
      name: fleet.get('network', networkId)?.name ?? 'network',
    });
  }
  const fault = hardware && draftHardware(fleet, draft, hostId, hardware);
  if (fault) return fault;
  const objections: Refusal[] = [];
  const give = (
    field: string,
    purpose: string,
    networkId: string | undefined,
    ip: string | undefined,
    prefixLength?: number,
  ): Refusal | undefined => {
    const assigned = planned || ip === undefined;
    const found = giveAddress(fleet, draft, {
      holder: { hostId },
      networkId: networkId ?? null,
      ip,
      prefixLength,
      assigned,
      purpose,
      field,
      skip: taken,
      now: context.now,
      randomByte: context.randomByte,
    });
    if (isRefusal(found)) return found;
    taken.add(found.ip);
    if (planned) objections.push(...found.objections);
    return undefined;
  };
  if (management) {
    const { networkId, ip, prefixLength } = management;
    const refused = give('management.ip', 'management', networkId, ip, prefixLength ?? undefined);
    if (refused) return refused;
  }
  if (outOfBand) {
    const refused = give('outOfBand.ip', OUT_OF_BAND, undefined, outOfBand.ip);
    if (refused) return refused;
  }
  return { hostId, name: name.value, objections };
}
