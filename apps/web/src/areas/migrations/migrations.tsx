import type { MigrationListRow } from '@insel/contract';
import { formatBinary, formatDuration, MIGRATION_STATES } from '@insel/core';
import { Link, useParams } from 'react-router';
import { Area } from '../../components/area.js';
import { Filter } from '../../components/filter.js';
import { RecordList } from '../../components/list.js';
import type { Column } from '../../components/list-table.js';
import { Mark } from '../../components/mark.js';
import { MigrationSheetView } from './migration-sheet.js';

const COLUMNS: Column<MigrationListRow>[] = [
  { title: 'Guest', width: 'minmax(110px,1.4fr)', cell: (row) => row.guest.name },
  { title: 'From', width: 'minmax(100px,1fr)', cell: (row) => row.source.name },
  { title: 'To', width: 'minmax(100px,1fr)', cell: (row) => row.target.name },
  {
    title: 'State',
    width: '90px',
    cell: (row) =>
      row.state === 'planned' ? (
        <span className="border-b border-dashed border-pencil text-pencil">planned</span>
      ) : (
        row.state
      ),
  },
  {
    title: 'To copy',
    width: '86px',
    right: true,
    spare: true,
    cell: (row) => <span className="mono">{formatBinary(row.bytes)}</span>,
  },
  {
    title: 'Expected',
    width: '104px',
    right: true,
    spare: true,
    cell: (row) => (
      <span className="mono text-pencil">
        {row.estimateSeconds === null ? '–' : formatDuration(row.estimateSeconds)}
      </span>
    ),
  },
  {
    title: 'Took',
    width: '104px',
    right: true,
    spare: true,
    cell: (row) => (
      <span className="mono">
        {row.copySeconds === null ? '–' : formatDuration(row.copySeconds)}
      </span>
    ),
  },
  { title: 'Planned', width: '104px', spare: true, cell: (row) => row.plannedAt.slice(0, 10) },
  {
    title: '',
    width: '16px',
    cell: (row) => <Mark mark={row.finding} />,
    value: (row) => row.finding?.severity ?? '',
  },
];

export function Migrations() {
  const { id } = useParams();
  return (
    <Area
      width={480}
      list={
        <RecordList
          area="migrations"
          columns={COLUMNS}
          nameOf={(row) => row.guest.name}
          narrow={Boolean(id)}
          filter={
            <Filter make="/migrations/new" label="Migrate a guest" states={MIGRATION_STATES} />
          }
          empty={
            <>
              Moves of guests between hosts, planned and past.{' '}
              <Link className="act" to="/migrations/new">
                Migrate a guest
              </Link>
            </>
          }
        />
      }
      sheet={id ? <MigrationSheetView id={id} key={id} /> : null}
    />
  );
}
