/** The drawing of a host's square: water, sand, wash, the course of its guests, and in pencil what is to come. */
import type { ChartHost } from '@insel/contract';
import { powersBelow, type Point } from './course.js';
import type { InPencil } from './in-pencil.js';
import type { SquareMeasures } from './square-measures.js';

export function SquareDrawing({
  host,
  dense,
  fallen,
  pencil,
  words,
  at,
  onAt,
  onOpen,
  measures,
}: {
  host: ChartHost;
  dense: boolean;
  fallen: boolean;
  pencil: InPencil | undefined;
  /** The drawing in words. */
  words: string;
  /** Which guest is looked at. */
  at: number | null;
  onAt: (at: number | null) => void;
  onOpen: (guestId: string) => void;
  measures: SquareMeasures;
}) {
  const { kx, ky, width, height, outerX, outerY } = measures;
  const { course, end, arriving, after, last, over, x, y, line } = measures;
  const cross = (point: Point, tone: string) => (
    <path
      d={`M${x(point) - 5} ${y(point)}h10M${x(point)} ${y(point) - 5}v10`}
      stroke={tone}
      strokeWidth="2.5"
    />
  );
  const [reserveX, reserveY] = [host.reserveVcpu * kx, host.reserveMiB * ky];
  const shown = at === null ? null : (host.guests[at] ?? null);
  const named = shown ?? (!dense && width > 110 && height > 70 ? host.guests[0] : undefined);
  return (
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
              onPointerEnter={() => onAt(i)}
              onPointerLeave={() => onAt(null)}
              onClick={() => onOpen(guest.id)}
            />
          </g>
        ))}
        {host.guests.length > 0 &&
          cross(
            end,
            end.vcpu > host.vcpu || end.memoryMiB > host.memoryMiB ? 'var(--signal)' : 'var(--ink)',
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
  );
}
