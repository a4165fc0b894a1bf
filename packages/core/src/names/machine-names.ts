/** What every machine of the record is called in full, with the addresses that name stands for. */
import { parseName } from '../address/index.js';
import { OUT_OF_BAND } from '../host/management.js';
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

/** Machines that are not retired and carry an address, by name. Addresses of out-of-band controllers are left out: they have names of their own. */
export function machineNames(fleet: Fleet): MachineName[] {
  const found = new Map<string, MachineName>();
  for (const address of fleet.all('address')) {
    if (address.purpose === OUT_OF_BAND || address.use === 'shared') continue;
    const { kind, id } = machineOf(fleet, address);
    const machine = fleet.need(kind, id);
    if (machine.state === 'retired') continue;
    let entry = found.get(id);
    if (!entry) {
      const domain = domainOf(fleet, machine.domain, address);
      found.set(id, (entry = { kind, id, name: machine.name.toLowerCase(), domain, full: fullNameOf(machine.name, domain), addresses: [] }));
    }
    entry.addresses.push({ id: address.id, ip: address.ip, use: address.use, mac: macOf(fleet, address), subnetId: address.subnetId });
  }
  return [...found.values()].sort((a, b) => a.full.localeCompare(b.full));
}

const fullNameOf = (name: string, domain: string): string => (domain ? `${name}.${domain}` : name).toLowerCase();

/** The machine's own domain where it says one, else that of its first subnet. */
export function domainOf(fleet: Fleet, own: string, address: Row<'address'> | undefined): string {
  return trimDomain(own || fleet.get('subnet', address?.subnetId)?.domain || '');
}

export const trimDomain = (text: string): string => text.trim().toLowerCase().replace(/\.$/, '');

function macOf(fleet: Fleet, address: Row<'address'>): string | null {
  if (address.adapterId) return fleet.need('adapter', address.adapterId).mac;
  if (address.devicePortId) return fleet.need('devicePort', address.devicePortId).mac;
  return fleet.referring('port', 'hostId', address.hostId!).find((port) => port.management && port.mac)?.mac ?? null;
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
