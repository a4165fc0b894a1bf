import { parseName } from '../address/index.js';
import { OUT_OF_BAND } from './management.js';
import { draftHardware, type HardwareInput } from './set-hardware.js';
import { giveAddress } from '../network/give-address.js';
import {
  draftOf,
  isRefusal,
  refuse,
  tidy,
  type ChangeBase,
  type Decider,
  type Draft,
  type Edge,
  type Fleet,
  type NewFields,
  type Refusal,
} from '../record/index.js';

/** What a host is recorded with: its own pool, the networks it carries, its management address, its parts. */
export interface HostInput {
  fields: NewFields<'host'>;
  pools: { name: string; usableBytes: number; promiseLimitPercent?: number }[];
  /** Pools of others that this host reaches too. */
  reaches?: string[];
  networks?: {
    networkId: string;
    mode?: 'bridged' | 'NAT' | 'host and guests' | 'guests only' | 'routed';
  }[];
  management?: { ip?: string; networkId?: string; prefixLength?: number };
  /** Address of the out-of-band controller. */
  outOfBand?: { ip: string };
  hardware?: HardwareInput;
}

/** Records a host as it is or as it is planned. */
export interface RecordHost extends ChangeBase, HostInput {
  type: 'host.record';
}

export const recordHost: Decider<RecordHost> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const drafted = draftHost(fleet, draft, edge, change);
  if (isRefusal(drafted)) return drafted;
  return {
    draft,
    title: `recorded host ${drafted.name}`,
    subjects: [{ kind: 'host', id: drafted.hostId, name: drafted.name }],
    objections: drafted.objections,
  };
};

/** Most hosts in one change. */
export const MOST_HOSTS = 500;

/** Records many hosts at once, all or none: from a table, or several alike. A refusal names the row as `hosts.<n>`. */
export interface RecordHosts extends ChangeBase {
  type: 'host.record-many';
  hosts: HostInput[];
}

export const recordHosts: Decider<RecordHosts> = (fleet, change, edge) => {
  if (change.hosts.length === 0)
    return refuse({ code: 'none', field: 'hosts', sentence: 'There is no host to record here.' });
  if (change.hosts.length > MOST_HOSTS)
    return refuse({
      code: 'too-many',
      field: 'hosts',
      sentence: `At most ${MOST_HOSTS} hosts at once, not ${change.hosts.length}.`,
    });
  const draft = draftOf(fleet, edge);
  const taken = new Set<string>();
  const names = new Map<string, number>();
  const objections: Refusal[] = [];
  const subjects = [];
  for (const [i, input] of change.hosts.entries()) {
    const at = <T extends Refusal>(refusal: T): T => ({
      ...refusal,
      field: `hosts.${i}${refusal.field ? `.${refusal.field}` : ''}`,
    });
    const drafted = draftHost(fleet, draft, edge, input, taken);
    if (isRefusal(drafted)) return at(drafted);
    const twin = names.get(drafted.name.toLowerCase());
    if (twin !== undefined)
      return refuse({
        code: 'name-taken',
        field: `hosts.${i}.name`,
        sentence: `${drafted.name} stands in row ${twin + 1} and row ${i + 1}.`,
      });
    names.set(drafted.name.toLowerCase(), i);
    objections.push(...drafted.objections.map(at));
    subjects.push({ kind: 'host' as const, id: drafted.hostId, name: drafted.name });
  }
  return {
    draft,
    title:
      `recorded ${subjects.length} hosts: ${subjects.map(({ name }) => name).join(', ')}`.slice(
        0,
        200,
      ),
    subjects: subjects.slice(0, 50),
    objections,
  };
};

export interface DraftedHost {
  hostId: string;
  name: string;
  objections: Refusal[];
}

/** @param taken addresses given out earlier in the same change; this host's are added */
export function draftHost(
  fleet: Fleet,
  draft: Draft,
  edge: Edge,
  input: HostInput,
  taken: Set<string> = new Set(),
): DraftedHost | Refusal {
  const name = parseName(String(input.fields.name ?? ''));
  if (!name.ok)
    return refuse({
      code: 'bad-name',
      field: 'name',
      sentence: name.sentence,
      remedy: name.suggestion && `Write ${name.suggestion}.`,
    });
  const planned = input.fields.state === 'planned' || input.fields.state === 'building';
  const hostId = draft.create('host', {
    ...tidy('host', input.fields),
    name: name.value,
    nameAssigned: planned,
    networkChangedAt: edge.now,
  });
  for (const pool of input.pools) {
    const poolId = draft.create('pool', pool);
    draft.create('poolReach', { poolId, hostId });
  }
  for (const poolId of input.reaches ?? []) draft.create('poolReach', { poolId, hostId });
  for (const { networkId, mode = 'bridged' } of input.networks ?? []) {
    draft.create('virtualSwitch', {
      hostId,
      networkId,
      mode,
      name: fleet.get('network', networkId)?.name ?? 'network',
    });
  }
  const fault = input.hardware && draftHardware(fleet, draft, hostId, input.hardware);
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
    const given = giveAddress(fleet, draft, {
      holder: { hostId },
      networkId: networkId ?? null,
      ip,
      prefixLength,
      assigned,
      purpose,
      field,
      skip: taken,
      now: edge.now,
      randomByte: edge.randomByte,
    });
    if (isRefusal(given)) return given;
    taken.add(given.ip);
    if (planned) objections.push(...given.objections);
    return undefined;
  };
  if (input.management) {
    const refused = give(
      'management.ip',
      'management',
      input.management.networkId,
      input.management.ip,
      input.management.prefixLength,
    );
    if (refused) return refused;
  }
  if (input.outOfBand) {
    const refused = give('outOfBand.ip', OUT_OF_BAND, undefined, input.outOfBand.ip);
    if (refused) return refused;
  }
  return { hostId, name: name.value, objections };
}
