/**
 * One host as a square: across vCPU, upwards memory; its corner is the capacity, the wash along the far edges the reserve.
 * Guests lie head to tail as a course from the origin, the largest first: its end shows which of both runs out.
 */
import type { ChartHost } from '@insel/contract';
import { counted, formatMemory } from '@insel/core';
import { useState, type KeyboardEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { Mark } from '../../components/mark.js';
import type { InPencil } from './in-pencil.js';
import { courseOf, powersBelow, type Arrival, type Point, type Scale } from './course.js';

/** Never smaller than what can be read, whatever the scale. */
const SMALLEST = { x: 28, y: 38 };
const MOST_TIMES_LARGER = 3;
/** Room for what lies beyond the capacity. */
const MARGIN = 7;

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
  const smallest = dense ? { x: 14, y: 20 } : SMALLEST;
  const wanted = Math.max(
    smallest.x / Math.max(1, host.vcpu * scale.x),
    smallest.y / Math.max(1, host.memoryMiB * scale.y),
  );
  const larger = Math.max(1, Math.min(MOST_TIMES_LARGER, wanted));
  const [kx, ky] = [scale.x * larger, scale.y * larger];
  const [width, height] = [Math.max(1, host.vcpu) * kx, Math.max(1, host.memoryMiB) * ky];
  const course = courseOf(host.guests);
  const arriving = pencil ? [...landing, ...pencil.arriving] : landing;
  const end = course.at(-1)!;
  const after = courseOf(arriving, end);
  const last = after.at(-1)!;
  const over = last.vcpu > host.vcpu || last.memoryMiB > host.memoryMiB;
  const [outerX, outerY] = [
    Math.max(width, last.vcpu * kx) + MARGIN,
    Math.max(height, last.memoryMiB * ky) + MARGIN,
  ];
  const x = (point: Point) => point.vcpu * kx;
  const y = (point: Point) => outerY - point.memoryMiB * ky;
  const line = (points: readonly Point[]) => points.map((one) => `${x(one)},${y(one)}`).join(' ');
  const cross = (point: Point, tone: string) => (
    <path
      d={`M${x(point) - 5} ${y(point)}h10M${x(point)} ${y(point) - 5}v10`}
      stroke={tone}
      strokeWidth="2.5"
    />
  );
  const [reserveX, reserveY] = [host.reserveVcpu * kx, host.reserveMiB * ky];
  const words = `${host.name}: ${Math.round(end.vcpu)} of ${host.vcpu} vCPU and ${formatMemory(end.memoryMiB)} of ${formatMemory(host.memoryMiB)} taken by ${counted(host.guests.length, 'guest')}${arriving.length ? `, ${arriving.length} more arriving` : ''}${pencil?.before ? `; without the plan ${Math.round(pencil.before.vcpu)} vCPU and ${formatMemory(pencil.before.memoryMiB)}` : ''}`;
  const shown = at === null ? null : (host.guests[at] ?? null);
  const named = shown ?? (!dense && width > 110 && height > 70 ? host.guests[0] : undefined);
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
      <svg
        width={outerX + 2}
        height={outerY + 2}
        viewBox={`-1 -1 ${outerX + 2} ${outerY + 2}`}
        role="img"
        aria-label={words}
        className="block max-w-full overflow-visible"
      >
        <g opacity={fallen ? 0.35 : 1}>
          <rect x="0" y={outerY - height} width={width} height={height} fill="var(--water)" />
          <rect
            x="0"
            y={outerY - Math.min(height, end.memoryMiB * ky)}
            width={Math.min(width, x(end))}
            height={Math.min(height, end.memoryMiB * ky)}
            fill="var(--sand)"
          />
          {reserveY > 0 && (
            <rect x="0" y={outerY - height} width={width} height={reserveY} fill="url(#wash)" />
          )}
          {reserveX > 0 && (
            <rect
              x={width - reserveX}
              y={outerY - height}
              width={reserveX}
              height={height}
              fill="url(#wash)"
            />
          )}
          <rect
            x="0"
            y={outerY - height}
            width={width}
            height={height}
            fill="none"
            stroke="var(--used)"
            strokeDasharray={host.state === 'in service' ? undefined : '4 3'}
          />
          <polyline
            points={line(course)}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={dense ? 1 : 1.5}
          />
          {host.guests.map(
            (guest, i) =>
              pencil?.touched.has(guest.id) && (
                <polyline
                  key={guest.id}
                  points={line(course.slice(i, i + 2))}
                  fill="none"
                  stroke="var(--pencil)"
                  strokeWidth={dense ? 2 : 3}
                />
              ),
          )}
          {shown && (
            <polyline
              points={line(course.slice(at!, at! + 2))}
              stroke="var(--teal)"
              strokeWidth="4"
            />
          )}
          {host.guests.map((guest, i) => (
            <g key={guest.id} className="cursor-pointer">
              {!dense && i < host.guests.length - 1 && (
                <circle cx={x(course[i + 1]!)} cy={y(course[i + 1]!)} r="2" fill="var(--ink)" />
              )}
              <polyline
                points={line(course.slice(i, i + 2))}
                stroke="transparent"
                strokeWidth="10"
                strokeLinecap="round"
                onPointerEnter={() => setAt(i)}
                onPointerLeave={() => setAt(null)}
                onClick={() => open(guest.id)}
              />
            </g>
          ))}
          {host.guests.length > 0 &&
            cross(
              end,
              end.vcpu > host.vcpu || end.memoryMiB > host.memoryMiB
                ? 'var(--signal)'
                : 'var(--ink)',
            )}
        </g>
        {!dense && (
          <g stroke="var(--used)" fill="var(--faint)" fontSize="10">
            {powersBelow(host.memoryMiB / 1024, height).map((gib) => (
              <g key={gib} transform={`translate(${width} ${outerY - gib * 1024 * ky})`}>
                <path d="M-5 0h8" />
                <text x="5" y="3.5" stroke="none" fontFamily="var(--font-mono)">
                  {gib}
                </text>
              </g>
            ))}
            {powersBelow(host.vcpu, width).map((vcpu) => (
              <path key={vcpu} d={`M${vcpu * kx} ${outerY}v-5`} />
            ))}
          </g>
        )}
        {fallen && (
          <path
            d={`M0 ${outerY - height}L${width} ${outerY}M${width} ${outerY - height}L0 ${outerY}`}
            stroke="var(--pencil)"
            strokeDasharray="5 4"
          />
        )}
        {pencil?.before && (
          <g fill="none" stroke="var(--pencil)">
            <polyline points={line([end, pencil.before])} strokeDasharray="2 3" />
            <rect x={x(pencil.before) - 4} y={y(pencil.before) - 4} width="8" height="8" />
          </g>
        )}
        {arriving.length > 0 && (
          <>
            <polyline
              points={line(after)}
              fill="none"
              stroke="var(--pencil)"
              strokeWidth="1.5"
              strokeDasharray="4 3"
            />
            {cross(last, over ? 'var(--signal)' : 'var(--pencil)')}
          </>
        )}
        {named && (
          <text
            x={shown ? 0 : 18}
            y={shown ? outerY - height - 4 : outerY - 8}
            fontSize="12"
            fontWeight={shown ? 'bold' : undefined}
            fill={shown ? 'var(--teal)' : 'var(--ink)'}
            fontFamily="var(--font-mono)"
            stroke="var(--ground)"
            strokeWidth={shown ? 3 : 0}
            paintOrder="stroke"
          >
            {named.name}
          </text>
        )}
      </svg>
      <figcaption className="mt-0.5 text-[13px] leading-tight" title={dense ? words : undefined}>
        <span className="flex flex-wrap items-baseline gap-x-2 text-[14px]">
          <Link
            className={`inline-block font-bold leading-6 ${dense ? 'max-w-full truncate text-[12px]' : ''}`}
            to={`/hosts/${host.id}`}
          >
            {host.name}
          </Link>{' '}
          {!dense && host.state !== 'in service' && (
            <span className="text-faint">{host.state}</span>
          )}{' '}
          {!dense && host.nested && <span className="text-faint">nested</span>}{' '}
          <Mark mark={host.finding} />
        </span>
        {!dense && (
          <>
            <span className="mono block whitespace-nowrap">
              {Math.round(end.vcpu)} of {host.vcpu} vCPU
            </span>
            <span className="mono block whitespace-nowrap">
              {gib(end.memoryMiB)} of {gib(host.memoryMiB)} GiB
            </span>
            {larger > 1 && (
              <span className="block text-xs text-faint">
                drawn {larger.toFixed(1)} times larger
              </span>
            )}
            {host.pools.slice(0, 3).map((pool) => (
              <span
                key={pool.name}
                title={`pool ${pool.name}, ${Math.round(pool.takenPercent)} % promised`}
                className="mt-0.5 block h-[3px] w-[128px] max-w-full bg-water"
              >
                <span
                  className={`block h-full ${pool.takenPercent > 100 ? 'bg-signal' : 'bg-used'}`}
                  style={{ width: `${Math.min(100, pool.takenPercent)}%` }}
                />
              </span>
            ))}
            {host.bare && (
              <Link className="act text-[12px]" to={`/hosts/facts?host=${host.id}`}>
                take its facts in
              </Link>
            )}
          </>
        )}
      </figcaption>
    </figure>
  );
}

const gib = (mib: number): string => String(Math.round(mib / 1024));

/** The hatching of what is kept free on purpose; once a page. */
export const Wash = () => (
  <svg width="0" height="0" className="absolute" aria-hidden>
    <defs>
      <pattern
        id="wash"
        width="5"
        height="5"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="1" height="5" fill="var(--used)" />
      </pattern>
    </defs>
  </svg>
);
