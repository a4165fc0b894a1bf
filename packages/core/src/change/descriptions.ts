/** Every change that there is, by its type. A new one is a line here and a line in `deciders.ts`; both are demanded by the compiler. */
import {
  makeClones,
  tickItems,
  promoteClones,
  recordCloneTimes,
  remakeClones,
  takeProof,
  newVersion,
} from '../clone/index.js';
import {
  beginTemplate,
  editVersion,
  retireVersion,
  sealVersion,
  tickSealItems,
} from '../template/index.js';
import { drawProgramme } from '../consolidation/index.js';
import { setComputer } from '../computer/index.js';
import { takeComputerFacts, takeFacts, takeList } from '../exchange/index.js';
import {
  approvePlan,
  carryOutStep,
  copyPlan,
  drawStep,
  keepStep,
  orderSteps,
  pausePlan,
  resumePlan,
  splitPlan,
  tickPlanStep,
} from '../plan/index.js';
import { drawBatch, drawMoves } from '../rearrange/index.js';
import { acceptFinding, endAcceptance } from '../finding/index.js';
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
  setGuestStates,
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
  setCords,
  setHardware,
  setPlacementRule,
  setUplinks,
  switchesAlike,
  verifyHost,
} from '../host/index.js';
import {
  editMigration,
  answerCause,
  planFromPhysical,
  planMigration,
  planToPhysical,
  pauseMigration,
  resumeMigration,
  setTimes,
  releaseHold,
  stepMigration,
  takeReading,
  tickMove,
} from '../migration/index.js';
import { forgetNames, takeNames } from '../names/index.js';
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
  type Description,
  type InputOf,
  type Role,
  STAND_ALONE_DESCRIPTIONS,
} from '../record/index.js';
import { addNote } from './add-note.js';
import { beginRecord } from './begin-record.js';
import { redactAttachment } from './redact-attachment.js';
import { undo } from './undo.js';

export const DESCRIPTIONS = {
  ...STAND_ALONE_DESCRIPTIONS,
  'adapter.add': addAdapter,
  'adapter.edit': editAdapter,
  'adapter.order': orderAdapters,
  'adapter.remove': removeAdapter,
  'adapter.swap': swapAdapters,
  'address.edit': editAddress,
  'address.end-rest': endRest,
  'address.release': releaseAddress,
  'address.set': setAddress,
  'clone.make': makeClones,
  'clone.tick': tickItems,
  'clone.promote': promoteClones,
  'clone.record-times': recordCloneTimes,
  'clone.remake': remakeClones,
  'guest.take-proof': takeProof,
  'template.begin': beginTemplate,
  'template.edit-version': editVersion,
  'template.new-version': newVersion,
  'template.retire-version': retireVersion,
  'template.seal': sealVersion,
  'template.tick': tickSealItems,
  'computer.set': setComputer,
  'computer.take-facts': takeComputerFacts,
  'device.record': recordDevice,
  'device.set-ports': setDevicePorts,
  'finding.accept': acceptFinding,
  'plan-step.draw': drawStep,
  'plan.order': orderSteps,
  'plan.copy': copyPlan,
  'plan.draw-moves': drawMoves,
  'plan.draw-batch': drawBatch,
  'plan.draw-programme': drawProgramme,
  'plan.split': splitPlan,
  'plan.approve': approvePlan,
  'plan.pause': pausePlan,
  'plan.resume': resumePlan,
  'plan-step.keep': keepStep,
  'plan-step.tick': tickPlanStep,
  'plan-step.carry-out': carryOutStep,
  'finding.end-acceptance': endAcceptance,
  'guest.edit': editGuest,
  'guest.edit-many': editGuests,
  'guest.plan': planGuest,
  'guest.record': recordGuest,
  'guest.record-many': recordGuests,
  'guest.retire': retireGuest,
  'guest.set-state': setGuestState,
  'guest.set-state-many': setGuestStates,
  'guest.tick': tickStep,
  'hold.release': releaseHold,
  'host.add-inside': addInsideNetwork,
  'host.built': hostBuilt,
  'host.carry': carryNetwork,
  'host.drop-switch': dropSwitch,
  'host.edit': editHost,
  'host.edit-many': editHosts,
  'host.record': recordHost,
  'host.record-many': recordHosts,
  'host.set-hardware': setHardware,
  'host.set-cords': setCords,
  'host.switches-alike': switchesAlike,
  'host.take-facts': takeFacts,
  'host.verify': verifyHost,
  'list.take': takeList,
  'migration.edit': editMigration,
  'migration.plan': planMigration,
  'migration.plan-from-physical': planFromPhysical,
  'migration.plan-to-physical': planToPhysical,
  'migration.pause': pauseMigration,
  'migration.resume': resumeMigration,
  'migration.set-times': setTimes,
  'migration.step': stepMigration,
  'migration.tick': tickMove,
  'migration.answer': answerCause,
  'migration.take-reading': takeReading,
  'names.forget': forgetNames,
  'names.take': takeNames,
  'network.edit': editNetwork,
  'network.record': recordNetwork,
  'network.record-many': recordNetworks,
  'network.remove': removeNetwork,
  'physical-switch.set-ports': setSwitchPorts,
  'pool.edit': editPool,
  'pool.record': recordPool,
  'port.edit': editPort,
  'profile.add-usual': addUsualProfiles,
  'range.record': recordRange,
  'range.remove': removeRange,
  'rule.remove': removePlacementRule,
  'rule.set': setPlacementRule,
  'subnet.edit': editSubnet,
  'subnet.join': joinSubnets,
  'subnet.record': recordSubnet,
  'subnet.remove': removeSubnet,
  'subnet.split': splitSubnet,
  'switch-port.edit': editSwitchPorts,
  'switch.edit': editSwitch,
  'switch.set-uplinks': setUplinks,
  'volume.add': addVolume,
  'volume.delete': deleteVolume,
  'volume.edit': editVolume,
  'record.begin': beginRecord,
  'log.note': addNote,
  'attachment.redact': redactAttachment,
  undo: undo,
} as const;
type Descriptions = typeof DESCRIPTIONS;
export type ChangeType = keyof Descriptions;
/** What is given to a change of that type. */
export type Input<T extends ChangeType> = InputOf<Descriptions[T]['input']>;

/** The description of a type, of whatever shape its input is; undefined for a type that this version does not know. */
export const descriptionOf = (type: string): Description | undefined =>
  Object.hasOwn(DESCRIPTIONS, type)
    ? (DESCRIPTIONS[type as ChangeType] as unknown as Description)
    : undefined;

export const CHANGE_TYPES = Object.keys(DESCRIPTIONS) as ChangeType[];

/** Whether an entry of this type can be undone at all. */
export const undoable = (type: string): boolean => descriptionOf(type)?.undoable ?? false;

const RANK: Record<Role, number> = { reader: 0, planner: 1, administrator: 2 };
export const mayAsk = (role: Role, type: string): boolean =>
  RANK[role] >= RANK[descriptionOf(type)?.role ?? 'administrator'];
