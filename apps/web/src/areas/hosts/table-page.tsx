import type { HostGroupView, Named, NetworkListRow, RackView } from '@insel/contract';
import { guessColumns, HOST_COLUMNS, readHostTable, type HostColumn } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { read } from '../../frame/api.js';
import { TablePaste, type TableKind } from '../../components/table-paste.js';

/** Many hosts from a spreadsheet. */
export function TablePage() {
  const names = <T extends Named>(path: string) => ({
    queryKey: [path],
    queryFn: () => read<T[]>(path),
  });
  const sites = useQuery(names<Named>('sites')).data ?? [];
  const platforms = useQuery(names<Named>('platforms')).data ?? [];
  const racks = useQuery(names<RackView>('racks')).data ?? [];
  const groups = useQuery(names<HostGroupView>('host-groups')).data ?? [];
  const networks =
    useQuery({
      queryKey: ['list', 'networks', 'all'],
      queryFn: () => read<{ rows: NetworkListRow[] }>('networks?take=200'),
    }).data?.rows ?? [];
  const kind: TableKind<HostColumn> = {
    many: 'hosts',
    one: 'host',
    example:
      'name\tsite\tcores\tmemory\taddress\nskerry-1\tHarbour house\t16\t128 GiB\t172.22.10.31',
    needed: 'names, cores and memory',
    columns: HOST_COLUMNS,
    guess: guessColumns,
    read: (rows, columns) =>
      readHostTable(rows, columns, { sites, platforms, racks, groups, networks }),
  };
  return <TablePaste kind={kind} />;
}
