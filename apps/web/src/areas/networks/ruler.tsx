/** A subnet drawn in address order, wrapped in lines: runs as bars, conflicts as flags above, the scale below. */
import type { HeldView, PlanSheet, RunView, SubnetView } from '@insel/contract';
import { addressOf, formatAddress, prefixOf, total } from '@insel/core';
import { useState, type PointerEvent } from 'react';

const LINES = 4;
const SHORT: Record<string, string> = {
  resting: 'resting',
  aside: 'not offered',
  held: 'held',
  dynamic: 'dynamic',
  reserved: 'kept free',
  free: 'free',
  gateway: 'gateway',
  network: 'network',
  broadcast: 'broadcast',
  anycast: 'anycast',
};
const PAINT: Record<string, string> = {
  resting: 'bg-sand border border-dashed border-used',
  aside: 'bg-ground border border-rule',
  held: 'bg-ink',
  dynamic: 'wash border border-used',
  reserved: 'bg-sand border border-used',
  free: 'bg-water',
  gateway: 'bg-teal',
  network: 'bg-used',
  broadcast: 'bg-used',
  anycast: 'bg-used',
};

/** The last part of an address, as people say it: ".37". */
const tail = (ip: string): string =>
  ip.includes(':') ? ip.slice(ip.lastIndexOf(':')) : `.${ip.split('.').slice(3)}`;

/** @param onRange called with the first and last address of a stretch dragged over */
export function AddressRuler({
  subnet,
  pencilled = [],
  onRange,
}: {
  subnet: SubnetView;
  /** What a plan gives out or back. */
  pencilled?: readonly Pencilled[];
  onRange?: (firstIp: string, lastIp: string) => void;
}) {
  const [drag, setDrag] = useState<{ from: bigint; to: bigint } | null>(null);
  const prefix = prefixOf(subnet.prefix);
  const size = total(prefix);
  const lines = size > 128n && prefix.family === 4 ? (size > 256n ? LINES : 2) : 1;
  const span = size / BigInt(lines);
  const finish = () => {
    if (drag && drag.from !== drag.to && onRange) {
      const [first, last] = drag.from < drag.to ? [drag.from, drag.to] : [drag.to, drag.from];
      onRange(
        formatAddress({ family: prefix.family, value: first }),
        formatAddress({ family: prefix.family, value: last }),
      );
    }
    setDrag(null);
  };
  const flags = subnet.held.filter((held) => held.inRange && held.use !== 'reservation');
  return (
    <div
      role="img"
      aria-label={`Address ruler of ${subnet.prefix}: ${subnet.runs
        .map((run) => `${SHORT[run.kind]} ${run.first} to ${run.last}`)
        .slice(0, 40)
        .join('; ')}${pencilled
        .map(({ ip, how }) => `; ${ip} ${how === 'new' ? 'given out' : 'given back'} by the plan`)
        .join('')}`}
      className="max-w-[720px]"
    >
      {Array.from({ length: lines }, (_, line) => {
        const first = prefix.first + span * BigInt(line);
        return (
          <RulerLine
            key={line}
            first={first}
            last={first + span - 1n}
            family={prefix.family}
            runs={subnet.runs}
            flags={flags}
            pencilled={pencilled}
            drag={drag}
            onDrag={onRange && setDrag}
            onEnd={finish}
          />
        );
      })}
    </div>
  );
}

export type Pencilled = Pick<PlanSheet['addresses'][number], 'ip' | 'how'>;

interface Drag {
  from: bigint;
  to: bigint;
}

function RulerLine({
  first,
  last,
  family,
  runs,
  flags,
  pencilled,
  drag,
  onDrag,
  onEnd,
}: {
  first: bigint;
  last: bigint;
  family: 4 | 6;
  runs: RunView[];
  flags: HeldView[];
  pencilled: readonly Pencilled[];
  drag: Drag | null;
  onDrag?: (drag: Drag) => void;
  onEnd: () => void;
}) {
  const length = last - first + 1n;
  /** Share of the line, in per cent; enough digits for a /64. */
  const share = (n: bigint) => Number((n * 1_000_000n) / length) / 10_000;
  const addressUnder = (event: PointerEvent<HTMLElement>): bigint => {
    const box = event.currentTarget.getBoundingClientRect();
    const part = Math.max(0, Math.min(0.999_999, (event.clientX - box.left) / box.width));
    return first + (BigInt(Math.floor(part * 1_000_000)) * length) / 1_000_000n;
  };
  const here = runs.flatMap((run) => {
    const [a, b] = [addressOf(run.first).value, addressOf(run.last).value];
    if (b < first || a > last) return [];
    const [from, to] = [a < first ? first : a, b > last ? last : b];
    return [{ run, left: share(from - first), width: Math.max(share(to - from + 1n), 0.5) }];
  });
  const drawn = pencilled.filter(
    ({ ip }) => addressOf(ip).value >= first && addressOf(ip).value <= last,
  );
  const raised = flags.filter(
    (held) => addressOf(held.ip).value >= first && addressOf(held.ip).value <= last,
  );
  return (
    <div className="relative mb-2 h-[66px]">
      {raised.map((held) => (
        <span
          key={held.id}
          className="mono absolute top-0 border border-signal px-1 text-[11px] leading-[13px] text-signal"
          style={{ left: `${share(addressOf(held.ip).value - first)}%` }}
          title={`${held.ip} of ${held.holder.name}`}
        >
          {tail(held.ip)}
        </span>
      ))}
      <div
        className={`absolute inset-x-0 top-[17px] h-[16px] bg-water ${onDrag ? 'cursor-crosshair touch-none select-none' : ''}`}
        onPointerDown={(event) => {
          const at = addressUnder(event);
          onDrag?.({ from: at, to: at });
        }}
        onPointerMove={(event) =>
          drag && event.buttons === 1 && onDrag?.({ from: drag.from, to: addressUnder(event) })
        }
        onPointerUp={onEnd}
      >
        {drag && drag.from !== drag.to && (
          <Dragged drag={drag} first={first} last={last} share={share} />
        )}
        {here.map(({ run, left, width }) => (
          <span
            key={run.first}
            className={`absolute inset-y-0 ${PAINT[run.kind]}`}
            style={{ left: `${left}%`, width: `${width}%` }}
            title={`${SHORT[run.kind]} ${run.first} – ${run.last}`}
          />
        ))}
        {drawn.map(({ ip, how }) => (
          <span
            key={`${ip} ${how}`}
            className={`absolute -inset-y-[4px] z-10 border-2 border-pencil ${how === 'new' ? 'bg-raised' : 'border-dashed'}`}
            style={{
              left: `${share(addressOf(ip).value - first)}%`,
              width: `max(6px, ${share(1n)}%)`,
            }}
            title={`${ip} ${how === 'new' ? 'given out' : 'given back'} by the plan`}
          />
        ))}
        {raised.map((held) => (
          <span
            key={held.id}
            className="absolute -inset-y-[3px] w-[2px] bg-signal"
            style={{ left: `${share(addressOf(held.ip).value - first)}%` }}
          />
        ))}
      </div>
      {here.map(
        ({ run, left, width }) =>
          width > 12 && (
            <span
              key={run.first}
              className="mono absolute top-[35px] truncate text-[11px]"
              style={{ left: `${left}%`, maxWidth: `${width}%` }}
            >
              {SHORT[run.kind]}
              {run.count.length < 10 && `, ${run.count}`}
            </span>
          ),
      )}
      <span className="mono absolute bottom-0 left-0 text-[11px] text-faint">
        {tail(formatAddress({ family, value: first }))}
      </span>
      <span className="mono absolute right-0 bottom-0 text-[11px] text-faint">
        {tail(formatAddress({ family, value: last }))}
      </span>
    </div>
  );
}

/** The stretch being dragged over, in pencil: nothing is set apart before it is kept. */
function Dragged({
  drag,
  first,
  last,
  share,
}: {
  drag: Drag;
  first: bigint;
  last: bigint;
  share: (n: bigint) => number;
}) {
  const [low, high] = drag.from < drag.to ? [drag.from, drag.to] : [drag.to, drag.from];
  if (high < first || low > last) return null;
  const [from, to] = [low < first ? first : low, high > last ? last : high];
  return (
    <span
      className="absolute -inset-y-[3px] z-10 border-2 border-dashed border-pencil"
      style={{ left: `${share(from - first)}%`, width: `${share(to - from + 1n)}%` }}
    />
  );
}
