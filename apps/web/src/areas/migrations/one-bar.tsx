/** One move of the timetable: dragged, moved by keys, opened by a click. */
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { useNavigate } from 'react-router';
import type { Bar, Moving } from './move-bars.js';
import { minuteOf } from '../../components/minute.js';

const DAY = 86_400_000;
const HALF_HOUR = 1_800_000;
/** A window is begun on the quarter of an hour, as people write times. */
const QUARTER = 900_000;

export function OneBar({
  bar,
  top,
  at,
  width,
  span,
  zone,
  move,
  hold,
}: {
  bar: Bar;
  top: number;
  at: (time: string) => string;
  width: (from: string, to: string) => string;
  /** Of the whole lane, in ms. */
  span: number;
  /** Clock by which times are told. */
  zone: string;
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
    `${bar.guest}, ${bar.state}, ${minuteOf(bar.from, zone)} to ${minuteOf(bar.to, zone)} ${zone}`,
    bar.decideBy && `decide by ${minuteOf(bar.decideBy, zone)}`,
    bar.overruns && 'longer than its window',
    bar.shut.length > 0 && 'at another time than allowed',
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
          {(bar.overruns || bar.shut.length > 0) && (
            <span className="font-bold text-amber">◆ </span>
          )}
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
