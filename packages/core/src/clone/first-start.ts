/**
 * First-start files of a guest: what a generalised system reads at its first start to become a machine of its own. Keys
 * after the general open convention of user-data, meta-data and network-config, version 2 (from memory). No secret is in
 * them: what needs one is said to be left.
 */
import { prefixOf } from '../address/index.js';
import { placeOf, type IdentityItem } from '../guest/index.js';
import { domainOf } from '../names/index.js';
import type { Fleet, Row } from '../record/index.js';

export interface EthernetConfig extends AddressConfig {
  match: { macaddress: string };
  'set-name'?: string;
}

/** A sub-interface: tagged with that VLAN over another interface. */
export interface VlanConfig extends AddressConfig {
  id: number;
  link: string;
}

interface AddressConfig {
  mtu?: number;
  dhcp4?: boolean;
  dhcp6?: boolean;
  addresses?: string[];
  routes?: { to: string; via: string }[];
  nameservers?: { addresses: string[]; search?: string[] };
}

export interface FirstStart {
  metaData: { 'instance-id': string; 'local-hostname': string };
  userData: {
    hostname: string;
    fqdn?: string;
    manage_etc_hosts: boolean;
    ssh_deletekeys: boolean;
    ssh_genkeytypes: string[];
    ssh_pwauth: boolean;
    package_update?: boolean;
    packages?: string[];
  };
  /** Public keys that have to be put into user-data, by the name under which the place keeps them. */
  signInKeys: string[];
  networkConfig: {
    version: 2;
    ethernets: Record<string, EthernetConfig>;
    vlans?: Record<string, VlanConfig>;
  };
  /** Items of identity that the files really set. */
  sets: IdentityItem[];
  /** What they do not set, and has to be done by hand. */
  left: string[];
}

const USUAL_MTU = 1500;

export function firstStart(fleet: Fleet, guestId: string): FirstStart {
  const guest = fleet.need('guest', guestId);
  const adapters = fleet
    .referring('adapter', 'guestId', guestId)
    .sort((a, b) => a.position - b.position);
  const place = placeOf({ fleet, guest, adapters });
  const [address] = adapters.flatMap((one) => fleet.referring('address', 'adapterId', one.id));
  const domain = domainOf(fleet, guest.domain, address);
  const name = guest.name.toLowerCase();
  const profile = fleet.get('profile', guest.profileId);
  const left: string[] = [];
  const settingsOf = ({ id }: Row<'adapter'>): AdapterSettings => ({
    domain,
    gateway: id === place.adapter?.id && !guest.noGateway ? place.gateway : null,
    nameServers: id === place.adapter?.id ? place.nameServers : [],
  });
  const ethernets: Record<string, EthernetConfig> = {};
  const vlans: Record<string, VlanConfig> = {};
  const names = new Map<string, string>();
  for (const [i, adapter] of adapters.entries()) {
    if (adapter.trunkId !== null) continue;
    if (!adapter.mac) {
      left.push(`Adapter ${i + 1} has no recorded MAC address: it cannot be recognised inside.`);
      continue;
    }
    const carries = adapters.some(({ trunkId }) => trunkId === adapter.id);
    const bare = fleet.referringCount('address', 'adapterId', adapter.id) === 0;
    if (bare && !carries)
      left.push(`Adapter ${i + 1} has no recorded address: it is assumed to draw a lease.`);
    const inside = adapter.nameInside || `net${i}`;
    names.set(adapter.id, inside);
    ethernets[inside] = {
      match: { macaddress: adapter.mac.toLowerCase() },
      // Without a name of its own it could not be told apart from what the kernel calls it, and nothing could be put on it.
      ...(adapter.nameInside || carries ? { 'set-name': inside } : {}),
      ...addressing(fleet, guest, adapter, settingsOf(adapter), carries),
    };
  }
  for (const [i, adapter] of adapters.entries()) {
    if (adapter.trunkId === null) continue;
    const link = names.get(adapter.trunkId);
    const id = fleet.get('network', adapter.networkId)?.vlanId;
    if (!link || !id)
      left.push(
        `Adapter ${i + 1} is a sub-interface ${link ? 'on a network without a VLAN id' : 'over an adapter without a recorded MAC address'}: it cannot be set up.`,
      );
    else
      vlans[adapter.nameInside || `${link}.${id}`] = {
        id,
        link,
        ...addressing(fleet, guest, adapter, settingsOf(adapter)),
      };
  }
  if (!place.gateway && !guest.noGateway) left.push('No gateway is decided.');
  const fixed = Object.values({ ...ethernets, ...vlans }).some(
    (one) => one.addresses !== undefined,
  );
  left.push(
    'Machine identifier: the version must have been generalised; an empty one is drawn anew at the first start.',
    profile?.signInKeys.length
      ? `Public keys for signing in: put ${profile.signInKeys.join(', ')} where user-data names them. Passwords, licence and enrolment stand in no file of Insel.`
      : 'Keys for signing in, passwords, licence and enrolment: they stand in no file of Insel.',
  );
  return {
    metaData: { 'instance-id': guest.id, 'local-hostname': name },
    userData: {
      hostname: name,
      ...(domain ? { fqdn: `${name}.${domain}` } : {}),
      manage_etc_hosts: true,
      ssh_deletekeys: true,
      ssh_genkeytypes: ['ed25519', 'ecdsa', 'rsa'],
      ssh_pwauth: false,
      ...(profile?.packages.length
        ? { package_update: true, packages: [...profile.packages] }
        : {}),
    },
    signInKeys: [...(profile?.signInKeys ?? [])],
    networkConfig: { version: 2, ethernets, ...(Object.keys(vlans).length ? { vlans } : {}) },
    sets: ['computer name', ...(fixed ? (['static address'] as const) : []), 'SSH host keys'],
    left,
  };
}

interface AdapterSettings {
  domain: string;
  gateway: string | null;
  nameServers: readonly string[];
}

/** @param bare no address is taken for none, rather than for a lease */
function addressing(
  fleet: Fleet,
  guest: Row<'guest'>,
  adapter: Row<'adapter'>,
  settings: AdapterSettings,
  bare = false,
): AddressConfig {
  const rows = fleet
    .referring('address', 'adapterId', adapter.id)
    .filter((row) => row.use !== 'shared');
  const own = rows.filter((row) => row.use === 'static').map((row) => withLength(fleet, row));
  const leased = rows.filter((row) => row.use !== 'static');
  const [v4, v6] = [
    leased.some((row) => !row.ip.includes(':')),
    leased.some((row) => row.ip.includes(':')),
  ];
  const mtu = adapter.networkId ? fleet.need('network', adapter.networkId).mtu : USUAL_MTU;
  const gateways = settings.gateway ? [settings.gateway, guest.gateway6 || []].flat() : [];
  return {
    ...(mtu === USUAL_MTU ? {} : { mtu }),
    ...(v4 || (rows.length === 0 && !bare) ? { dhcp4: true } : {}),
    ...(v6 ? { dhcp6: true } : {}),
    ...(own.length ? { addresses: own } : {}),
    ...(own.length && gateways.length
      ? { routes: gateways.map((via) => ({ to: 'default', via })) }
      : {}),
    ...(own.length && settings.nameServers.length
      ? {
          nameservers: {
            addresses: [...settings.nameServers],
            ...(settings.domain ? { search: [settings.domain] } : {}),
          },
        }
      : {}),
  };
}

function withLength(fleet: Fleet, row: Row<'address'>): string {
  const subnet = fleet.get('subnet', row.subnetId);
  const length = row.prefixLength ?? (subnet ? prefixOf(subnet.prefix).length : null);
  return length === null ? row.ip : `${row.ip}/${length}`;
}
