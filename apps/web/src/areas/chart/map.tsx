/** Many hosts as a map: each a small square, filled as far as it is taken, by site and rack; a site opens its own chart. */
import type { ChartHost } from '@insel/contract';
import { counted, formatMemory } from '@insel/core';
import { Link } from 'react-router';

/** Side of a square, in pixels: what a pointer still meets (WCAG 2.2, 2.5.8). */
const SIDE = 24;

export function HostMap({
  hosts,
  fallen,
  arriving,
  narrow,
}: {
  hosts: readonly ChartHost[];
  fallen: ReadonlySet<string>;
  arriving: ReadonlySet<string>;
  /** Shows one site alone. */
  narrow: (siteId: string) => void;
}) {
  return (
    <>
      <p className="mt-2 text-[13px] text-faint">
        Each square is a host, filled across by vCPU and upwards by memory; red: one of them is
        overfull. A site, a purpose or a network alone shows their guests.
      </p>
      {[...groups(hosts, ({ site }) => site || 'No site')].map(([site, standing]) => {
        const full = standing.filter(isOver).length;
        const { siteId } = standing[0]!;
        return (
          <section key={site} aria-label={site} className="mt-3">
            <h2 className="flex items-baseline gap-3 border-b border-rule pb-0.5 text-[13px] font-bold">
              {siteId ? (
                <button type="button" className="act" onClick={() => narrow(siteId)}>
                  {site}
                </button>
              ) : (
                site
              )}
              <span className="font-normal text-faint">
                {counted(standing.length, 'host')}
                {full > 0 && `, ${full} overfull`}
              </span>
            </h2>
            <div className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(min(267px,100%),1fr))] gap-x-5 gap-y-2">
              {[...groups(standing, ({ rack }) => rack)].map(([rack, members]) => (
                <div key={rack} className="min-w-0">
                  <p className="text-xs text-faint">{rack || 'no rack'}</p>
                  <div className="flex flex-wrap gap-[3px]">
                    {members.map((host) => (
                      <MapSquare
                        key={host.id}
                        host={host}
                        fallen={fallen.has(host.id)}
                        arriving={arriving.has(host.id)}
                      />
                    ))}
                  </div>
                </div>
              ))}
            </div>
          </section>
        );
      })}
    </>
  );
}

function groups(
  hosts: readonly ChartHost[],
  of: (host: ChartHost) => string,
): Map<string, ChartHost[]> {
  const found = new Map<string, ChartHost[]>();
  for (const host of hosts) {
    const members = found.get(of(host));
    if (members) members.push(host);
    else found.set(of(host), [host]);
  }
  return found;
}

const isOver = (host: ChartHost): boolean =>
  host.takenVcpu > host.vcpu || host.takenMiB > host.memoryMiB;

function MapSquare({
  host,
  fallen,
  arriving,
}: {
  host: ChartHost;
  fallen: boolean;
  arriving: boolean;
}) {
  const share = (taken: number, all: number) => SIDE * Math.min(1, all > 0 ? taken / all : 0);
  const [width, height] = [share(host.takenVcpu, host.vcpu), share(host.takenMiB, host.memoryMiB)];
  const words = `${host.name}${host.state === 'in service' ? '' : `, ${host.state}`}: ${Math.round(host.takenVcpu)} of ${host.vcpu} vCPU, ${formatMemory(host.takenMiB)} of ${formatMemory(host.memoryMiB)}${fallen ? ', fails' : ''}${arriving ? ', takes guests over' : ''}`;
  return (
    <Link to={`/hosts/${host.id}`} aria-label={words} title={words} className="block">
      <svg width={SIDE} height={SIDE} aria-hidden className="block">
        <rect width={SIDE} height={SIDE} fill="var(--water)" />
        <rect
          y={SIDE - height}
          width={width}
          height={height}
          fill={isOver(host) ? 'var(--signal)' : 'var(--used)'}
        />
        <rect
          x="0.5"
          y="0.5"
          width={SIDE - 1}
          height={SIDE - 1}
          fill="none"
          stroke={arriving ? 'var(--pencil)' : 'var(--used)'}
          strokeWidth={arriving ? 2 : 1}
          strokeDasharray={host.state === 'in service' ? undefined : '3 2'}
        />
        {fallen && (
          <path
            d={`M0 0L${SIDE} ${SIDE}M${SIDE} 0L0 ${SIDE}`}
            stroke="var(--pencil)"
            strokeWidth="2"
          />
        )}
      </svg>
    </Link>
  );
}
