/**
 * A read-only script that prints what a machine is and does, run before and after it moves; and the reading of what was
 * printed. Its difference is the acceptance as far as it reaches. Commands of general tools, from memory; no secret is
 * printed.
 */
export const READING_SCRIPT = String.raw`#!/bin/sh
# Prints what this machine is and does, to be compared before and after a move.
# Reads only: writes nothing, sends nothing. Run it as root; paste all of it into Insel.
LC_ALL=C; PATH=/usr/sbin:/usr/bin:/sbin:/bin; export LC_ALL PATH
echo 'insel-reading: 1'
echo "name: $(hostname 2>/dev/null || cat /etc/hostname)"
[ -r /etc/machine-id ] && echo "machine-id: $(cat /etc/machine-id)"
for port in /sys/class/net/*; do
  [ -e "$port/device" ] && echo "interface: $(basename "$port") $(cat "$port/address")"
done
ip -o addr show scope global 2>/dev/null | while read -r _ port family address _; do
  case $family in inet|inet6) echo "address: $port $address" ;; esac
done
ip route show default 2>/dev/null | sed -n 's/.* via \([^ ]*\).*/gateway: \1/p'
ip -6 route show default 2>/dev/null | sed -n 's/.* via \([^ ]*\).*/gateway: \1/p'
sed -n 's/^nameserver[ \t]*/name-server: /p' /etc/resolv.conf 2>/dev/null
lsblk -bdnro NAME,SIZE,TYPE 2>/dev/null | while read -r name size type; do
  [ "$type" = disk ] && echo "disk: $name $size"
done
while read -r device place type _; do
  case $device in /dev/*|*:*|//*) echo "mount: $place $type" ;; esac
done < /proc/mounts
systemctl --failed --plain --no-legend 2>/dev/null | while read -r unit _; do echo "failed: $unit"; done
ss -Hlntu 2>/dev/null | while read -r kind _ _ _ at _; do
  case $at in 127.*|'[::1]'*) ;; *) echo "listens: $kind ${'$'}{at##*:}" ;; esac
done | sort -u
systemctl list-timers --plain --no-legend 2>/dev/null | sed -n 's/.* \([^ ]*\.timer\) .*/job: \1/p'
for table in /var/spool/cron/crontabs/* /var/spool/cron/*; do
  [ -f "$table" ] && echo "job: table of $(basename "$table")"
done
sed -n 's/^\(\/[^ \t]*\).*/share: \1/p' /etc/exports 2>/dev/null
for key in /etc/ssh/ssh_host_*_key.pub; do
  [ -r "$key" ] && ssh-keygen -l -E sha256 -f "$key" 2>/dev/null | while read -r _ print _; do echo "host-key: $print"; done
done
[ -r /proc/uptime ] && echo "uptime: $(cut -d. -f1 /proc/uptime)"
exit 0
`;

/** What is read, by what the script calls it. */
export const READING_KEYS = [
  'name',
  'machine-id',
  'interface',
  'address',
  'gateway',
  'name-server',
  'disk',
  'mount',
  'failed',
  'listens',
  'job',
  'share',
  'host-key',
  'uptime',
] as const;
export type ReadingKey = (typeof READING_KEYS)[number];

/** Values by key, each once, sorted. A key that was not printed is not known. */
export type Reading = ReadonlyMap<ReadingKey, readonly string[]>;

/** Longest paste that is read. */
export const LONGEST_READING = 50_000;
/** Lines that are kept of one. */
const MOST_READING_LINES = 400;

const isKey = (word: string): word is ReadingKey =>
  (READING_KEYS as readonly string[]).includes(word);

export function readReading(
  text: string,
): { ok: true; lines: string[] } | { ok: false; sentence: string } {
  const lines = text.split(/\r?\n/).map((line) => /^\s*([a-z-]+)\s*:\s*(.*?)\s*$/i.exec(line));
  if (!lines.some((found) => found?.[1]?.toLowerCase() === 'insel-reading'))
    return {
      ok: false,
      sentence:
        'This is not what the script prints: it begins with the line "insel-reading: 1". Paste all of it.',
    };
  const kept = lines.flatMap((found) => {
    const [, word = '', value = ''] = found ?? [];
    return isKey(word.toLowerCase()) && value ? [`${word.toLowerCase()}: ${value}`] : [];
  });
  const once = [...new Set(kept)];
  return once.length > MOST_READING_LINES
    ? { ok: false, sentence: `At most ${MOST_READING_LINES} lines of it can be compared.` }
    : { ok: true, lines: once };
}

/** Of lines as they are kept. */
export function readingOf(lines: readonly string[]): Reading {
  const found = new Map<ReadingKey, string[]>();
  for (const line of lines) {
    const at = line.indexOf(': ');
    const key = line.slice(0, at);
    if (isKey(key)) found.set(key, [...(found.get(key) ?? []), line.slice(at + 2)]);
  }
  for (const values of found.values()) values.sort();
  return found;
}
