/**
 * A read-only script that prints what a machine is known by, one "key: value" a line; and the reading of what was printed.
 * It prints no secret: identifiers, public addresses, fingerprints of public keys. Commands of general tools, from memory.
 */
export const PROOF_SCRIPT = String.raw`#!/bin/sh
# Prints what this machine is known by. Reads only: writes nothing, sends nothing.
# Paste all of it into Insel; lines may be added by hand, such as "licence: label of the key".
# Give the files of its certificates as arguments to have their fingerprints printed as well.
LC_ALL=C; PATH=/usr/sbin:/usr/bin:/sbin:/bin; export LC_ALL PATH
echo 'insel-identity: 1'
echo "name: $(hostname 2>/dev/null || cat /etc/hostname)"
[ -r /etc/machine-id ] && echo "machine-id: $(cat /etc/machine-id)"
for port in /sys/class/net/*; do
  [ -e "$port/device" ] && echo "mac: $(cat "$port/address")"
done
ip -o addr show scope global 2>/dev/null | while read -r _ _ family address _; do
  case $family in inet|inet6) echo "address: ${'$'}{address%/*}" ;; esac
done
for key in /etc/ssh/ssh_host_*_key.pub; do
  [ -r "$key" ] && ssh-keygen -l -E sha256 -f "$key" 2>/dev/null | while read -r _ print _; do echo "host-key: $print"; done
done
for file in "$@"; do
  [ -r "$file" ] && openssl x509 -in "$file" -noout -fingerprint -sha256 2>/dev/null | sed 's/.*=/certificate: /'
done
exit 0
`;

/** What was printed, by key. */
export interface Proof {
  name: string | null;
  machineId: string | null;
  macs: string[];
  addresses: string[];
  hostKeys: string[];
  certificates: string[];
  licences: string[];
}

/** Longest paste that is read. */
export const LONGEST_PROOF = 50_000;

export function readProof(
  text: string,
): { ok: true; proof: Proof } | { ok: false; sentence: string } {
  const lines = new Map<string, string[]>();
  for (const line of text.split(/\r?\n/)) {
    const [, key, value] = /^\s*([a-z-]+)\s*:\s*(.*?)\s*$/i.exec(line) ?? [];
    if (key && value)
      lines.set(key.toLowerCase(), [...(lines.get(key.toLowerCase()) ?? []), value]);
  }
  if (!lines.has('insel-identity'))
    return {
      ok: false,
      sentence:
        'This is not what the script prints: it begins with the line "insel-identity: 1". Paste all of it.',
    };
  const all = (key: string) => [...new Set(lines.get(key) ?? [])];
  return {
    ok: true,
    proof: {
      name: all('name')[0] ?? null,
      machineId: all('machine-id')[0]?.toLowerCase() ?? null,
      macs: all('mac').map((mac) => mac.toLowerCase()),
      addresses: all('address').map((ip) => ip.toLowerCase()),
      hostKeys: all('host-key'),
      certificates: all('certificate').map((print) => print.toUpperCase()),
      licences: all('licence'),
    },
  };
}
