/** Every change that can be asked of the record, and the role it takes to ask. */
import type { MakeClones, TickItems } from '../clone/index.js';
import type { TakeList } from '../exchange/index.js';
import type { ForgetNames, TakeNames } from '../names/index.js';
import type {
  AddAdapter,
  AddUsualProfiles,
  AddVolume,
  DeleteVolume,
  EditAdapter,
  EditGuest,
  EditGuests,
  EditVolume,
  OrderAdapters,
  PlanGuest,
  RecordGuest,
  RecordGuests,
  RemoveAdapter,
  RetireGuest,
  SetGuestState,
  SwapAdapters,
  TickStep,
} from '../guest/index.js';
import type {
  AddInsideNetwork,
  CarryNetwork,
  DropSwitch,
  EditHost,
  EditHosts,
  EditPool,
  EditPort,
  EditSwitch,
  HostBuilt,
  RecordHost,
  RecordHosts,
  RecordPool,
  RemovePlacementRule,
  SetHardware,
  SetPlacementRule,
  SetUplinks,
  SwitchesAlike,
  TakeFacts,
  VerifyHost,
} from '../host/index.js';
import type { PlanMigration, ReleaseHold, StepMigration } from '../migration/index.js';
import type {
  EditAddress,
  EditNetwork,
  EditSubnet,
  EditSwitchPorts,
  EndRest,
  JoinSubnets,
  RecordDevice,
  RecordNetwork,
  RecordNetworks,
  RecordRange,
  RecordSubnet,
  ReleaseAddress,
  RemoveNetwork,
  RemoveRange,
  RemoveSubnet,
  SetAddress,
  SetDevicePorts,
  SetSwitchPorts,
  SplitSubnet,
} from '../network/index.js';
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
  | EditSwitch
  | AddInsideNetwork
  | SwitchesAlike
  | EditPort
  | SetSwitchPorts
  | EditSwitchPorts
  | SetDevicePorts
  | RecordDevice
  | RecordNetwork
  | RecordNetworks
  | RemoveNetwork
  | RemoveSubnet
  | SplitSubnet
  | JoinSubnets
  | EditNetwork
  | RecordSubnet
  | EditSubnet
  | RecordRange
  | RemoveRange
  | SetAddress
  | EditAddress
  | ReleaseAddress
  | EndRest
  | TakeList
  | TakeNames
  | ForgetNames
  | PlanGuest
  | RecordGuest
  | EditGuest
  | SetGuestState
  | EditGuests
  | RecordGuests
  | RetireGuest
  | TickStep
  | AddUsualProfiles
  | AddVolume
  | EditVolume
  | DeleteVolume
  | EditAdapter
  | AddAdapter
  | RemoveAdapter
  | SwapAdapters
  | OrderAdapters
  | MakeClones
  | TickItems
  | PlanMigration
  | StepMigration
  | ReleaseHold
  | AddNote
  | Redact
  | Undo;

export type ChangeType = Change['type'];
