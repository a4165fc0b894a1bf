/**
 * One host as a square: across vCPU, upwards memory; its corner is the capacity, the wash along the far edges the reserve.
 * Guests lie head to tail as a course from the origin, the largest first: its end shows which of both runs out.
 */
import type { ChartHost } from '@insel/contract';
import { counted, formatMemory } from '@insel/core';
import { useState, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import type { InPencil } from './in-pencil.js';
import type { Arrival, Scale } from './course.js';
import { SquareCaption } from './square-caption.js';
import { SquareDrawing } from './square-drawing.js';
import { squareMeasures } from './square-measures.js';

export function HostSquare({
  host,
  scale,
  dense,
  arriving: landing = [],
  pencil,
  fallen = false,
}: {
  host: ChartHost;
  scale: Scale;
  dense: boolean;
  arriving?: readonly Arrival[];
  /** What a plan does to it. */
  pencil?: InPencil;
  fallen?: boolean;
}) {
  const go = useNavigate();
  const [at, setAt] = useState<number | null>(null);
  const measures = squareMeasures(host, scale, dense, landing, pencil);
  const { arriving, end, outerX, outerY } = measures;
  const words = `${host.name}: ${Math.round(end.vcpu)} of ${host.vcpu} vCPU and ${formatMemory(end.memoryMiB)} of ${formatMemory(host.memoryMiB)} taken by ${counted(host.guests.length, 'guest')}${arriving.length ? `, ${arriving.length} more arriving` : ''}${pencil?.before ? `; without the plan ${Math.round(pencil.before.vcpu)} vCPU and ${formatMemory(pencil.before.memoryMiB)}` : ''}`;
  const shown = at === null ? null : (host.guests[at] ?? null);
  const open = (id: string) => void go(`/guests/${id}`);
  const onKeyDown = (event: KeyboardEvent) => {
    const most = host.guests.length - 1;
    const to: Record<string, number> = {
      ...{ ArrowRight: (at ?? -1) + 1, ArrowUp: (at ?? -1) + 1, Home: 0 },
      ...{ ArrowLeft: (at ?? 1) - 1, ArrowDown: (at ?? 1) - 1, End: most },
    };
    const next = to[event.key];
    if (next !== undefined) {
      event.preventDefault();
      setAt(Math.max(0, Math.min(most, next)));
    } else if (event.key === 'Enter' && shown) open(shown.id);
  };
  return (
    <figure
      className="relative max-w-full"
      style={{ contentVisibility: 'auto', containIntrinsicSize: `${outerX}px ${outerY + 60}px` }}
    >
      {host.guests.length > 0 && (
        <div
          role="listbox"
          tabIndex={0}
          aria-label={`Guests of ${host.name}: arrows move, Enter opens`}
          aria-activedescendant={shown ? `on-${host.id}` : undefined}
          className="pointer-events-none absolute inset-x-0 top-0"
          // Away from the name below: two targets that touch are hard to meet (WCAG 2.2, 2.5.8).
          style={{ height: Math.max(0, outerY - 10) }}
          onKeyDown={onKeyDown}
          onBlur={() => setAt(null)}
        >
          {shown && (
            <span
              role="option"
              id={`on-${host.id}`}
              aria-selected
              aria-setsize={host.guests.length}
              aria-posinset={at! + 1}
              className="sr-only"
            >
              {shown.name}, {shown.vcpu} vCPU, {formatMemory(shown.memoryMiB)}
            </span>
          )}
        </div>
      )}
      <SquareDrawing
        {...{ host, dense, fallen, pencil, words, at, measures }}
        onAt={setAt}
        onOpen={open}
      />
      <SquareCaption {...{ host, dense, words, measures }} />
    </figure>
  );
}
