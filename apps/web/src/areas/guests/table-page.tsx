import {
  GUEST_COLUMNS,
  GUEST_NUMBERS,
  guessGuestColumns,
  readGuestTable,
  type GuestColumn,
} from '@insel/core';
import type { TableKind } from '../../components/table/read-table.js';
import { TablePaste } from '../../components/table/table-paste.js';
import { useAllNames } from '../../client/all-rows.js';
import { useRead } from '../../client/read.js';
import { useMemo } from 'react';

const NONE: never[] = [];

/** Many guests that exist, from a spreadsheet. */
export function GuestTablePage() {
  const hosts = useAllNames('hosts') ?? NONE;
  const pools = useRead('pools').data ?? NONE;
  const networks = useAllNames('networks') ?? NONE;
  const profiles = useRead('profiles').data ?? NONE;
  const groups = useRead('guestGroups').data ?? NONE;
  const reached = useMemo(() => {
    const poolsAt = new Map<string, typeof pools>();
    for (const pool of pools)
      for (const { id } of pool.hosts) poolsAt.set(id, [...(poolsAt.get(id) ?? []), pool]);
    return hosts.map((host) => ({ ...host, pools: poolsAt.get(host.id) ?? NONE }));
  }, [hosts, pools]);
  const kind: TableKind<GuestColumn> = {
    many: 'guests',
    one: 'guest',
    example:
      'name\thost\tvcpu\tmemory\tdisk\tnetwork\taddress\nfog-log\tplover\t2\t2 GiB\t40 GiB\tannex-guests\t172.22.14.120',
    needed: 'names, hosts, vCPU and memory',
    columns: GUEST_COLUMNS,
    numbers: GUEST_NUMBERS,
    guess: guessGuestColumns,
    rests: [reached, networks, profiles, groups],
    read: (rows, columns) =>
      readGuestTable(rows, columns, { hosts: reached, networks, profiles, groups }),
  };
  return <TablePaste kind={kind} />;
}
