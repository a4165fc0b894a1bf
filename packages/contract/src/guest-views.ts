/** What the server answers with about guests and their clones. */
import type { Expectation, Figure, Finding, Row, StateEffect } from '@insel/core';
import type { DriveView, SnapshotView } from './guest-lifecycle-views.js';
import type {
  AddressView,
  BackupView,
  FindingMark,
  MigrationListRow,
  Named,
  NeedView,
} from './shared-views.js';

export interface GuestListRow extends Named, Expectation {
  state: Row<'guest'>['state'];
  template: boolean;
  family: string;
  host: Named;
  vcpu: number;
  memoryMiB: number;
  volumeBytes: number;
  address: string;
  /** Memory left on its host, MiB. */
  headroomMiB: number;
  openItems: number;
  role: string;
  owner: string;
  endDate: string | null;
  finding: FindingMark | null;
}

export interface AdapterView extends Row<'adapter'> {
  network: Named | null;
  /** Of a sub-interface: the place of the adapter that it travels over, from 0. */
  trunk: number | null;
  addresses: AddressView[];
  /** Link-local IPv6 address that its MAC makes; empty without a MAC. */
  linkLocal: string;
  /** What the guest calls it, or is expected to; empty where nobody can say. */
  inside: { name: string; expected: boolean };
  /** Virtual switch of its host that carries the network, and the network's VLAN id. */
  switchName: string;
  vlanId: number | null;
  /** Of a router: the side with the gateway, or the other one. */
  side: 'outside' | 'inside' | null;
}

export interface IdentityView {
  cloneId: string;
  origin: Named;
  copy: string;
  madeAt: string;
  items: Row<'identityItem'>[];
}

export interface GuestSheet {
  guest: Row<'guest'>;
  host: Named;
  /** Clock of its site: IANA name; UTC where nobody said. */
  zone: string;
  demand: Figure;
  group: Named | null;
  volumes: (Row<'volume'> & {
    pool: Named;
    base: (Named & { guest: Named }) | null;
    dependents: number;
  })[];
  drives: DriveView[];
  snapshots: SnapshotView[];
  /** Steps of its build ticked, and all of them; its first checks. */
  build: { done: number; total: number; passed: number; failed: string[]; last: string | null };
  adapters: AdapterView[];
  identity: IdentityView | null;
  clones: Named[];
  migrations: MigrationListRow[];
  /** What may follow, with what it needs and frees. */
  states: StateEffect[];
  /** What to know before its adapters are altered; empty where nothing is. */
  adapterCaution: string;
  routes: Row<'route'>[];
  forwardedPorts: Row<'forwardedPort'>[];
  /** What must be up before it starts its work. */
  needs: NeedView[];
  fullName: string;
  backups: BackupView[];
  findings: Finding[];
}
