/** What every machine of the record is called in full, with the addresses that name stands for. */
import { macOfAdapter } from './interface-name.js';
import { parseName } from '../address/index.js';
import { OUT_OF_BAND } from '../host/index.js';
import { machineOf, type Fleet, type NamedKind, type Row } from '../record/index.js';

export interface NamedAddress {
  id: string;
  ip: string;
  use: Row<'address'>['use'];
  mac: string | null;
  subnetId: string | null;
}

export interface MachineName {
  kind: NamedKind;
  id: string;
  name: string;
  /** Lower case, without the last point; empty where neither machine nor subnet says one. */
  domain: string;
  /** Name and domain, or the name alone. */
  full: string;
  addresses: NamedAddress[];
}

/** Machines that are not retired and carry an address, by name. */
export function machineNames(fleet: Fleet): MachineName[] {
  const seen = new Set<string>();
  const found: MachineName[] = [];
  for (const address of fleet.all('address')) {
    const { kind, id } = machineOf(fleet, address);
    if (seen.has(id)) continue;
    seen.add(id);
    const machine = machineName(fleet, kind, id);
    if (machine) found.push(machine);
  }
  return found.sort((a, b) => (a.full < b.full ? -1 : a.full > b.full ? 1 : 0));
}

/**
 * What one machine is called; undefined where it is retired or carries no address. Addresses of out-of-band controllers and
 * shared ones are left out: they have names of their own.
 */
export function machineName(fleet: Fleet, kind: NamedKind, id: string): MachineName | undefined {
  const machine = fleet.need(kind, id);
  if (machine.state === 'retired') return undefined;
  const rows = addressesOf(fleet, kind, id).filter(
    (row) => row.purpose !== OUT_OF_BAND && row.use !== 'shared',
  );
  if (rows.length === 0) return undefined;
  const domain = domainOf(fleet, machine.domain, rows[0]);
  const addresses = rows.map((row) => ({
    id: row.id,
    ip: row.ip,
    use: row.use,
    mac: macOf(fleet, row),
    subnetId: row.subnetId,
  }));
  return {
    kind,
    id,
    name: machine.name.toLowerCase(),
    domain,
    full: fullNameOf(machine.name, domain),
    addresses,
  };
}

/** Addresses of a machine, in the order of recording. */
export function addressesOf(fleet: Fleet, kind: NamedKind, id: string): Row<'address'>[] {
  const rows =
    kind === 'host'
      ? fleet.referring('address', 'hostId', id)
      : kind === 'guest'
        ? fleet
            .referring('adapter', 'guestId', id)
            .flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id))
        : fleet
            .referring('devicePort', 'deviceId', id)
            .flatMap((port) => fleet.referring('address', 'devicePortId', port.id));
  return rows.length < 2 ? rows : [...rows].sort((a, b) => (a.id < b.id ? -1 : 1));
}

const fullNameOf = (name: string, domain: string): string =>
  (domain ? `${name}.${domain}` : name).toLowerCase();

/** The machine's own domain where it says one, else that of its first subnet. */
export function domainOf(fleet: Fleet, own: string, address: Row<'address'> | undefined): string {
  return trimDomain(own || fleet.get('subnet', address?.subnetId)?.domain || '');
}

export const trimDomain = (text: string): string => text.trim().toLowerCase().replace(/\.$/, '');

function macOf(fleet: Fleet, address: Row<'address'>): string | null {
  if (address.adapterId) {
    return macOfAdapter(fleet, fleet.need('adapter', address.adapterId));
  }
  if (address.devicePortId) return fleet.need('devicePort', address.devicePortId).mac;
  return (
    fleet.referring('port', 'hostId', address.hostId!).find((port) => port.management && port.mac)
      ?.mac ?? null
  );
}

/** Why a full name cannot stand in a zone as a machine's: each label by RFC 1123, section 2.1; 253 characters in all (RFC 1035, section 2.3.4). */
export function hostNameComplaint(full: string): string | undefined {
  if (full.length > 253) return `${full.slice(0, 40)}… is longer than 253 characters.`;
  for (const label of full.split('.')) {
    const read = parseName(label);
    if (!read.ok) return label === '' ? `${full} has an empty label.` : read.sentence;
  }
  return undefined;
}
