/** Every change that can be asked of the record, and the role it takes to ask. */
import type { MakeClones, TickItems } from '../clone/index.js';
import type { AddVolume, DeleteVolume, EditAdapter, EditGuest, EditVolume, PlanGuest, RecordGuest, SetGuestState } from '../guest/index.js';
import type { CarryNetwork, DropSwitch, EditHost, EditHosts, EditPool, HostBuilt, RecordHost, RecordHosts, RecordPool, RemovePlacementRule, SetHardware, SetPlacementRule, SetUplinks, TakeFacts, VerifyHost } from '../host/index.js';
import type { PlanMigration, ReleaseHold, StepMigration } from '../migration/index.js';
import type { EditNetwork, EditSubnet, RecordNetwork, RecordRange, RecordSubnet, ReleaseAddress, RemoveRange, SetAddress } from '../network/index.js';
import type { BeginRecord } from './begin.js';
import type { AddNote } from './note.js';
import type { RecordSite } from './record-site.js';
import type { Redact } from './redact.js';
import type { EditOne, RecordOne, RemoveOne } from './stand-alone.js';
import type { Undo } from './undo.js';

export type Change =
  | BeginRecord
  | RecordSite
  | RecordHost
  | RecordHosts
  | EditHost
  | EditHosts
  | SetHardware
  | TakeFacts
  | VerifyHost
  | HostBuilt
  | SetPlacementRule
  | RemovePlacementRule
  | SetUplinks
  | RecordOne
  | EditOne
  | RemoveOne
  | RecordPool
  | EditPool
  | CarryNetwork
  | DropSwitch
  | RecordNetwork
  | EditNetwork
  | RecordSubnet
  | EditSubnet
  | RecordRange
  | RemoveRange
  | SetAddress
  | ReleaseAddress
  | PlanGuest
  | RecordGuest
  | EditGuest
  | SetGuestState
  | AddVolume
  | EditVolume
  | DeleteVolume
  | EditAdapter
  | MakeClones
  | TickItems
  | PlanMigration
  | StepMigration
  | ReleaseHold
  | AddNote
  | Redact
  | Undo;

export type ChangeType = Change['type'];
