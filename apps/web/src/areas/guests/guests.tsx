import type { GuestListRow } from '@insel/contract';
import { formatBinary, formatMemory, GUEST_STATES } from '@insel/core';
import { Link, useParams } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { Area } from '../../components/area.js';
import { useChoice } from '../../components/choice.js';
import { Filter } from '../../components/filter.js';
import { RecordList } from '../../components/list.js';
import type { Column } from '../../components/list-table.js';
import { Mark } from '../../components/mark.js';
import { BulkGuests } from './bulk.js';
import { GuestSheetView } from './guest-sheet.js';
import { Narrowed } from './narrowed.js';

const COLUMNS: Column<GuestListRow>[] = [
  { title: 'Guest', sort: 'name', width: 'minmax(110px,1.3fr)', cell: (row) => row.name },
  {
    title: 'State',
    sort: 'state',
    width: '80px',
    cell: (row) =>
      row.state === 'planned' ? (
        <span className="border-b border-dashed border-pencil text-pencil">planned</span>
      ) : (
        row.state
      ),
  },
  { title: 'Role', sort: 'role', width: '120px', spare: true, wide: true, cell: (row) => row.role },
  { title: 'Host', sort: 'host', width: '80px', cell: (row) => row.host.name },
  {
    title: 'vCPU',
    sort: 'vcpu',
    width: '46px',
    right: true,
    spare: true,
    cell: (row) => <span className="mono">{row.vcpu}</span>,
  },
  {
    title: 'Memory',
    sort: 'memory',
    width: '76px',
    right: true,
    spare: true,
    cell: (row) => <span className="mono">{formatMemory(row.memoryMiB)}</span>,
  },
  {
    title: 'Storage',
    sort: 'storage',
    width: '84px',
    right: true,
    spare: true,
    cell: (row) => <span className="mono">{formatBinary(row.volumeBytes)}</span>,
  },
  { title: 'Address', width: '133px', cell: (row) => <span className="mono">{row.address}</span> },
  {
    title: 'Owner',
    sort: 'owner',
    width: 'minmax(126px,1fr)',
    spare: true,
    cell: (row) => row.owner,
  },
  {
    title: 'Until',
    sort: 'end',
    width: '86px',
    spare: true,
    wide: true,
    cell: (row) => <span className="mono">{row.endDate}</span>,
  },
  {
    title: 'Host has left',
    sort: 'headroom',
    width: '90px',
    right: true,
    spare: true,
    cell: (row) => (
      <span className={`mono ${row.headroomMiB < 0 ? 'text-signal' : ''}`}>
        {formatMemory(row.headroomMiB, 'down')}
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

export function Guests() {
  const { id } = useParams();
  const mayPlan = useMayPlan();
  const choice = useChoice();
  const { rows, clear } = choice;
  return (
    <Area
      width={486}
      list={
        <RecordList
          area="guests"
          columns={COLUMNS}
          nameOf={(row) => row.name}
          narrow={Boolean(id)}
          chosen={mayPlan ? choice : undefined}
          filter={
            <>
              <Filter make="/guests/new" label="Plan a guest" states={GUEST_STATES}>
                {!id && <Narrowed />}
              </Filter>
              {rows.size > 0 && <BulkGuests rows={[...rows.values()]} clear={clear} />}
            </>
          }
          empty={
            <>
              Guests are the machines that run on your hosts.{' '}
              <Link className="act" to="/guests/size">
                Size one
              </Link>
              ,{' '}
              <Link className="act" to="/guests/new">
                plan one
              </Link>
              ,{' '}
              <Link className="act" to="/guests/new?record">
                record one that exists
              </Link>{' '}
              or{' '}
              <Link className="act" to="/guests/table">
                many from a table
              </Link>
            </>
          }
        />
      }
      sheet={id ? <GuestSheetView id={id} key={id} /> : null}
    />
  );
}
