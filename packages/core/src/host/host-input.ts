/** What is given of a host when it is recorded. */
import {
  beginning,
  fieldsOf,
  list,
  omittable,
  optional,
  part,
  ref,
  refs,
  said,
  text,
  tighter,
  without,
  type InputOf,
} from '../record/index.js';

const host = fieldsOf('host');
const address = fieldsOf('address');
/** Fields that a person gives; the others follow from other changes. */
export const ownFieldsOfHost = without(
  host,
  'name',
  'nameAssigned',
  'certificateSha256',
  'networkChangedAt',
  'confirmedAt',
  'confirmedBy',
);

/** A label of a name in the DNS: RFC 1035, section 2.3.4. */
export const hostName = tighter(host.name, 'a label of a name in the DNS has at most 63 letters', {
  max: 63,
});
/** In any usual notation; kept as 64 hexadecimal digits. */
export const fingerprint = { ...omittable(host.certificateSha256), max: 200 };

/** Lists that are given replace those recorded; the others stay. */
export const hardwareInput = {
  modules: omittable(list(beginning(fieldsOf('memoryModule'), 'slot', 'sizeMiB', 'speed'), 1024)),
  nodes: omittable(list(beginning(fieldsOf('numaNode'), 'node', 'cores', 'memoryMiB'), 256)),
  arrays: omittable(list(beginning(fieldsOf('array'), 'name', 'level', 'groups', 'purpose'), 64)),
  disks: omittable(
    list(
      {
        ...beginning(fieldsOf('disk'), ...without(fieldsOf('disk'), 'hostId', 'arrayId')),
        /** The name of an array of this host. */
        array: omittable(optional(text(100))),
      },
      1024,
    ),
  ),
  ports: omittable(
    list(
      beginning(
        fieldsOf('port'),
        'name',
        'connector',
        'bitsPerSecond',
        'wired',
        'mac',
        'card',
        'management',
        'pluggedInto',
      ),
      256,
    ),
  ),
};
export type HardwareInput = InputOf<typeof hardwareInput>;

const mode = fieldsOf('virtualSwitch').mode;

/** A host with its own pool, the networks it carries, its management address, its parts. */
export const hostInput = {
  name: hostName,
  ...beginning(host, ...ownFieldsOfHost),
  certificateSha256: fingerprint,
  pools: list(beginning(fieldsOf('pool'), 'name', 'usableBytes', 'promiseLimitPercent'), 64),
  /** Pools of others that this host reaches too. */
  reaches: omittable(refs('pool')),
  networks: omittable(list({ networkId: ref('network'), mode: omittable(mode) }, 64)),
  /** Without an address: the next free one of the network. */
  management: omittable(
    part({
      ip: omittable(address.ip),
      networkId: omittable(ref('network')),
      prefixLength: omittable(said(address.prefixLength)),
    }),
  ),
  /** Address of the out-of-band controller. */
  outOfBand: omittable(part({ ip: address.ip })),
  hardware: omittable(part(hardwareInput)),
};
export type HostInput = InputOf<typeof hostInput>;
