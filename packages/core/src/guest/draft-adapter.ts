/** An adapter of a guest that is drafted: its model, its MAC, its address. */
import { carriesNetwork } from '../host/index.js';
import { generateMac, parseMac, macComplaint } from '../address/index.js';
import { giveAddress, macBlockAt } from '../network/index.js';
import type { ProcessorPoint } from '../placement/index.js';
import {
  type Context,
  type Draft,
  type Fleet,
  type Row,
  type Refusal,
  isRefusal,
  objection,
  refuse,
} from '../record/index.js';
import type { AdapterInput } from './guest-input.js';

export const OBJECTION: Readonly<Record<ProcessorPoint['name'], { code: string; field: string }>> =
  {
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

/** What is said of a copy: what is planned is plugged in, and has its address set inside. */
export type AdapterParts = AdapterInput & {
  connected?: boolean;
  use?: Row<'address'>['use'];
  /** Of a sub-interface: the place of the adapter that it travels over. */
  trunk?: number;
};

export function draftAdapter(
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

/** MACs and addresses given out earlier in the same change. */
export class GivenOut {
  readonly ips = new Set<string>();
  readonly macs = new Set<string>();
}
