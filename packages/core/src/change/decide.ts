/**
 * The one way to alter the record. `decide` is a pure function: fleet and change go in, patches or a refusal come out.
 * A change type is decided by the file of its subject; here it is only looked up, its objections are weighed against the
 * written reason, and the invariants are held.
 */
import { makeClones, tickItems } from '../clone/index.js';
import { takeList } from '../exchange/index.js';
import { forgetNames, takeNames } from '../names/index.js';
import {
  addAdapter,
  addUsualProfiles,
  addVolume,
  deleteVolume,
  editAdapter,
  editGuest,
  editGuests,
  editVolume,
  orderAdapters,
  planGuest,
  recordGuest,
  recordGuests,
  removeAdapter,
  retireGuest,
  setGuestState,
  swapAdapters,
  tickStep,
} from '../guest/index.js';
import {
  addInsideNetwork,
  carryNetwork,
  dropSwitch,
  editHost,
  editHosts,
  editPool,
  editPort,
  editSwitch,
  hostBuilt,
  recordHost,
  recordHosts,
  recordPool,
  removePlacementRule,
  setHardware,
  setPlacementRule,
  setUplinks,
  switchesAlike,
  takeFacts,
  verifyHost,
} from '../host/index.js';
import { planMigration, releaseHold, stepMigration } from '../migration/index.js';
import {
  editAddress,
  editNetwork,
  editSubnet,
  editSwitchPorts,
  endRest,
  joinSubnets,
  recordDevice,
  recordNetwork,
  recordNetworks,
  recordRange,
  recordSubnet,
  releaseAddress,
  removeNetwork,
  removeRange,
  removeSubnet,
  setAddress,
  setDevicePorts,
  setSwitchPorts,
  splitSubnet,
} from '../network/index.js';
import {
  brokenInvariant,
  isRefusal,
  refuse,
  type Decider,
  type Decision,
  type Edge,
  type Fleet,
  type LogEntry,
  type Outcome,
  type Refusal,
  type Role,
} from '../record/index.js';
import { beginRecord } from './begin.js';
import type { Change, ChangeType } from './change.js';
import { DEEDS } from './deeds.js';
import { addNote } from './note.js';
import { redact } from './redact.js';
import { recordSite } from './record-site.js';
import { editOne, recordOne, removeOne } from './stand-alone.js';
import { undo } from './undo.js';

type DecidedType = Exclude<ChangeType, 'undo'>;
type Deciders = { [T in DecidedType]: Decider<Extract<Change, { type: T }>> };

const DECIDERS: Deciders = {
  'record.begin': beginRecord,
  'site.record': recordSite,
  'host.record': recordHost,
  'host.record-many': recordHosts,
  'host.edit': editHost,
  'host.edit-many': editHosts,
  'host.set-hardware': setHardware,
  'host.take-facts': takeFacts,
  'host.verify': verifyHost,
  'host.built': hostBuilt,
  'rule.set': setPlacementRule,
  'rule.remove': removePlacementRule,
  'switch.set-uplinks': setUplinks,
  'one.record': recordOne,
  'one.edit': editOne,
  'one.remove': removeOne,
  'host.carry': carryNetwork,
  'host.drop-switch': dropSwitch,
  'host.add-inside': addInsideNetwork,
  'host.switches-alike': switchesAlike,
  'switch.edit': editSwitch,
  'port.edit': editPort,
  'physical-switch.set-ports': setSwitchPorts,
  'switch-port.edit': editSwitchPorts,
  'device.record': recordDevice,
  'device.set-ports': setDevicePorts,
  'pool.record': recordPool,
  'pool.edit': editPool,
  'network.record': recordNetwork,
  'network.record-many': recordNetworks,
  'network.remove': removeNetwork,
  'subnet.remove': removeSubnet,
  'subnet.split': splitSubnet,
  'subnet.join': joinSubnets,
  'network.edit': editNetwork,
  'subnet.record': recordSubnet,
  'subnet.edit': editSubnet,
  'range.record': recordRange,
  'range.remove': removeRange,
  'address.set': setAddress,
  'address.edit': editAddress,
  'address.release': releaseAddress,
  'address.end-rest': endRest,
  'list.take': takeList,
  'names.take': takeNames,
  'names.forget': forgetNames,
  'guest.plan': planGuest,
  'guest.record': recordGuest,
  'guest.edit': editGuest,
  'guest.set-state': setGuestState,
  'guest.edit-many': editGuests,
  'guest.record-many': recordGuests,
  'guest.retire': retireGuest,
  'guest.tick': tickStep,
  'profile.add-usual': addUsualProfiles,
  'volume.add': addVolume,
  'volume.edit': editVolume,
  'volume.delete': deleteVolume,
  'adapter.edit': editAdapter,
  'adapter.add': addAdapter,
  'adapter.remove': removeAdapter,
  'adapter.swap': swapAdapters,
  'adapter.order': orderAdapters,
  'clone.make': makeClones,
  'clone.tick': tickItems,
  'migration.plan': planMigration,
  'migration.step': stepMigration,
  'hold.release': releaseHold,
  'log.note': addNote,
  'attachment.redact': redact,
};

/** What `decide` may need beyond the fleet: for an undo, the entry to be undone. */
export interface Context {
  entry?: LogEntry;
}

const ADMINISTRATORS: ReadonlySet<ChangeType> = new Set(['record.begin', 'attachment.redact']);
/** Changes that say something without altering a row. */
const WORDS_ONLY: ReadonlySet<ChangeType> = new Set(['log.note', 'attachment.redact']);

/** Role it takes to ask for a change. */
export function roleFor(type: ChangeType): Role {
  return ADMINISTRATORS.has(type) ? 'administrator' : 'planner';
}

const RANK: Record<Role, number> = { reader: 0, planner: 1, administrator: 2 };
export const mayAsk = (role: Role, type: ChangeType): boolean => RANK[role] >= RANK[roleFor(type)];

export function decide(
  fleet: Fleet,
  change: Change,
  edge: Edge,
  context: Context = {},
): Decision | Refusal {
  const outcome = draft(fleet, change, edge, context);
  if (isRefusal(outcome)) return outcome;
  const patches = outcome.draft.patches();
  const broken = brokenInvariant(fleet, patches);
  if (broken) return broken;
  if (patches.length === 0 && !WORDS_ONLY.has(change.type)) {
    return refuse({ code: 'nothing-changed', sentence: 'This is what the record says already.' });
  }
  const objections = outcome.objections ?? [];
  const overridden = Boolean(change.override?.trim());
  if (objections[0] && !overridden) return objections[0];
  return { patches, title: outcome.title, subjects: outcome.subjects, overridden: objections };
}

function draft(fleet: Fleet, change: Change, edge: Edge, context: Context): Outcome | Refusal {
  if (change.type === 'undo') return undo(fleet, change, edge, context.entry);
  const decider = DECIDERS[change.type] as Decider<Change>;
  return decider(fleet, change, edge);
}

/** All objections a plan meets, without deciding it: for a screen that shows consequences while one types. */
export function objectionsTo(fleet: Fleet, change: Change, edge: Edge): Refusal[] {
  const outcome = draft(fleet, change, edge, {});
  if (isRefusal(outcome)) return [outcome];
  const broken = brokenInvariant(fleet, outcome.draft.patches());
  return broken ? [broken] : (outcome.objections ?? []);
}

/** Whether an entry of this type can be undone at all. */
export const undoable = (type: string): boolean => !DEEDS.has(type);
