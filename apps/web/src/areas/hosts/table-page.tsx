import {
  guessColumns,
  HOST_COLUMNS,
  HOST_NUMBERS,
  readHostTable,
  type HostColumn,
} from '@insel/core';
import type { TableKind } from '../../components/table/read-table.js';
import { TablePaste } from '../../components/table/table-paste.js';
import { useAllNames } from '../../client/all-rows.js';
import { useRead } from '../../client/read.js';

const NONE: never[] = [];

/** Many hosts from a spreadsheet. */
export function TablePage() {
  const sites = useRead('sites').data ?? NONE;
  const platforms = useRead('platforms').data ?? NONE;
  const racks = useRead('racks').data ?? NONE;
  const groups = useRead('hostGroups').data ?? NONE;
  const networks = useAllNames('networks') ?? NONE;
  const kind: TableKind<HostColumn> = {
    many: 'hosts',
    one: 'host',
    example:
      'name\tsite\tcores\tmemory\taddress\nskerry-1\tHarbour house\t16\t128 GiB\t172.22.10.31',
    needed: 'names, cores and memory',
    columns: HOST_COLUMNS,
    numbers: HOST_NUMBERS,
    guess: guessColumns,
    together: true,
    rests: [sites, platforms, racks, groups, networks],
    read: (rows, columns) =>
      readHostTable(rows, columns, { sites, platforms, racks, groups, networks }),
  };
  return <TablePaste kind={kind} />;
}
