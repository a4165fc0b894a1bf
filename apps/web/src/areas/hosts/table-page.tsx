import {
  guessColumns,
  HOST_COLUMNS,
  HOST_NUMBERS,
  readHostTable,
  type HostColumn,
} from '@insel/core';
import { TablePaste, type TableKind } from '../../components/table-paste.js';
import { useRead } from '../../frame/read.js';

/** Many hosts from a spreadsheet. */
export function TablePage() {
  const sites = useRead('sites').data ?? [];
  const platforms = useRead('platforms').data ?? [];
  const racks = useRead('racks').data ?? [];
  const groups = useRead('hostGroups').data ?? [];
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const kind: TableKind<HostColumn> = {
    many: 'hosts',
    one: 'host',
    example:
      'name\tsite\tcores\tmemory\taddress\nskerry-1\tHarbour house\t16\t128 GiB\t172.22.10.31',
    needed: 'names, cores and memory',
    columns: HOST_COLUMNS,
    numbers: HOST_NUMBERS,
    guess: guessColumns,
    read: (rows, columns) =>
      readHostTable(rows, columns, { sites, platforms, racks, groups, networks }),
  };
  return <TablePaste kind={kind} />;
}
