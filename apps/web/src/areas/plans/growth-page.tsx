/** When groups of hosts, pools and subnets run out by the record's own history, pools by what was measured as well, and what buying something would change. */
import type { GrowthView } from '@insel/contract';
import { counted, RESOURCES, type Growth } from '@insel/core';
import {
  Area as AreaMark,
  CartesianGrid,
  ComposedChart,
  Line,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { Gauge } from '../../components/gauge.js';
import { GRID, TIME_AXIS, sizeAxis, VALUE_AXIS } from '../../components/over-time.js';
import { Part } from '../../components/sheet.js';
import { Until } from '../../components/until.js';
import { useRead } from '../../client/read.js';
import { useUrlState } from '../../client/url-state.js';
import { amount } from './amount.js';
import { BuyList, givenOf } from './buy-list.js';

const keyOf = ({ resource, place }: Growth): string => `${resource}:${place.id}`;

export function GrowthPage() {
  const [search, set] = useUrlState();
  const days = Number(search.get('days') ?? 180);
  const resource = search.get('resource') ?? '';
  const { data, error } = useRead('growth', { days }, { keep: true });
  const places = (data?.places ?? []).filter((one) => !resource || one.resource === resource);
  const open = places.find((one) => keyOf(one) === search.get('open')) ?? places[0];
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[580px_1fr] lg:overflow-hidden">
      <div className="min-w-0 border-ink px-4 py-3 lg:overflow-y-auto lg:border-r">
        <h1>When it runs out</h1>
        <p className="mb-2 text-faint">
          By what was planned, altered and retired; what was recorded as found counts as having been
          there before. What is in use is by what was measured.
        </p>
        <div className="mb-2 flex flex-wrap items-baseline gap-3">
          <label>
            Looked back{' '}
            <select value={days} onChange={(event) => set({ days: event.target.value })}>
              {[30, 90, 180, 365, 730].map((many) => (
                <option key={many} value={many}>
                  {many} days
                </option>
              ))}
            </select>
          </label>
          <label>
            Of{' '}
            <select
              aria-label="Of which resource"
              value={resource}
              onChange={(event) => set({ resource: event.target.value })}
            >
              <option value="">everything</option>
              {RESOURCES.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
        </div>
        {error && <p className="text-signal">{error.message}</p>}
        {data && (
          <Places data={data} places={places} open={open} choose={(key) => set({ open: key })} />
        )}
      </div>
      <div className="min-w-0 px-5 py-3 lg:overflow-y-auto">
        {open && data && <Place key={keyOf(open)} growth={open} view={data} />}
      </div>
    </div>
  );
}

function Places({
  data,
  places,
  open,
  choose,
}: {
  data: GrowthView;
  places: readonly Growth[];
  open: Growth | undefined;
  choose: (key: string) => void;
}) {
  if (places.length === 0) return <p className="text-faint">Nothing is taken of it yet.</p>;
  return (
    <>
      <table className="w-full text-left text-[13px]">
        <thead>
          <tr className="border-b border-ink text-xs">
            <th>Where</th>
            <th>What</th>
            <th className="w-[110px] pl-2">Taken</th>
            <th className="w-[150px] pl-3">Runs out</th>
          </tr>
        </thead>
        <tbody>
          {places.map((one) => (
            <tr
              key={keyOf(one)}
              className={`border-b border-rule align-baseline ${one === open ? 'bg-water' : ''}`}
            >
              <td className="py-1">
                <button
                  type="button"
                  aria-current={one === open || undefined}
                  className="min-h-6 cursor-pointer text-left font-bold"
                  onClick={() => choose(keyOf(one))}
                >
                  {one.place.name}
                </button>
              </td>
              <td>{one.resource}</td>
              <td className="pl-2 align-middle">
                <Gauge
                  label={`${one.resource} taken of ${one.place.name}`}
                  percent={one.limit > 0 ? (one.taken / one.limit) * 100 : 100}
                />
              </td>
              <td className="pl-3">
                <Short growth={one} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-[13px] text-faint">
        From {data.from.slice(0, 10)} on: {counted(data.entries, 'entry', 'entries')} of the log.
        {data.placesInAll > data.places.length &&
          ` The ${data.places.length} most urgent of ${data.placesInAll} places.`}
      </p>
    </>
  );
}

function Short({ growth: { runway } }: { growth: Growth }) {
  if (!runway) return <span className="text-faint">nothing altered</span>;
  if (runway.state === 'full already') return <b className="text-signal">■ full already</b>;
  if (runway.state === 'not filling') return <span className="text-faint">not filling</span>;
  if (runway.notBefore) return <span className="text-faint">not before {runway.notBefore}</span>;
  return <b className="mono">{runway.on}</b>;
}

function Place({ growth, view }: { growth: Growth; view: GrowthView }) {
  const { place, resource, taken, limit, points, runway, measured } = growth;
  const first = points[0]!;
  const given = givenOf(growth);
  return (
    <article aria-label={`${resource} of ${place.name}`}>
      <h2 className="text-[18px] font-bold">
        {place.name}, {resource}
      </h2>
      <p>
        <span className="mono">{amount(growth, taken)}</span> taken of{' '}
        <span className="mono">{amount(growth, limit)}</span> that may be; on{' '}
        {first.at.slice(0, 10)} it was <span className="mono">{amount(growth, first.taken)}</span>.
        {measured &&
          ` Measured inside ${measured.guests} of ${counted(measured.of, 'guest')} in service.`}
      </p>
      <p>
        Runs out:{' '}
        <Until runway={runway} reached="full already" none="nothing altered in this time" />
      </p>
      <Course growth={growth} />
      {given && (
        <Part title="If bought">
          <BuyList growth={growth} view={view} given={given} />
        </Part>
      )}
    </article>
  );
}

function Course({ growth }: { growth: Growth }) {
  const data = growth.points.map(({ at, taken, limit }) => ({
    time: Date.parse(at),
    taken,
    limit,
  }));
  return (
    <figure className="mt-2">
      <figcaption className="mb-1 text-xs font-bold text-faint">
        Taken, and what may be taken (line)
      </figcaption>
      <ResponsiveContainer width="100%" height={210}>
        <ComposedChart data={data} margin={{ left: 10, right: 20, top: 6 }}>
          <CartesianGrid {...GRID} />
          <XAxis {...TIME_AXIS} />
          <YAxis
            tickFormatter={(value: number) => amount(growth, value)}
            width={84}
            {...VALUE_AXIS}
            {...(growth.unit === 'MiB' || growth.unit === 'bytes'
              ? sizeAxis(0, Math.max(...data.map(({ taken, limit }) => Math.max(taken, limit))))
              : { domain: [0, 'auto'] as [number, string] })}
          />
          <AreaMark
            dataKey="taken"
            type="stepAfter"
            stroke="var(--used)"
            strokeWidth={2}
            fill="var(--sand)"
            isAnimationActive={false}
          />
          <Line
            dataKey="limit"
            type="stepAfter"
            stroke="var(--ink)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}
