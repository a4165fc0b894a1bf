/**
 * What a clone takes from its origin, field by field: copied as it is; renewed, since it is given its own; or left, since
 * it was said of the origin alone. A field of these kinds without an answer does not compile.
 */
import type { FieldsOf, Row } from '../record/index.js';

type Answer = 'copied' | 'renewed' | 'left';
type Answers<K extends 'guest' | 'volume' | 'adapter' | 'route' | 'forwardedPort' | 'dependency'> =
  {
    readonly [N in keyof FieldsOf<K>]: Answer;
  };

const guest = {
  name: 'renewed',
  nameAssigned: 'renewed',
  state: 'renewed',
  stateAt: 'renewed',
  hostId: 'renewed',
  /** Its disk is there already. */
  bootFirst: 'renewed',
  template: 'left',
  endDate: 'left',
  notes: 'left',
  confirmedAt: 'left',
  confirmedBy: 'left',
  family: 'copied',
  purpose: 'copied',
  vcpu: 'copied',
  memoryMiB: 'copied',
  heldWhenStopped: 'copied',
  processorMode: 'copied',
  nestedVirtualisation: 'copied',
  startSeconds: 'copied',
  stopSeconds: 'copied',
  domain: 'copied',
  profileId: 'copied',
  groupId: 'copied',
  firmware: 'copied',
  graphics: 'copied',
  criticality: 'copied',
  outageWindow: 'copied',
  gateway: 'copied',
  gateway6: 'copied',
  noGateway: 'copied',
  gatewayOnLink: 'copied',
  forwards: 'copied',
  reversePath: 'copied',
  hostModel: 'copied',
  labels: 'copied',
  owner: 'copied',
} as const satisfies Answers<'guest'>;

const volume = {
  guestId: 'renewed',
  poolId: 'renewed',
  baseId: 'renewed',
  /** A dependent clone is always thin. */
  thin: 'renewed',
  /** Measured at the origin. */
  usedBytes: 'left',
  label: 'copied',
  bytes: 'copied',
  bus: 'copied',
  use: 'copied',
  split: 'copied',
} as const satisfies Answers<'volume'>;

const adapter = {
  guestId: 'renewed',
  position: 'renewed',
  mac: 'renewed',
  macAssigned: 'renewed',
  networkId: 'copied',
  connected: 'copied',
  masquerade: 'copied',
  model: 'copied',
  nameInside: 'copied',
  /** The copy of the adapter that it travels over. */
  trunkId: 'renewed',
  masqueradeFrom: 'copied',
} as const satisfies Answers<'adapter'>;

/** Static routes are in the disk that is copied. */
const route = {
  hostId: 'left',
  guestId: 'renewed',
  deviceId: 'left',
  destination: 'copied',
  via: 'copied',
  metric: 'copied',
  purpose: 'copied',
} as const satisfies Answers<'route'>;

/** Set in the disk that is copied, as routes are. */
const forwardedPort = {
  hostId: 'left',
  guestId: 'renewed',
  deviceId: 'left',
  protocol: 'copied',
  port: 'copied',
  /** An address of the origin. */
  atIp: 'left',
  toIp: 'copied',
  toPort: 'copied',
  purpose: 'copied',
} as const satisfies Answers<'forwardedPort'>;

/** A copy cannot start before what its origin waits for. What the origin *provides* it does not provide by itself. */
const dependency = {
  hostId: 'left',
  guestId: 'renewed',
  serviceId: 'copied',
  onGuestId: 'copied',
  purpose: 'copied',
} as const satisfies Answers<'dependency'>;

export const INHERITANCE = { guest, volume, adapter, route, forwardedPort, dependency };

type Copied<K extends keyof typeof INHERITANCE> = {
  [N in keyof (typeof INHERITANCE)[K]]: (typeof INHERITANCE)[K][N] extends 'copied' ? N : never;
}[keyof (typeof INHERITANCE)[K]];

/** The fields of a row that its copy has as well. */
export function copiedOf<K extends keyof typeof INHERITANCE>(
  kind: K,
  row: Row<K>,
): Pick<FieldsOf<K>, Copied<K> & keyof FieldsOf<K>> {
  const names = Object.entries(INHERITANCE[kind])
    .filter(([, answer]) => answer === 'copied')
    .map(([name]) => name);
  return Object.fromEntries(
    names.map((name) => [name, (row as unknown as Record<string, unknown>)[name]]),
  ) as never;
}
