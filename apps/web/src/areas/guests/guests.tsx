import type { GuestListRow } from '@insel/contract';
import { formatBinary, formatMemory, GUEST_STATES } from '@insel/core';
import { Link, useParams } from 'react-router';
import { Area } from '../../ink/area.js';
import { Filter } from '../../ink/filter.js';
import { RecordList, type Column } from '../../ink/list.js';
import { Mark } from '../../ink/mark.js';
import { GuestSheetView } from './guest-sheet.js';

const COLUMNS: Column<GuestListRow>[] = [
  { title: 'Guest', sort: 'name', width: 'minmax(110px,1fr)', cell: (row) => row.name },
  { title: 'State', sort: 'state', width: '80px', cell: (row) => (row.state === 'planned' ? <span className="border-b border-dashed border-pencil text-pencil">planned</span> : row.state) },
  { title: 'Host', sort: 'host', width: '80px', cell: (row) => row.host.name },
  { title: 'vCPU', sort: 'vcpu', width: '46px', right: true, spare: true, cell: (row) => <span className="mono">{row.vcpu}</span> },
  { title: 'Memory', sort: 'memory', width: '76px', right: true, spare: true, cell: (row) => <span className="mono">{formatMemory(row.memoryMiB)}</span> },
  { title: 'Storage', sort: 'storage', width: '84px', right: true, spare: true, cell: (row) => <span className="mono">{formatBinary(row.volumeBytes)}</span> },
  { title: 'Address', width: '124px', cell: (row) => <span className="mono">{row.address}</span> },
  { title: 'Host has left', sort: 'headroom', width: '90px', right: true, spare: true, cell: (row) => <span className={`mono ${row.headroomMiB < 0 ? 'text-signal' : ''}`}>{formatMemory(row.headroomMiB, 'down')}</span> },
  { title: '', width: '16px', cell: (row) => <Mark mark={row.finding} /> },
];

export function Guests() {
  const { id } = useParams();
  return (
    <Area
      list={<RecordList area="guests" columns={COLUMNS} nameOf={(row) => row.name} narrow={Boolean(id)} filter={<Filter make="/guests/new" label="Plan a guest" states={GUEST_STATES}><Link className="act" to="/guests/start-order">Start order</Link></Filter>} empty={<>Guests are the machines that run on your hosts. <Link className="act" to="/guests/new">Plan a guest</Link> or <Link className="act" to="/guests/new?record">record one that exists</Link></>} />}
      sheet={id ? <GuestSheetView id={id} key={id} /> : null}
    />
  );
}
