import {
  GUEST_COLUMNS,
  GUEST_NUMBERS,
  guessGuestColumns,
  readGuestTable,
  type GuestColumn,
} from '@insel/core';
import { TablePaste, type TableKind } from '../../components/table-paste.js';
import { useRead } from '../../frame/read.js';

/** Hosts whose names a table can name; a table for more of them goes in parts. */
const HOSTS = 200;

/** Many guests that exist, from a spreadsheet. */
export function GuestTablePage() {
  const hosts = useRead('hosts', { sort: 'name', take: HOSTS }).data?.rows ?? [];
  const pools = useRead('pools').data ?? [];
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const profiles = useRead('profiles').data ?? [];
  const groups = useRead('guestGroups').data ?? [];
  const reached = hosts.map((host) => ({
    ...host,
    pools: pools.filter((pool) => pool.hosts.some((found) => found.id === host.id)),
  }));
  const kind: TableKind<GuestColumn> = {
    many: 'guests',
    one: 'guest',
    example:
      'name\thost\tvcpu\tmemory\tdisk\tnetwork\taddress\nfog-log\tplover\t2\t2 GiB\t40 GiB\tannex-guests\t172.22.14.120',
    needed: 'names, hosts, vCPU and memory',
    columns: GUEST_COLUMNS,
    numbers: GUEST_NUMBERS,
    guess: guessGuestColumns,
    read: (rows, columns) =>
      readGuestTable(rows, columns, { hosts: reached, networks, profiles, groups }),
  };
  return <TablePaste kind={kind} />;
}
