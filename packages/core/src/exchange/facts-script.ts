/**
 * A POSIX shell script that prints one JSON document about the machine it runs on, from general system tools. It reads
 * only, sends nothing, writes nothing; as root it can also read serial numbers and memory modules.
 */
export const FACTS_SCRIPT = String.raw`#!/bin/sh
# Prints one JSON document about this machine. Reads only: writes nothing, sends nothing.
# Run as root to include serial numbers and memory modules; without root they are left out.
LC_ALL=C; PATH=/usr/sbin:/usr/bin:/sbin:/bin; export LC_ALL PATH

# Standard input as a JSON string.
text() {
  printf '"'
  tr '\t' ' ' | tr -d '\000-\010\013-\037\177' | sed -e 's/\\/\\\\/g' -e 's/"/\\"/g' | awk '{ printf "%s%s", sep, $0; sep = "\\n" }'
  printf '"'
}
# A tool's own JSON, or null where the tool is missing or fails.
json() { out=$("$@" 2>/dev/null) && [ -n "$out" ] && printf '%s' "$out" || printf 'null'; }
# Files as lines "path=first line".
lines() { for file in "$@"; do [ -r "$file" ] && { read -r line < "$file" || [ -n "$line" ]; } 2>/dev/null && printf '%s=%s\n' "$file" "$line"; done; true; }

printf '{"insel_facts":1'
printf ',"host_name":'; { hostname -f 2>/dev/null || hostname 2>/dev/null || cat /etc/hostname; } | head -n 1 | text
printf ',"lscpu":'; json lscpu -J
columns=NAME,TYPE,SIZE,ROTA,MODEL,SERIAL,TRAN,FSTYPE,MOUNTPOINT
lsblk -o LOG-SEC,FSUSED >/dev/null 2>&1 && columns=$columns,LOG-SEC,FSUSED
printf ',"lsblk":'; json lsblk -J -b -o "$columns"
printf ',"addr":'; json ip -j addr
printf ',"route":'; json ip -j route
printf ',"meminfo":'; head -n 3 /proc/meminfo 2>/dev/null | text
printf ',"resolv":'; grep '^nameserver' /etc/resolv.conf 2>/dev/null | text
printf ',"dmi":'; lines /sys/class/dmi/id/sys_vendor /sys/class/dmi/id/product_name /sys/class/dmi/id/product_serial /sys/class/dmi/id/chassis_type | text
printf ',"net":'; for port in /sys/class/net/*; do
  [ -e "$port/device" ] || continue
  card=$(readlink -f "$port/device" 2>/dev/null); card=$(basename "$card"); speed=$(cat "$port/speed" 2>/dev/null); mac=$(cat "$port/address" 2>/dev/null)
  [ -d "$port/wireless" ] || [ -d "$port/phy80211" ] && kind=wireless || kind=wired
  printf '%s|%s|%s|%s|%s\n' "$(basename "$port")" "$kind" "$speed" "$mac" "$card"
done | text
printf ',"memory":'; lines /sys/devices/system/memory/block_size_bytes /sys/devices/system/memory/online | text
printf ',"nodes":'; for node in /sys/devices/system/node/node[0-9]*; do
  [ -d "$node" ] && printf '%s|%s|%s\n' "$(basename "$node")" "$(cat "$node/cpulist")" "$(awk '/ MemTotal:/ { print $4 }' "$node/meminfo")"
done 2>/dev/null | text
printf ',"modules":'; { [ "$(id -u)" = 0 ] && dmidecode -t 17 2>/dev/null | grep -E '^\s+(Locator|Size|Speed|Configured Memory Speed):'; } | text
printf ',"efi":'; [ -d /sys/firmware/efi ] && printf 'true' || printf 'false'
printf ',"secure_boot":'; { cat /sys/firmware/efi/efivars/SecureBoot-* 2>/dev/null | od -An -t u1 -j 4 -N 1 2>/dev/null; } | tr -d ' \n' | text
printf '}\n'
`;
