/** A subnet drawn in address order, wrapped in lines: runs as bars, conflicts as flags above, the scale below. */
import type { HeldView, RunView, SubnetView } from '@insel/contract';
import { addressOf, formatAddress, prefixOf, total } from '@insel/core';

const LINES = 4;
const SHORT: Record<string, string> = { held: 'held', dynamic: 'dynamic', reserved: 'kept free', free: 'free', gateway: 'gateway', network: 'network', broadcast: 'broadcast', anycast: 'anycast' };
const PAINT: Record<string, string> = { held: 'bg-ink', dynamic: 'wash border border-used', reserved: 'bg-sand border border-used', free: 'bg-water', gateway: 'bg-teal', network: 'bg-used', broadcast: 'bg-used', anycast: 'bg-used' };

/** The last part of an address, as people say it: ".37". */
const tail = (ip: string): string => (ip.includes(':') ? ip.slice(ip.lastIndexOf(':')) : `.${ip.split('.').slice(3)}`);

export function AddressRuler({ subnet }: { subnet: SubnetView }) {
  const prefix = prefixOf(subnet.prefix);
  const size = total(prefix);
  const lines = size > 128n && prefix.family === 4 ? (size > 256n ? LINES : 2) : 1;
  const span = size / BigInt(lines);
  const flags = subnet.held.filter((held) => held.inRange && held.use !== 'reservation');
  return (
    <div role="img" aria-label={`Address ruler of ${subnet.prefix}: ${subnet.runs.map((run) => `${SHORT[run.kind]} ${run.first} to ${run.last}`).slice(0, 40).join('; ')}`} className="max-w-[720px]">
      {Array.from({ length: lines }, (_, line) => {
        const first = prefix.first + span * BigInt(line);
        return <RulerLine key={line} first={first} last={first + span - 1n} family={prefix.family} runs={subnet.runs} flags={flags} />;
      })}
    </div>
  );
}

function RulerLine({ first, last, family, runs, flags }: { first: bigint; last: bigint; family: 4 | 6; runs: RunView[]; flags: HeldView[] }) {
  const length = last - first + 1n;
  /** Share of the line, in per cent; enough digits for a /64. */
  const share = (n: bigint) => Number((n * 1_000_000n) / length) / 10_000;
  const here = runs.flatMap((run) => {
    const [a, b] = [addressOf(run.first).value, addressOf(run.last).value];
    if (b < first || a > last) return [];
    const [from, to] = [a < first ? first : a, b > last ? last : b];
    return [{ run, left: share(from - first), width: Math.max(share(to - from + 1n), 0.5) }];
  });
  const raised = flags.filter((held) => addressOf(held.ip).value >= first && addressOf(held.ip).value <= last);
  return (
    <div className="relative mb-2 h-[66px]">
      {raised.map((held) => (
        <span key={held.id} className="mono absolute top-0 border border-signal px-1 text-[11px] leading-[13px] text-signal" style={{ left: `${share(addressOf(held.ip).value - first)}%` }} title={`${held.ip} of ${held.holder.name}`}>
          {tail(held.ip)}
        </span>
      ))}
      <div className="absolute inset-x-0 top-[17px] h-[16px] bg-water">
        {here.map(({ run, left, width }) => (
          <span key={run.first} className={`absolute inset-y-0 ${PAINT[run.kind]}`} style={{ left: `${left}%`, width: `${width}%` }} title={`${SHORT[run.kind]} ${run.first} – ${run.last}`} />
        ))}
        {raised.map((held) => (
          <span key={held.id} className="absolute -inset-y-[3px] w-[2px] bg-signal" style={{ left: `${share(addressOf(held.ip).value - first)}%` }} />
        ))}
      </div>
      {here.map(({ run, left, width }) => width > 12 && (
        <span key={run.first} className="mono absolute top-[35px] truncate text-[11px]" style={{ left: `${left}%`, maxWidth: `${width}%` }}>
          {SHORT[run.kind]}{run.count.length < 10 && `, ${run.count}`}
        </span>
      ))}
      <span className="mono absolute bottom-0 left-0 text-[11px] text-faint">{tail(formatAddress({ family, value: first }))}</span>
      <span className="mono absolute right-0 bottom-0 text-[11px] text-faint">{tail(formatAddress({ family, value: last }))}</span>
    </div>
  );
}
