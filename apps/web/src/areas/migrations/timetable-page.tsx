/**
 * Moves along time, hosts as lanes. A bar is pencil until its move has begun; its window is washed, the time to decide a
 * line. A planned bar is dragged, by quarters of an hour, or moved by keys: arrows by half an hour, with Shift by a day.
 */
import type { TimetableView } from '@insel/contract';
import { counted } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { hrefOf, useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { FindTimes } from './find-times.js';
import { useShift, type Moving } from './move-bars.js';
import { minuteOf } from '../../components/minute.js';
import { OneBar } from './one-bar.js';

const DAY = 86_400_000;

export function TimetablePage() {
  const [search, set] = useUrlState();
  const days = Number(search.get('days') ?? 14);
  const [from, zone] = [search.get('from'), search.get('zone')];
  const found = useRead(
    'timetable',
    { days, ...(from ? { from } : {}), ...(zone ? { zone } : {}) },
    { keep: true },
  ).data;
  const mayPlan = useMayPlan();
  const [finding, setFinding] = useState(search.has('find'));
  const [subscribing, setSubscribing] = useState(false);
  const { shifted, move, hold, problem, anyway } = useShift(found);
  if (!found) return null;
  const shift = (by: number) =>
    set({ from: new Date(Date.parse(found.from) + by * DAY).toISOString() });
  return (
    <div className="h-full overflow-y-auto px-6 py-3 print:overflow-visible print:p-0">
      <div className="mb-2 flex flex-wrap items-baseline gap-4">
        <h1>Timetable</h1>
        <span className="text-[13px] text-faint">
          {minuteOf(found.from, found.zone).slice(0, 10)} to{' '}
          {minuteOf(found.until, found.zone).slice(0, 10)}
        </span>
        <label className="text-[13px]">
          Clock{' '}
          <select value={found.zone} onChange={(event) => set({ zone: event.target.value })}>
            {[...new Set([...found.zones, found.zone])].map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <button type="button" className="act no-print" onClick={() => shift(-7)}>
          A week back
        </button>
        <button type="button" className="act no-print" onClick={() => shift(7)}>
          A week on
        </button>
        <label className="text-[13px]">
          Days{' '}
          <select value={days} onChange={(event) => set({ days: event.target.value })}>
            {[2, 7, 14, 31, 92].map((many) => (
              <option key={many}>{many}</option>
            ))}
          </select>
        </label>
        {mayPlan && (
          <button
            type="button"
            className="act no-print ml-auto"
            aria-expanded={finding}
            onClick={() => setFinding(!finding)}
          >
            Find times
          </button>
        )}
        <a className="act no-print" href={hrefOf('calendar')} download="migrations.ics">
          Take as a calendar
        </a>
        <button
          type="button"
          className="act no-print"
          aria-expanded={subscribing}
          onClick={() => setSubscribing(!subscribing)}
        >
          Subscribe
        </button>
        <button type="button" className="act no-print" onClick={() => window.print()}>
          Print
        </button>
      </div>
      {subscribing && (
        <p className="mb-2">
          A calendar program asks for{' '}
          <span className="mono">{new URL(hrefOf('calendar'), location.href).href}</span> by your
          name and, as the password, a token that you make under{' '}
          <Link className="act" to="/account">
            your account
          </Link>
          . Revoke the token and it hears nothing more.
        </p>
      )}
      {finding && <FindTimes zone={found.zone} close={() => setFinding(false)} />}
      {found.crowded.map((crowd) => (
        <p key={`${crowd.at}${crowd.from}`}>
          <span className="font-bold text-amber">◆ Too many at once</span> at{' '}
          {found.lanes.find(({ id }) => id === crowd.at)?.name} from{' '}
          {minuteOf(crowd.from, found.zone)} to {minuteOf(crowd.to, found.zone)}:{' '}
          {crowd.guests.join(', ')}; its link bears {crowd.allowed}.
        </p>
      ))}
      {shifted
        .filter(({ shut }) => shut.length > 0)
        .map((bar) => (
          <p key={bar.id}>
            <span className="font-bold text-amber">◆ At another time than allowed:</span>{' '}
            <Link className="underline decoration-rule" to={`/migrations/${bar.id}`}>
              {bar.guest}
            </Link>
            , though {bar.shut.join('; ')}.
          </p>
        ))}
      <ProblemNote problem={problem} anyway={anyway} />
      {found.bars.length === 0 ? (
        <p className="text-faint">
          No move in these days. A planned move stands here once it has a window.
        </p>
      ) : (
        <Lanes
          found={{ ...found, bars: shifted }}
          move={mayPlan ? move : () => undefined}
          hold={hold}
        />
      )}
      {found.loose.length > 0 && (
        <p className="mt-3 text-[13px]">
          {counted(found.loose.length, 'move')} planned for no time:{' '}
          {found.loose.map(({ id, guest }) => (
            <Link key={id} className="mr-3 underline decoration-rule" to={`/migrations/${id}`}>
              {guest}
            </Link>
          ))}
        </p>
      )}
    </div>
  );
}

function Lanes({ found, move, hold }: { found: TimetableView } & Moving) {
  const [first, last] = [Date.parse(found.from), Date.parse(found.until)];
  const at = (time: string) =>
    `${Math.max(0, Math.min(100, ((Date.parse(time) - first) / (last - first)) * 100))}%`;
  const width = (from: string, to: string) => {
    const [a, b] = [from, to].map((time) => Math.max(first, Math.min(last, Date.parse(time))));
    return `${((b! - a!) / (last - first)) * 100}%`;
  };
  const days = Math.round((last - first) / DAY);
  const step = days > 31 ? 7 : days > 14 ? 2 : 1;
  const ticks = found.midnights.filter((_, i) => i % step === 0);
  return (
    <div className="relative grid grid-cols-[110px_1fr]">
      <span />
      <div className="relative h-6 border-b border-ink text-xs text-faint">
        {ticks.map((time) => (
          <span key={time} className="mono absolute" style={{ left: at(time) }}>
            {minuteOf(time, found.zone).slice(5, 10)}
          </span>
        ))}
      </div>
      {found.lanes.map((lane) => {
        const bars = found.bars.filter((bar) => bar.target.id === lane.id);
        const leaving = found.bars.filter(
          (bar) => bar.source.id === lane.id && bar.target.id !== lane.id,
        );
        return (
          <div key={lane.id} className="contents">
            <Link
              to={lane.kind === 'host' ? `/hosts/${lane.id}` : `/networks/devices?open=${lane.id}`}
              className="border-b border-rule py-1 font-bold underline decoration-rule"
              title={lane.said ? `Moves fit when ${lane.said}` : undefined}
            >
              {lane.name}
            </Link>
            <ol
              aria-label={`Moves to ${lane.name}`}
              className="relative border-b border-rule"
              style={{ height: Math.max(32, 28 * bars.length + 4) }}
            >
              {lane.open?.map((one) => (
                <li
                  key={one.from}
                  aria-hidden
                  className="absolute inset-y-0 bg-water"
                  style={{ left: at(one.from), width: width(one.from, one.until) }}
                />
              ))}
              {ticks.map((time) => (
                <li
                  key={time}
                  aria-hidden
                  className="absolute inset-y-0 border-l border-rule"
                  style={{ left: at(time) }}
                />
              ))}
              {leaving.map((bar) => (
                <li
                  key={bar.id}
                  aria-hidden
                  title={`${bar.guest} leaves`}
                  className="absolute bottom-0 border-b-2 border-dotted border-pencil"
                  style={{ left: at(bar.from), width: width(bar.from, bar.to), minWidth: 4 }}
                />
              ))}
              {bars.map((bar, row) => (
                <OneBar
                  key={bar.id}
                  bar={bar}
                  top={28 * row + 3}
                  at={at}
                  width={width}
                  span={last - first}
                  zone={found.zone}
                  move={move}
                  hold={hold}
                />
              ))}
              <li
                aria-hidden
                className="absolute inset-y-0 border-l-2 border-teal"
                style={{ left: at(found.now) }}
              />
            </ol>
          </div>
        );
      })}
    </div>
  );
}
