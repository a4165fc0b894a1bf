/**
 * A script that gives one Linux clone an identity of its own, made for it from the record: for a version that was not
 * generalised, run at its console before it touches a network. Commands of the general system tools, from memory.
 */
import { macOfAdapter, domainOf } from '../names/index.js';
import type { Fleet } from '../record/index.js';

/** In single quotes for a POSIX shell (IEEE Std 1003.1, section 2.2.2). @example quoted("a'b") // 'a'\''b' */
export const quoted = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;

export function identityScript(fleet: Fleet, guestId: string): string {
  const guest = fleet.need('guest', guestId);
  const adapters = fleet
    .referring('adapter', 'guestId', guestId)
    .sort((a, b) => a.position - b.position);
  const addresses = adapters.flatMap((one) => fleet.referring('address', 'adapterId', one.id));
  const name = guest.name.toLowerCase();
  const domain = domainOf(fleet, guest.domain, addresses[0]);
  const full = domain ? `${name}.${domain}` : name;
  const [clone] = fleet.referring('clone', 'guestId', guestId);
  const origin = clone ? ` of ${fleet.need('guest', clone.originId).name}` : '';
  return [
    '#!/bin/sh',
    `# Makes this copy${origin} a machine of its own: ${name}.`,
    '# Run it as root at its console, while it is joined to no network. It may be repeated.',
    'set -eu',
    '',
    '# Computer name',
    `printf '%s\\n' ${quoted(name)} > /etc/hostname`,
    `hostname ${quoted(name)}`,
    "sed -i '/^127\\.0\\.1\\.1[[:space:]]/d' /etc/hosts",
    `printf '127.0.1.1\\t%s %s\\n' ${quoted(full)} ${quoted(name)} >> /etc/hosts`,
    '',
    '# Machine identifier: an empty one is drawn anew',
    'rm -f /var/lib/dbus/machine-id',
    ': > /etc/machine-id',
    'if command -v systemd-machine-id-setup > /dev/null; then systemd-machine-id-setup',
    'elif command -v dbus-uuidgen > /dev/null; then dbus-uuidgen --ensure=/etc/machine-id',
    'fi',
    '',
    '# Interfaces are not bound to the MAC addresses of the origin any more',
    'rm -f /etc/udev/rules.d/70-persistent-net.rules',
    '',
    '# Leases that were drawn under the old identity',
    'rm -f /var/lib/dhcp/*.leases /var/lib/NetworkManager/*.lease',
    '',
    '# SSH host keys',
    'rm -f /etc/ssh/ssh_host_*',
    'if command -v ssh-keygen > /dev/null; then ssh-keygen -A; fi',
    '',
    '# What the record says of its network; enter it where this system keeps it',
    ...adapters.map((adapter, i) => {
      const held = addresses.filter((row) => row.adapterId === adapter.id).map((row) => row.ip);
      return `#   adapter ${i + 1}, MAC ${macOfAdapter(fleet, adapter) ?? 'unknown'}: ${held.join(', ') || 'no address'}`;
    }),
    '',
    '# Left to you: certificates, licence, password of the administrator, enrolment.',
    '# Restart it, then join its network.',
    '',
  ].join('\n');
}
