import type { HostListRow } from '@insel/contract';
import { HOST_STATES, formatBinary, formatMemory, withMinus } from '@insel/core';
import { lazy, Suspense } from 'react';
import { Link, useParams } from 'react-router';
import { useAccount, useMayPlan } from '../../client/session.js';
import { Area } from '../../components/area.js';
import { useChoice } from '../../components/choice.js';
import { Filter } from '../../components/filter.js';
import { Gauge } from '../../components/gauge.js';
import { RecordList } from '../../components/list.js';
import type { Column } from '../../components/list-table.js';
import { Mark } from '../../components/mark.js';
import { NarrowBy } from '../../components/narrow-by.js';
import { ActionMenu } from '../../components/sheet-actions.js';
import { useRead } from '../../client/read.js';

const HostSheetView = lazy(async () => ({
  default: (await import('./host-sheet.js')).HostSheetView,
}));
const BulkHosts = lazy(async () => ({ default: (await import('./bulk.js')).BulkHosts }));

const left = (text: string, negative: boolean) => (
  <span className={`mono ${negative ? 'font-bold text-signal' : ''}`}>{text}</span>
);

const COLUMNS: Column<HostListRow>[] = [
  { title: 'Host', sort: 'name', width: 'minmax(90px,1.2fr)', cell: (row) => row.name },
  { title: 'Site', sort: 'site', width: 'minmax(116px,1fr)', cell: (row) => row.site },
  {
    title: 'Group',
    sort: 'group',
    width: 'minmax(90px,1fr)',
    spare: true,
    cell: (row) => row.group,
  },
  { title: 'State', sort: 'state', width: '84px', cell: (row) => row.state },
  {
    title: 'Guests',
    sort: 'guests',
    width: '56px',
    right: true,
    spare: true,
    cell: (row) => <span className="mono">{row.guests}</span>,
  },
  {
    title: 'vCPU left',
    sort: 'vcpuLeft',
    width: '80px',
    right: true,
    spare: true,
    cell: (row) => left(withMinus(String(row.vcpuLeft)), row.vcpuLeft < 0),
  },
  {
    title: 'Memory',
    sort: 'memoryTaken',
    width: '70px',
    cell: (row) => <Gauge label={`memory of ${row.name}`} percent={row.memoryTakenPercent} />,
    value: (row) => `${Math.round(row.memoryTakenPercent)} %`,
  },
  {
    title: 'left',
    sort: 'memoryLeft',
    width: '80px',
    right: true,
    cell: (row) => left(formatMemory(row.memoryLeftMiB, 'down'), row.memoryLeftMiB < 0),
  },
  {
    title: 'Storage left',
    sort: 'storageLeft',
    width: '100px',
    right: true,
    spare: true,
    cell: (row) => <span className="mono">{formatBinary(row.storageLeftBytes, 'down')}</span>,
  },
  { title: 'Limits first', width: '100px', spare: true, cell: (row) => row.limits },
  {
    title: '',
    width: '16px',
    cell: (row) => <Mark mark={row.finding} />,
    value: (row) => row.finding?.severity ?? '',
  },
];

export function Hosts() {
  const { id } = useParams();
  const account = useAccount();
  const mayPlan = useMayPlan();
  const choice = useChoice();
  const { rows, clear } = choice;
  const empty = (
    <>
      Hosts are the machines that run your guests.{' '}
      {mayPlan && (
        <Link className="act" to="/hosts/new">
          Record a host
        </Link>
      )}{' '}
      {account.role === 'administrator' && (
        <>
          or{' '}
          <Link className="act" to="/this-machine">
            record the machine Insel runs on
          </Link>
        </>
      )}
    </>
  );
  return (
    <Area
      width={540}
      list={
        <RecordList
          area="hosts"
          columns={COLUMNS}
          empty={empty}
          nameOf={(row) => row.name}
          narrow={Boolean(id)}
          chosen={mayPlan ? choice : undefined}
          filter={
            <>
              <Filter make="/hosts/new" label="Record a host" states={HOST_STATES} ways={<Ways />}>
                {!id && <Narrowed />}
              </Filter>
              {rows.size > 0 && (
                <Suspense>
                  <BulkHosts rows={[...rows.values()]} clear={clear} />
                </Suspense>
              )}
            </>
          }
        />
      }
      sheet={
        id ? (
          <Suspense>
            <HostSheetView id={id} key={id} />
          </Suspense>
        ) : null
      }
    />
  );
}

function Narrowed() {
  const groups = useRead('hostGroups').data ?? [];
  const sites = useRead('sites').data ?? [];
  return (
    <>
      <NarrowBy field="groupId" any="any group" rows={groups} />
      <NarrowBy field="siteId" any="any site" rows={sites} />
    </>
  );
}

/** Other ways in, and what hosts refer to. */
function Ways() {
  const mayPlan = useMayPlan();
  return (
    <ActionMenu
      items={[
        mayPlan && { label: 'From a table', to: '/hosts/table' },
        mayPlan && { label: 'Facts of a machine', to: '/hosts/facts' },
        { label: 'Array levels compared', to: '/hosts/arrays' },
        { label: 'Groups, racks, platforms, rules', to: '/hosts/places' },
      ]}
    >
      More ways
    </ActionMenu>
  );
}
