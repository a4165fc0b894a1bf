/** The kinds of record, each described once. A new kind is added here and nowhere else in the machinery. */
import { plan, planStep } from './plan.js';
import type { Field } from '../field.js';
import { acceptance } from './acceptance.js';
import { backup, hostBuild, medium, verification, verificationTest } from './upkeep.js';
import { clone, identityItem } from './clone.js';
import { computer, computerDisk } from './computer.js';
import { device, devicePort, forwardedPort, route } from './device.js';
import { adapter, guest, volume } from './guest.js';
import { buildTick, drive, guestGroup, snapshot } from './guest-lifecycle.js';
import { array, disk, memoryModule, numaNode, port } from './hardware.js';
import { hostGroup, placementMember, placementRule } from './host-group.js';
import { host, pool, poolReach, uplink, virtualSwitch } from './host.js';
import { hold, migration, moveAnswer, moveReading, moveStep, volumeMove } from './migration.js';
import { nameRecord, quarantine } from './names.js';
import { address, network, networkSite, range, routingDomain, subnet } from './network.js';
import { powerCord, powerFeed, rack, site } from './place.js';
import { platform } from './platform.js';
import { profile } from './profile.js';
import { dependency, provider, service } from './start.js';
import { entitlement, identityFact, sealItem, template, templateVersion } from './template.js';
import { physicalSwitch, switchLine, switchPort } from './wiring.js';

export { IDENTITY_ITEMS } from './clone.js';
export { COMPUTER_WORK, DRIVERS, ENCRYPTIONS } from './computer.js';
export { DEVICE_KINDS, DEVICE_STATES } from './device.js';
export {
  ADAPTER_MODELS,
  BOOT_FIRST,
  CRITICALITIES,
  DISK_BUSES,
  FAMILIES,
  PROCESSOR_MODES,
  GUEST_STATES,
} from './guest.js';
export { ARRAY_LEVELS, DISK_CLASSES } from './hardware.js';
export { HOST_STATES } from './host.js';
export { MIGRATION_STATES, MOVE_METHODS, MOVE_PHASES, SIGNS } from './migration.js';
export { ADDRESS_POLICIES } from './network.js';
export { ARCHITECTURES } from './platform.js';
export { SERVICE_KINDS } from './start.js';
export { ENTITLEMENT_UNITS, FACT_KINDS, SEAL_ITEMS } from './template.js';

/** In an order in which references point backwards, so that rows can be written from first to last. */
const described = {
  site,
  rack,
  powerFeed,
  platform,
  profile,
  hostGroup,
  guestGroup,
  routingDomain,
  network,
  networkSite,
  subnet,
  range,
  quarantine,
  physicalSwitch,
  switchPort,
  switchLine,
  host,
  powerCord,
  memoryModule,
  numaNode,
  array,
  disk,
  port,
  pool,
  medium,
  poolReach,
  virtualSwitch,
  uplink,
  guest,
  volume,
  drive,
  snapshot,
  buildTick,
  adapter,
  device,
  devicePort,
  computer,
  computerDisk,
  address,
  route,
  forwardedPort,
  placementRule,
  placementMember,
  backup,
  verification,
  verificationTest,
  hostBuild,
  clone,
  identityItem,
  template,
  templateVersion,
  sealItem,
  entitlement,
  identityFact,
  migration,
  volumeMove,
  moveStep,
  moveReading,
  moveAnswer,
  hold,
  nameRecord,
  service,
  provider,
  dependency,
  acceptance,
  plan,
  planStep,
} as const;

type Described = typeof described;
export type Kind = keyof Described;

type ValueOf<F> = F extends Field<infer T> ? T : never;
export type FieldsOf<K extends Kind> = {
  readonly [N in keyof Described[K]['fields']]: ValueOf<Described[K]['fields'][N]>;
};

/** A row of the record: its fields, its id (UUIDv7) and the revision that last altered it. */
export type Row<K extends Kind = Kind> = {
  readonly id: string;
  readonly revision: number;
} & FieldsOf<K>;

/** Fields of a creation: those with an initial value may be left out. */
export type NewFields<K extends Kind> = Partial<FieldsOf<K>>;

export interface KindSpec {
  fields: Readonly<Record<string, Field<unknown>>>;
  /** Field that names the record this row is part of; that record's revision follows it. */
  owner?: string;
}

export const KINDS: Readonly<Record<Kind, KindSpec>> = described;
/** Fields of a kind, with their types. */
export const fieldsOf = <K extends Kind>(kind: K): Described[K]['fields'] => described[kind].fields;
export const KIND_NAMES = Object.keys(described) as Kind[];

/** Fields of a kind that refer to other records, with the kind they refer to. */
export const REFERENCES: Readonly<Record<Kind, readonly { field: string; to: Kind }[]>> =
  Object.fromEntries(
    KIND_NAMES.map((kind) => [
      kind,
      Object.entries(KINDS[kind].fields)
        .filter(([, field]) => field.type === 'ref')
        .map(([field, spec]) => ({ field, to: spec.to as Kind })),
    ]),
  ) as Record<Kind, { field: string; to: Kind }[]>;
