/**
 * Moves along time, hosts as lanes. A bar is pencil until its move has begun; its window is washed, the time to decide a
 * line. A planned bar is dragged, by quarters of an hour, or moved by keys: arrows by half an hour, with Shift by a day.
 */
import type { TimetableView } from '@insel/contract';
import { counted } from '@insel/core';
import {
  useEffect,
  useEffectEvent,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import { Link, useNavigate } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../frame/change.js';
import { hrefOf, useRead } from '../../frame/read.js';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { FindTimes } from './find-times.js';

type Bar = TimetableView['bars'][number];
const DAY = 86_400_000;
const HALF_HOUR = 1_800_000;
/** A window is begun on the quarter of an hour, as people write times. */
const QUARTER = 900_000;
const minute = (time: string) => time.slice(0, 16).replace('T', ' ');

export function TimetablePage() {
  const [search, set] = useUrlState();
  const days = Number(search.get('days') ?? 14);
  const from = search.get('from');
  const found = useRead('timetable', { days, ...(from ? { from } : {}) }, { keep: true }).data;
  const mayPlan = useMayPlan();
  const [finding, setFinding] = useState(false);
  const { shifted, move, hold, problem, anyway } = useShift(found);
  if (!found) return null;
  const shift = (by: number) =>
    set({ from: new Date(Date.parse(found.from) + by * DAY).toISOString() });
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <div className="mb-2 flex flex-wrap items-baseline gap-4">
        <h1>Timetable</h1>
        <span className="text-[13px] text-faint">
          {found.from.slice(0, 10)} to {found.until.slice(0, 10)}, UTC
        </span>
        <button type="button" className="act" onClick={() => shift(-7)}>
          A week back
        </button>
        <button type="button" className="act" onClick={() => shift(7)}>
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
            className="act ml-auto"
            aria-expanded={finding}
            onClick={() => setFinding(!finding)}
          >
            Find times
          </button>
        )}
        <a className="act" href={hrefOf('calendar')} download="migrations.ics">
          Take as a calendar
        </a>
      </div>
      {finding && <FindTimes close={() => setFinding(false)} />}
      {found.crowded.map((crowd) => (
        <p key={`${crowd.at}${crowd.from}`}>
          <span className="font-bold text-amber">◆ Too many at once</span> at{' '}
          {found.lanes.find(({ id }) => id === crowd.at)?.name} from {minute(crowd.from)} to{' '}
          {minute(crowd.to)}: {crowd.guests.join(', ')}; its link bears {crowd.allowed}.
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

/** So long after the last key, or after a bar is let go, what it comes to is recorded, as one change. */
const SETTLED_MS = 500;

/** A planned bar that is being moved: shown where it goes at once, recorded when keys and pointer rest. */
function useShift(found: TimetableView | undefined) {
  const { make, problem, anyway } = useChange();
  const [shift, setShift] = useState<{ id: string; by: number } | null>(null);
  const [held, hold] = useState(false);
  const bars = found?.bars ?? [];
  const later = (time: string | null, by: number) =>
    time && new Date(Date.parse(time) + by).toISOString();
  const send = useEffectEvent(async () => {
    const bar = bars.find(({ id }) => id === shift?.id);
    if (!shift || !bar || !found) return;
    await make(
      'migration.edit',
      {
        id: bar.id,
        windowFrom: later(bar.windowFrom, shift.by),
        windowUntil: later(bar.windowUntil, shift.by),
      },
      { seen: { id: bar.id, revision: found.revisions[bar.id]! }, quiet: true },
    );
    setShift(null);
  });
  useEffect(() => {
    if (!shift || held) return;
    const timer = setTimeout(() => void send(), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [shift, held]);
  const move = (bar: Bar, by: number) => {
    if (bar.state !== 'planned' || !bar.windowFrom || (shift && shift.id !== bar.id)) return;
    setShift({ id: bar.id, by: (shift?.by ?? 0) + by });
  };
  const shifted = bars.map((bar) =>
    bar.id !== shift?.id
      ? bar
      : {
          ...bar,
          from: later(bar.from, shift.by)!,
          to: later(bar.to, shift.by)!,
          windowFrom: later(bar.windowFrom, shift.by),
          windowUntil: later(bar.windowUntil, shift.by),
          decideBy: later(bar.decideBy, shift.by),
        },
  );
  return { shifted, move, hold, problem, anyway };
}

interface Moving {
  move: (bar: Bar, by: number) => void;
  /** While a bar is held nothing is recorded. */
  hold: (held: boolean) => void;
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
  const ticks = Array.from({ length: Math.ceil(days / step) }, (_, i) =>
    new Date(first + i * step * DAY).toISOString(),
  );
  return (
    <div className="relative grid grid-cols-[110px_1fr]">
      <span />
      <div className="relative h-6 border-b border-ink text-xs text-faint">
        {ticks.map((time) => (
          <span key={time} className="mono absolute" style={{ left: at(time) }}>
            {time.slice(5, 10)}
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
            >
              {lane.name}
            </Link>
            <ol
              aria-label={`Moves to ${lane.name}`}
              className="relative border-b border-rule"
              style={{ height: Math.max(32, 28 * bars.length + 4) }}
            >
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

function OneBar({
  bar,
  top,
  at,
  width,
  span,
  move,
  hold,
}: {
  bar: Bar;
  top: number;
  at: (time: string) => string;
  width: (from: string, to: string) => string;
  /** Of the whole lane, in ms. */
  span: number;
} & Moving) {
  const go = useNavigate();
  const pencil = bar.state === 'planned';
  const drag = useRef<{ x: number; perPixel: number; by: number } | null>(null);
  const dragged = useRef(false);
  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    dragged.current = false;
    const lane = event.currentTarget.closest('ol');
    if (!pencil || event.button !== 0 || !lane) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const perPixel = span / Math.max(1, lane.getBoundingClientRect().width);
    drag.current = { x: event.clientX, perPixel, by: 0 };
    hold(true);
  };
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    const held = drag.current;
    if (!held) return;
    const by = Math.round(((event.clientX - held.x) * held.perPixel) / QUARTER) * QUARTER;
    if (by === held.by) return;
    dragged.current = true;
    move(bar, by - held.by);
    held.by = by;
  };
  const letGo = () => {
    drag.current = null;
    hold(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by || !pencil) return;
    event.preventDefault();
    move(bar, by * (event.shiftKey ? DAY : HALF_HOUR));
  };
  const words = [
    `${bar.guest}, ${bar.state}, ${minute(bar.from)} to ${minute(bar.to)} UTC`,
    bar.decideBy && `decide by ${minute(bar.decideBy)}`,
    bar.overruns && 'longer than its window',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <li>
      {bar.windowFrom && bar.windowUntil && (
        <span
          aria-hidden
          className="wash absolute"
          style={{
            top,
            height: 24,
            left: at(bar.windowFrom),
            width: width(bar.windowFrom, bar.windowUntil),
          }}
        />
      )}
      <button
        type="button"
        aria-label={words}
        title={words}
        className={`absolute flex cursor-pointer touch-pan-y items-center overflow-visible border-2 text-left text-[13px] whitespace-nowrap ${pencil ? 'border-dashed border-pencil text-pencil' : bar.state === 'rolled back' ? 'border-signal' : 'border-ink bg-sand'}`}
        style={{
          top,
          height: 24,
          left: at(bar.from),
          width: width(bar.from, bar.to),
          minWidth: 24,
        }}
        onKeyDown={onKeyDown}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={letGo}
        onPointerCancel={letGo}
        onClick={() => {
          if (!dragged.current) void go(`/migrations/${bar.id}`);
        }}
      >
        <span className="absolute left-full pl-1.5">
          {bar.overruns && <span className="font-bold text-amber">◆ </span>}
          {bar.guest}
        </span>
      </button>
      {bar.decideBy && pencil && (
        <span
          aria-hidden
          className="absolute border-l-2 border-amber"
          style={{ top, height: 24, left: at(bar.decideBy) }}
        />
      )}
    </li>
  );
}
