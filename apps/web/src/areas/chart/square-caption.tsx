/** What stands beneath a host's square: its name, what is taken of it, and its pools. */
import type { ChartHost } from '@insel/contract';
import { Link } from 'react-router';
import { Mark } from '../../components/mark.js';
import type { SquareMeasures } from './square-measures.js';

export function SquareCaption({
  host,
  dense,
  words,
  measures: { end, larger },
}: {
  host: ChartHost;
  dense: boolean;
  words: string;
  measures: SquareMeasures;
}) {
  return (
    <figcaption className="mt-0.5 text-[13px] leading-tight" title={dense ? words : undefined}>
      <span className="flex flex-wrap items-baseline gap-x-2 text-[14px]">
        <Link
          className={`inline-block font-bold leading-6 ${dense ? 'max-w-full truncate text-[12px]' : ''}`}
          to={`/hosts/${host.id}`}
        >
          {host.name}
        </Link>{' '}
        {!dense && host.state !== 'in service' && <span className="text-faint">{host.state}</span>}{' '}
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
            <span className="block text-xs text-faint">drawn {larger.toFixed(1)} times larger</span>
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
  );
}

const gib = (mib: number): string => String(Math.round(mib / 1024));
