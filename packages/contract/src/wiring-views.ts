/** What the server answers about switches, devices, names and the patch table. */
import type {
  AsGuest,
  Expectation,
  Figure,
  Finding,
  ListRow,
  NamedKind,
  ReadNames,
  Row,
} from '@insel/core';
import type { AddressView, FindingMark, Named } from './shared-views.js';

export interface SwitchPortView extends Row<'switchPort'> {
  /** Who is at the other end of its cable; null: nobody recorded. */
  cable: {
    kind: 'host' | 'device' | 'physicalSwitch';
    id: string;
    name: string;
    port: string;
  } | null;
}

export interface PhysicalSwitchView extends Row<'physicalSwitch'> {
  site: Named | null;
  rack: Named | null;
  ports: SwitchPortView[];
  findings: Finding[];
}

export interface LineView extends Row<'switchLine'> {
  a: Named & { port: string };
  b: Named & { port: string };
}

export interface DevicePortView extends Row<'devicePort'> {
  network: Named | null;
  addresses: AddressView[];
}

export interface ComputerView {
  /** Null: nothing is recorded of its hardware yet. */
  sheet: Row<'computer'> | null;
  disks: Row<'computerDisk'>[];
  asGuest: AsGuest;
  /** Its moves, into a guest or of a guest onto it, the newest first. */
  moves: {
    id: string;
    guest: Named;
    state: Row<'migration'>['state'];
    into: 'guest' | 'computer';
  }[];
}

export interface DeviceView extends Row<'device'> {
  /** Of a computer. */
  computer: ComputerView | null;
  site: Named | null;
  ports: DevicePortView[];
  routes: Row<'route'>[];
  forwardedPorts: Row<'forwardedPort'>[];
  fullName: string;
  findings: Finding[];
}

/** Any machine that has a place in the network. */
export interface MachineListRow extends Named {
  kind: NamedKind;
  address: string;
}

export interface DeviceListRow extends Named, Expectation {
  kind: Row<'device'>['kind'];
  state: Row<'device'>['state'];
  addresses: string[];
  finding: FindingMark | null;
}

/** Ports of hosts with what can be plugged where. */
export interface PlugView {
  switches: { id: string; name: string; ports: (Named & { taken: boolean })[] }[];
}

export interface PatchCell {
  /** Mode, or empty where the network is not carried. */
  mode: string;
  ports: string;
  /** What is wrong with it, in words; empty where nothing is. */
  fault: string;
  /** A path that can fail alone. */
  single: boolean;
}

export interface PatchTableView {
  networks: (Named & { vlanId: number | null; site: string })[];
  rows: (Named & { site: string; path: string; cells: PatchCell[] })[];
  /** Hosts there are in all, of which the rows are a window. */
  total: number;
}

export interface SiteView extends Named {
  revision: number;
  macBlock: string;
  /** IANA name; empty: nobody said. */
  timeZone: string;
  workWindow: string;
  /** MACs assigned in its block, and the chance that another record repeats one. */
  assignedMacs: number;
  repetition: Figure;
}

export interface SubnetOfDomain {
  id: string;
  prefix: string;
  network: Named;
  domainId: string;
  domainName: string;
}

export interface ZoneFilesView {
  serial: number | null;
  files: { name: string; fileName: string; text: string }[];
}

export interface ReadNamesView extends ReadNames {
  /** How many of them say what the record says. */
  agree: number;
  /** What differs, name by name, at most 200. */
  differ: { line: number; sentence: string }[];
}

export interface NameSourceView {
  source: string;
  names: number;
}

export interface ListPreviewView {
  rows: ListRow[];
  faults: number;
}
