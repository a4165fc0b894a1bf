import type { NetworkListRow } from '@insel/contract';
import { Link, useParams } from 'react-router';
import { Area } from '../../components/area.js';
import { Filter } from '../../components/filter.js';
import { RecordList } from '../../components/list.js';
import type { Column } from '../../components/list-table.js';
import { Mark } from '../../components/mark.js';
import { NarrowBy } from '../../components/narrow-by.js';
import { useRead } from '../../client/read.js';
import { NetworkSheetView } from './network-sheet.js';

const COLUMNS: Column<NetworkListRow>[] = [
  { title: 'Network', sort: 'name', width: 'minmax(100px,1.2fr)', cell: (row) => row.name },
  { title: 'Site', sort: 'site', width: 'minmax(120px,1fr)', spare: true, cell: (row) => row.site },
  {
    title: 'VLAN',
    sort: 'vlan',
    width: '48px',
    right: true,
    cell: (row) => <span className="mono">{row.vlanId ?? '–'}</span>,
  },
  {
    title: 'Subnet',
    width: 'minmax(166px,1fr)',
    cell: (row) => <span className="mono">{row.subnets[0]?.prefix ?? '–'}</span>,
  },
  {
    title: 'Held',
    width: '48px',
    right: true,
    spare: true,
    cell: (row) => (
      <span className="mono">{row.subnets.reduce((sum, subnet) => sum + subnet.held, 0)}</span>
    ),
  },
  {
    title: 'Taken',
    sort: 'taken',
    width: '58px',
    right: true,
    cell: (row) => (
      <span className="mono">
        {row.subnets[0]?.takenPercent == null
          ? '–'
          : `${Math.round(row.subnets[0].takenPercent)} %`}
      </span>
    ),
  },
  {
    title: '',
    width: '16px',
    cell: (row) => <Mark mark={row.finding} />,
    value: (row) => row.finding?.severity ?? '',
  },
];

export function Networks() {
  const { id } = useParams();
  return (
    <Area
      width={466}
      list={
        <RecordList
          area="networks"
          columns={COLUMNS}
          nameOf={(row) => row.name}
          narrow={Boolean(id)}
          filter={
            <Filter make="/networks/new" label="Record a network">
              {!id && <Narrowed />}
            </Filter>
          }
          empty={
            <>
              Networks and their subnets are where guests get addresses from.{' '}
              <Link className="act" to="/networks/new">
                Record a network
              </Link>
            </>
          }
        />
      }
      sheet={id ? <NetworkSheetView id={id} key={id} /> : null}
    />
  );
}

function Narrowed() {
  const sites = useRead('sites').data ?? [];
  return <NarrowBy field="siteId" any="any site" rows={sites} />;
}
