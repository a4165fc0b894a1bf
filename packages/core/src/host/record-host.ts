import { parseName } from '../address/index.js';
import { giveAddress } from '../network/give-address.js';
import { draftOf, isRefusal, refuse, tidy, type ChangeBase, type Decider, type NewFields, type Refusal } from '../record/index.js';

/** Records a host as it is or as it is planned, with its own pool, the networks it carries and its management address. */
export interface RecordHost extends ChangeBase {
  type: 'host.record';
  fields: NewFields<'host'>;
  pools: { name: string; usableBytes: number; promiseLimitPercent?: number }[];
  /** Pools of others that this host reaches too. */
  reaches?: string[];
  networks?: { networkId: string; mode?: 'bridged' | 'NAT' | 'host and guests' | 'guests only' | 'routed' }[];
  management?: { ip?: string; networkId?: string };
}

export const recordHost: Decider<RecordHost> = (fleet, change, edge) => {
  const name = parseName(String(change.fields.name ?? ''));
  if (!name.ok) return refuse({ code: 'bad-name', field: 'name', sentence: name.sentence, remedy: name.suggestion && `Write ${name.suggestion}.` });
  const draft = draftOf(fleet, edge);
  const planned = change.fields.state === 'planned' || change.fields.state === 'building';
  const hostId = draft.create('host', { ...tidy('host', change.fields), name: name.value, nameAssigned: planned });
  for (const pool of change.pools) {
    const poolId = draft.create('pool', pool);
    draft.create('poolReach', { poolId, hostId });
  }
  for (const poolId of change.reaches ?? []) draft.create('poolReach', { poolId, hostId });
  for (const { networkId, mode = 'bridged' } of change.networks ?? []) {
    draft.create('virtualSwitch', { hostId, networkId, mode, name: fleet.get('network', networkId)?.name ?? 'network' });
  }
  let objections: Refusal[] = [];
  if (change.management) {
    const given = giveAddress(fleet, draft, {
      holder: { hostId },
      networkId: change.management.networkId ?? null,
      ip: change.management.ip,
      assigned: planned || change.management.ip === undefined,
      purpose: 'management',
      field: 'management.ip',
    });
    if (isRefusal(given)) return given;
    objections = planned ? given.objections : [];
  }
  return {
    draft,
    title: `recorded host ${name.value}`,
    subjects: [{ kind: 'host', id: hostId, name: name.value }],
    objections,
  };
};
