/** Storage pools: what is promised and used, the ratio of both, how long until full by the trend of their samples. */
import type { PoolLevel, PoolUseView, PoolView } from '@insel/contract';
import { counted, formatBinary, formatBoth } from '@insel/core';
import { Link } from 'react-router';
import {
  Area as AreaMark,
  ComposedChart,
  CartesianGrid,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { useUrlState } from '../../client/url-state.js';
import { Gauge } from '../../components/gauge.js';
import { dayOf, GRID, TIME_AXIS, sizeAxis, VALUE_AXIS } from '../../components/over-time.js';
import { RecordPool } from '../../components/record-pool.js';
import { Until } from '../../components/until.js';
import { Fact, Facts } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';
import { useRead } from '../../client/read.js';

export function PoolsPage() {
  const pools = useRead('pools');
  const measured = useRead('poolsUsed').data ?? [];
  const levels = new Map(measured.map((level) => [level.poolId, level]));
  const [search, set] = useUrlState();
  const open =
    search.get('open') ??
    pools.data?.find((pool) => pool.hosts.length > 1)?.id ??
    pools.data?.[0]?.id ??
    '';
  const pool = pools.data?.find((found) => found.id === open);
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[560px_1fr] lg:overflow-hidden">
      <div className="min-w-0 border-ink px-4 py-3 lg:overflow-y-auto lg:border-r">
        <h1>Pools</h1>
        {pools.error && <p className="text-signal">{pools.error.message}</p>}
        <table className="mt-2 w-full text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink text-xs">
              <th>Pool</th>
              <th>Reached by</th>
              <th className="w-[90px]">Promised</th>
              <th className="text-right">ratio</th>
              <th className="text-right">free</th>
              <th className="text-right">full</th>
            </tr>
          </thead>
          <tbody>
            {pools.data?.map((row) => (
              <tr
                key={row.id}
                className={`border-b border-rule align-baseline ${row.id === open ? 'bg-water' : ''}`}
              >
                <td className="py-1">
                  <button
                    type="button"
                    aria-current={row.id === open || undefined}
                    className="min-h-6 cursor-pointer text-left font-bold"
                    onClick={() => set({ open: row.id })}
                  >
                    {row.name}
                  </button>
                </td>
                <td>{row.hosts.map((host) => host.name).join(', ')}</td>
                <td className="align-middle">
                  <Gauge label={`promised of ${row.name}`} percent={row.taken.value ?? 0} />
                </td>
                <td className="text-right">
                  <Figure figure={row.ratio} />
                </td>
                <td className="text-right">
                  <Figure figure={row.free} rounding="down" />
                </td>
                <td className="text-right">
                  <Figure figure={row.fill} rounding="up" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <RecordPool done={(id) => set({ open: id })} />
        <p className="mt-2 text-[13px] text-faint">
          What is allocated takes its room at once; a thin volume is promised its full size and
          takes what is written.
        </p>
      </div>
      <div className="min-w-0 px-5 py-3 lg:overflow-y-auto">
        {pool && <Pool key={pool.id} pool={pool} level={levels.get(pool.id)} />}
      </div>
    </div>
  );
}

function Pool({ pool, level }: { pool: PoolView; level: PoolLevel | undefined }) {
  const use = useRead('poolUse', { id: pool.id }).data;
  const guests = useRead('guests', {
    poolId: pool.id,
    sort: 'storage',
    order: 'down',
    take: 50,
  }).data;
  return (
    <article aria-label={`Pool ${pool.name}`}>
      <h2 className="text-[18px] font-bold">{pool.name}</h2>
      <Facts>
        <Fact name="Usable">
          <span className="mono">{formatBoth(pool.usableBytes)}</span>
        </Fact>
        <Fact name="Allocated">
          <span className="mono">{formatBinary(pool.allocatedBytes, 'up')}</span>{' '}
          <span className="text-faint">thick volumes, snapshots, room held</span>
        </Fact>
        <Fact name="Promised thin">
          <span className="mono">{formatBinary(pool.thinBytes, 'up')}</span>
        </Fact>
        <Fact name="Really free">
          <Figure figure={pool.free} rounding="down" />, <Figure figure={pool.fill} rounding="up" />{' '}
          full
        </Fact>
        <Fact name="Promised in all">
          <Figure figure={pool.taken} /> of {pool.promiseLimitPercent} % allowed
        </Fact>
        <Fact name="Promise ratio">
          <Figure figure={pool.ratio} />
        </Fact>
        <Fact name="Left to promise">
          <Figure figure={pool.left} rounding="down" />
        </Fact>
        <Fact name="Used">
          {level ? (
            <>
              <span className="mono">{formatBinary(level.usedBytes)}</span>{' '}
              <span className="text-faint">measured {level.at.slice(0, 10)}</span>
            </>
          ) : pool.usedBytes === null ? (
            <span className="text-faint">not looked at</span>
          ) : (
            <span className="mono">{formatBinary(pool.usedBytes)}</span>
          )}
        </Fact>
        <Fact name="Holds">
          {counted(pool.volumes, 'volume')}, {counted(pool.snapshots, 'snapshot')}
        </Fact>
        <Fact name="Until full">
          <Until runway={use?.runway ?? null} reached="full already" />
        </Fact>
        <Fact name={`Until ${pool.fillAlarmPercent} % alarm`}>
          <Until runway={use?.alarmRunway ?? null} reached="passed already" />
        </Fact>
      </Facts>
      {use && use.points.length > 1 ? (
        <Filling pool={pool} use={use} />
      ) : (
        <p className="mt-2 text-faint">
          No samples of it.{' '}
          <Link className="act" to="/guests/samples">
            Take some in
          </Link>
          : two days are enough for a first trend.
        </p>
      )}
      <h3 className="mt-3 font-bold">Guests with volumes on it</h3>
      {guests?.rows.map((guest) => (
        <p
          key={guest.id}
          className="grid grid-cols-[1fr_100px_100px] items-baseline border-b border-rule text-[13px]"
        >
          <Link
            className="inline-block min-h-6 min-w-6 leading-6 underline decoration-rule"
            to={`/guests/${guest.id}`}
          >
            {guest.name}
          </Link>
          <span>{guest.state}</span>
          <span className="mono text-right">{formatBinary(guest.volumeBytes)}</span>
        </p>
      ))}
      {guests && guests.total > guests.rows.length && (
        <p className="text-faint">and {guests.total - guests.rows.length} more</p>
      )}
      {guests?.total === 0 && <p className="text-faint">none</p>}
    </article>
  );
}

function Filling({ pool, use }: { pool: PoolView; use: PoolUseView }) {
  const points = use.points.map(({ at, usedBytes }) => ({ time: Date.parse(at), used: usedBytes }));
  const trend = use.trend && [
    { time: Date.parse(use.trend.fromAt), trend: use.trend.from },
    { time: Date.parse(use.trend.toAt), trend: use.trend.to },
  ];
  const data = [...points, ...(trend ?? [])].sort((a, b) => a.time - b.time);
  const seen = data.map((point) => ('used' in point ? point.used : point.trend));
  const [least, most] = [Math.min(...seen), Math.max(...seen)];
  const alarm = (pool.usableBytes * pool.fillAlarmPercent) / 100;
  const first = points[0]!;
  const last = points.at(-1)!;
  return (
    <figure className="mt-3">
      <figcaption className="mb-1 text-xs font-bold text-faint">
        Used, with its trend (dashed): {formatBinary(first.used)} on {dayOf(first.time)},{' '}
        {formatBinary(last.used)} on {dayOf(last.time)}
        {most * 2 > alarm ? `; the alarm stands at ${formatBinary(alarm)}` : ''}
      </figcaption>
      <ResponsiveContainer width="100%" height={210}>
        <ComposedChart data={data} margin={{ left: 10, right: 20, top: 6 }}>
          <CartesianGrid {...GRID} />
          <XAxis {...TIME_AXIS} />
          <YAxis
            tickFormatter={(value: number) => formatBinary(value, 'nearest', 2)}
            width={80}
            {...VALUE_AXIS}
            {...sizeAxis(least, most * 2 > alarm ? Math.max(most, alarm) : most)}
          />
          <AreaMark
            dataKey="used"
            stroke="var(--used)"
            strokeWidth={2}
            fill="var(--water)"
            isAnimationActive={false}
            connectNulls
          />
          <Line
            dataKey="trend"
            stroke="var(--pencil)"
            strokeWidth={2}
            strokeDasharray="6 4"
            dot={false}
            isAnimationActive={false}
            connectNulls
          />
          {most * 2 > alarm && (
            <ReferenceLine y={alarm} stroke="var(--amber)" strokeDasharray="2 3" />
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}
