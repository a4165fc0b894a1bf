/**
 * One host as a square: across vCPU, upwards memory; its corner is the capacity, the wash along the far edges the reserve.
 * Guests lie head to tail as a course from the origin, the largest first: its end shows which of both runs out.
 */
import type { ChartHost } from '@insel/contract';
import { counted, formatMemory } from '@insel/core';
import { Link } from 'react-router';
import { Mark } from '../../components/mark.js';

export interface Scale {
  /** Pixels per vCPU and per MiB. */
  x: number;
  y: number;
}

export interface Arrival {
  id: string;
  name: string;
  vcpu: number;
  memoryMiB: number;
}

/** Points of a course that begins at a point and goes on guest by guest. */
export function courseOf(
  guests: readonly { vcpu: number; memoryMiB: number }[],
  from = { vcpu: 0, memoryMiB: 0 },
): { vcpu: number; memoryMiB: number }[] {
  const points = [from];
  for (const guest of guests) {
    const last = points.at(-1)!;
    points.push({ vcpu: last.vcpu + guest.vcpu, memoryMiB: last.memoryMiB + guest.memoryMiB });
  }
  return points;
}

export function HostSquare({
  host,
  scale,
  arriving = [],
  fallen = false,
}: {
  host: ChartHost;
  scale: Scale;
  arriving?: readonly Arrival[];
  fallen?: boolean;
}) {
  const [width, height] = [
    Math.max(28, host.vcpu * scale.x),
    Math.max(20, host.memoryMiB * scale.y),
  ];
  const [kx, ky] = [width / Math.max(1, host.vcpu), height / Math.max(1, host.memoryMiB)];
  const course = courseOf(host.guests);
  const end = course.at(-1)!;
  const after = courseOf(arriving, end);
  const last = after.at(-1)!;
  const over = last.vcpu > host.vcpu || last.memoryMiB > host.memoryMiB;
  const [outerX, outerY] = [
    Math.max(width, last.vcpu * kx) + 7,
    Math.max(height, last.memoryMiB * ky) + 7,
  ];
  const at = ({ vcpu, memoryMiB }: { vcpu: number; memoryMiB: number }) =>
    `${vcpu * kx},${outerY - memoryMiB * ky}`;
  const cross = (point: { vcpu: number; memoryMiB: number }, tone: string) => {
    const [x, y] = [point.vcpu * kx, outerY - point.memoryMiB * ky];
    return <path d={`M${x - 5} ${y}h10M${x} ${y - 5}v10`} stroke={tone} strokeWidth="2.5" />;
  };
  const [reserveX, reserveY] = [host.reserveVcpu * kx, host.reserveMiB * ky];
  const largest = host.guests[0];
  const words = `${host.name}: ${Math.round(end.vcpu)} of ${host.vcpu} vCPU and ${formatMemory(end.memoryMiB)} of ${formatMemory(host.memoryMiB)} taken by ${counted(host.guests.length, 'guest')}${arriving.length ? `, ${arriving.length} more arriving` : ''}`;
  return (
    <figure
      className="w-max max-w-full"
      style={{ contentVisibility: 'auto', containIntrinsicSize: `${outerX}px ${outerY + 60}px` }}
    >
      <svg
        width={outerX + 2}
        height={outerY + 2}
        viewBox={`-1 -1 ${outerX + 2} ${outerY + 2}`}
        role="img"
        aria-label={words}
        className="block overflow-visible"
      >
        <g opacity={fallen ? 0.35 : 1}>
          <rect x="0" y={outerY - height} width={width} height={height} fill="var(--water)" />
          <rect
            x="0"
            y={outerY - Math.min(height, end.memoryMiB * ky)}
            width={Math.min(width, end.vcpu * kx)}
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
            points={course.map(at).join(' ')}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
          {course.slice(1, -1).map((point, i) => (
            <circle
              key={i}
              cx={point.vcpu * kx}
              cy={outerY - point.memoryMiB * ky}
              r="2"
              fill="var(--ink)"
            >
              <title>{host.guests[i]!.name}</title>
            </circle>
          ))}
          {host.guests.length > 0 &&
            cross(
              end,
              end.vcpu > host.vcpu || end.memoryMiB > host.memoryMiB
                ? 'var(--signal)'
                : 'var(--ink)',
            )}
        </g>
        {fallen && (
          <path
            d={`M0 ${outerY - height}L${width} ${outerY}M${width} ${outerY - height}L0 ${outerY}`}
            stroke="var(--pencil)"
            strokeDasharray="5 4"
          />
        )}
        {arriving.length > 0 && (
          <>
            <polyline
              points={after.map(at).join(' ')}
              fill="none"
              stroke="var(--pencil)"
              strokeWidth="1.5"
              strokeDasharray="4 3"
            />
            {cross(last, over ? 'var(--signal)' : 'var(--pencil)')}
          </>
        )}
        {largest && width > 100 && height > 70 && (
          <text x="18" y={outerY - 8} fontSize="12" fill="var(--ink)" fontFamily="var(--font-mono)">
            {largest.name}
          </text>
        )}
      </svg>
      <figcaption className="mt-0.5 text-[13px] leading-tight" style={{ minWidth: 128 }}>
        <span className="flex items-baseline gap-2 text-[14px]">
          <Link className="font-bold" to={`/hosts/${host.id}`}>
            {host.name}
          </Link>{' '}
          {host.state !== 'in service' && <span className="text-faint">{host.state}</span>}{' '}
          {host.nested && <span className="text-faint">nested</span>} <Mark mark={host.finding} />
        </span>
        <span className="mono block">
          {Math.round(end.vcpu)} of {host.vcpu} vCPU
        </span>
        <span className="mono block">
          {gib(end.memoryMiB)} of {gib(host.memoryMiB)} GiB
        </span>
        {host.pools.slice(0, 3).map((pool) => (
          <span
            key={pool.name}
            title={`pool ${pool.name}, ${Math.round(pool.takenPercent)} % promised`}
            className="mt-0.5 block h-[3px] bg-water"
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
