/** Virtual and physical switches, cables, devices, static routes. */
import { DEVICE_KINDS, DEVICE_STATES, KINDS, type Row } from '@insel/core';
import { ChangeExtras } from './extras.js';
import { SWITCH_MODES } from './hosts.js';
import {
  Clearable,
  Flag,
  Id,
  Ids,
  Name,
  OneOf,
  Optional,
  Parts,
  Text,
  Texts,
  Whole,
  Wholes,
} from './rules.js';

class SwitchFields extends ChangeExtras {
  @Clearable() @Id() siteId?: string | null;
  @Clearable() @Id() rackId?: string | null;
  @Optional() @Text() model?: string;
  @Optional() @Whole(68, 65_535) mtu?: number;
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
}
export class RecordPhysicalSwitchBody extends SwitchFields {
  @Name() name!: string;
}
export class EditPhysicalSwitchBody extends SwitchFields {
  @Optional() @Name() name?: string;
}

export class SwitchPortPart {
  @Name() name!: string;
  @Clearable() @Whole(1) bitsPerSecond?: number | null;
  @Clearable() @Whole(1, 4094) untaggedVlan?: number | null;
  /** Such as 10-12,20. */
  @Optional() @Text(2000) taggedVlans?: string;
  @Optional() @Flag() up?: boolean;
  @Optional() @Text() purpose?: string;
}
export class SetSwitchPortsBody extends ChangeExtras {
  @Parts(() => SwitchPortPart, 1024) ports!: SwitchPortPart[];
}
export class EditSwitchPortsBody extends ChangeExtras {
  @Ids(1024) ids!: string[];
  @Clearable() @Whole(1, 4094) untaggedVlan?: number | null;
  @Optional() @Text(2000) taggedVlans?: string;
  @Optional() @Flag() up?: boolean;
  @Optional() @Text() purpose?: string;
  /** Carried with a tag beside those carried already. */
  @Optional() @Wholes(1, 4094) addVlans?: number[];
}

class LineFields extends ChangeExtras {
  @Optional() @Flag() up?: boolean;
  @Optional() @Text(20_000) notes?: string;
}
export class RecordLineBody extends LineFields {
  @Name() name!: string;
  @Id() aPortId!: string;
  @Id() bPortId!: string;
}
export class EditLineBody extends LineFields {
  @Optional() @Name() name?: string;
}

class RoutingFields extends ChangeExtras {
  @Clearable() @Text(50) gateway?: string | null;
  @Clearable() @Text(50) gateway6?: string | null;
  @Optional() @Flag() noGateway?: boolean;
  @Optional() @Flag() gatewayOnLink?: boolean;
  @Optional() @Flag() forwards?: boolean;
}

class DeviceFields extends RoutingFields {
  @Optional() @OneOf(DEVICE_STATES) state?: Row<'device'>['state'];
  @Clearable() @Id() siteId?: string | null;
  @Optional() @Text() model?: string;
  @Optional() @Text(253) domain?: string;
  @Optional() @Texts(20) unread?: string[];
  @Optional() @Text(20_000) notes?: string;
  @Optional() @Texts() labels?: string[];
  @Optional() @Text(100) owner?: string;
}
export class FoundAddress {
  @Text(50) ip!: string;
  @Clearable() @Whole(0, 128) prefixLength?: number | null;
}
export class DevicePortPart {
  @Name() name!: string;
  @Clearable() @Id() networkId?: string | null;
  @Clearable() @Text(20) mac?: string | null;
  @Optional() @Flag() up?: boolean;
  @Optional() @Flag() tagged?: boolean;
  @Clearable() @Id() switchPortId?: string | null;
  @Optional() @Flag() outside?: boolean;
  @Optional() @Flag() masquerade?: boolean;
  @Optional() @Text() purpose?: string;
  @Optional() @Parts(() => FoundAddress, 32) addresses?: FoundAddress[];
}
export class RecordDeviceBody extends DeviceFields {
  @Name() name!: string;
  @OneOf(DEVICE_KINDS) kind!: Row<'device'>['kind'];
  @Parts(() => DevicePortPart) ports!: DevicePortPart[];
}
export class EditDeviceBody extends DeviceFields {
  @Optional() @Name() name?: string;
  @Optional() @OneOf(DEVICE_KINDS) kind?: Row<'device'>['kind'];
}
export class SetDevicePortsBody extends ChangeExtras {
  @Parts(() => DevicePortPart) ports!: DevicePortPart[];
}

export class RecordRouteBody extends ChangeExtras {
  @Optional() @Id() hostId?: string;
  @Optional() @Id() guestId?: string;
  @Optional() @Id() deviceId?: string;
  @Text(50) destination!: string;
  @Text(50) via!: string;
  @Optional() @Text() purpose?: string;
}

export class EditPortBody extends ChangeExtras {
  @Clearable() @Id() switchPortId?: string | null;
  @Optional() @Flag() up?: boolean;
  @Optional() @Text() pluggedInto?: string;
  @Optional() @Flag() management?: boolean;
  @Optional() @Text() card?: string;
}

export class EditVirtualSwitchBody extends ChangeExtras {
  @Optional() @Name() name?: string;
  @Optional() @OneOf(SWITCH_MODES) mode?: Row<'virtualSwitch'>['mode'];
  @Optional() @Flag() untagged?: boolean;
  @Optional()
  @OneOf(KINDS.virtualSwitch.fields.bundle!.choices!)
  bundle?: Row<'virtualSwitch'>['bundle'];
}
export class AddInsideNetworkBody extends ChangeExtras {
  @Name() name!: string;
  @OneOf(SWITCH_MODES.filter((mode) => mode !== 'bridged')) mode!: Exclude<
    Row<'virtualSwitch'>['mode'],
    'bridged'
  >;
  @Text(50) prefix!: string;
}
export class SwitchesAlikeBody extends ChangeExtras {
  @Id() likeId!: string;
  @Ids(500) hostIds!: string[];
}

export class AddAdapterBody extends ChangeExtras {
  @Clearable() @Id() networkId!: string | null;
  @Optional() @Text(20) mac?: string;
  @OneOf(['next', 'given', 'none']) take!: 'next' | 'given' | 'none';
  @Optional() @Text(50) ip?: string;
}
export class SwapAdaptersBody extends ChangeExtras {
  @Id() aId!: string;
  @Id() bId!: string;
}
