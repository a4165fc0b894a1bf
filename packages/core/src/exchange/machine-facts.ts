/** What was understood of a machine, whichever way the facts came: each value is known, or null. Never 0 for unknown. */
import type { Row } from '../record/index.js';

export type ModuleFact = Pick<Row<'memoryModule'>, 'slot' | 'sizeMiB' | 'speed'>;
export type NodeFact = Pick<Row<'numaNode'>, 'node' | 'cores' | 'memoryMiB'>;
/** The class is a guess from "rotating": a person corrects it once, and later facts keep that. */
export type DiskFact = Pick<Row<'disk'>, 'bay' | 'model' | 'serial' | 'bytes' | 'class'>;
/** What lies on a disk, as far as its system shows it; null: it does not. */
export interface DiskUse {
  bay: string;
  sectorBytes: number | null;
  usedBytes: number | null;
  encrypted: boolean | null;
  softwareArray: boolean | null;
}
export type PortFact = Pick<
  Row<'port'>,
  'name' | 'connector' | 'wired' | 'bitsPerSecond' | 'mac' | 'card'
>;

export interface MachineFacts {
  hostName: string | null;
  domain: string | null;
  machineModel: string | null;
  serial: string | null;
  architecture: Row<'host'>['architecture'] | null;
  processorModel: string | null;
  sockets: number | null;
  coresPerSocket: number | null;
  threadsPerCore: number | null;
  baseMhz: number | null;
  flags: string | null;
  virtualisation: Row<'host'>['virtualisation'] | null;
  installedMiB: number | null;
  visibleMiB: number | null;
  bootMode: Row<'host'>['bootMode'] | null;
  secureBoot: Row<'host'>['secureBoot'] | null;
  powerSupplies: number | null;
  modules: ModuleFact[] | null;
  nodes: NodeFact[] | null;
  disks: DiskFact[] | null;
  /** Disks on which the system itself lies: they are offered as no pool. */
  systemBays: string[];
  diskUse: DiskUse[];
  ports: PortFact[] | null;
  addresses: { port: string; mac: string | null; ip: string; prefixLength: number }[];
  gateway: string | null;
  nameServers: string[];
  /** Said where the machine is itself a guest: its flags are the masked ones, its capacity is its host's. */
  isGuest: string | null;
  isLaptop: string | null;
  /** What could not be read. */
  unread: string[];
}

export const NO_FACTS: MachineFacts = {
  hostName: null,
  domain: null,
  machineModel: null,
  serial: null,
  architecture: null,
  processorModel: null,
  sockets: null,
  coresPerSocket: null,
  threadsPerCore: null,
  baseMhz: null,
  flags: null,
  virtualisation: null,
  installedMiB: null,
  visibleMiB: null,
  bootMode: null,
  secureBoot: null,
  powerSupplies: null,
  modules: null,
  nodes: null,
  disks: null,
  systemBays: [],
  diskUse: [],
  ports: null,
  addresses: [],
  gateway: null,
  nameServers: [],
  isGuest: null,
  isLaptop: null,
  unread: [],
};

export type FactsResult =
  { ok: true; facts: MachineFacts; from: string } | { ok: false; sentence: string };
