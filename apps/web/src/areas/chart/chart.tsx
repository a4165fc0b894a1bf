/** The chart: every host on one scale, grouped by site and rack, and what leaves and lands when something fails. */
import type { ChartHost, ChartView, ToleranceView } from '@insel/contract';
import { counted, formatMemory, type FailureOutcome } from '@insel/core';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { FailurePanel, TolerancePanel } from './failure.js';
import { HostSquare, Wash, type Arrival, type Scale } from './square.js';
import { read, useRead } from '../../frame/read.js';
import { useStandpoint } from '../../frame/standpoint.js';

/** The largest host's sides, in pixels. */
const LARGEST = { x: 180, y: 190 };

export function Chart() {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  const [label, networkId] = [search.get('label') ?? '', search.get('network') ?? ''];
  const filter = { label, networkId };
  const chart = useInfiniteQuery({
    queryKey: ['chart', filter, useStandpoint()],
    queryFn: ({ pageParam }) => read('chart', { ...filter, from: pageParam }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const shown = pages.reduce((sum, page) => sum + page.hosts.length, 0);
      return shown < last.matching && last.hosts.length > 0 ? shown : undefined;
    },
    placeholderData: keepPreviousData,
  });
  const tolerance = useRead('tolerance');
  const [kind, failedId] = (search.get('fails') ?? '').split(':');
  const failure = useRead('failure', kind && failedId ? { kind, id: failedId } : null);
  if (chart.error) return <p className="p-6 text-signal">{chart.error.message}</p>;
  if (!chart.data) return null;
  const [{ networks, totals, labels, largest, matching }] = chart.data.pages as [
    ChartView,
    ...ChartView[],
  ];
  const hosts = chart.data.pages.flatMap((page) => page.hosts);
  if (matching === 0 && !label && !networkId)
    return (
      <p className="p-6 text-faint">
        The chart shows each host as a square and its guests as a course through it.{' '}
        {mayPlan && (
          <Link className="act" to="/hosts/new">
            Record the first host
          </Link>
        )}
      </p>
    );
  const own = search.get('scale') === 'own';
  const scaleOf = (host: { vcpu: number; memoryMiB: number }): Scale => ({
    x: LARGEST.x / Math.max(1, host.vcpu),
    y: LARGEST.y / Math.max(1, host.memoryMiB),
  });
  const one = scaleOf(largest);
  const outcome = failedId ? failure.data : undefined;
  const arrivals = arrivalsOf(outcome, hosts);
  const fallen = new Set(outcome?.fallenIds);
  const fails = (value: string) => set({ fails: value });
  return (
    <div className="flex h-full min-h-0 flex-col md:flex-row">
      <Wash />
      <div className="min-h-0 flex-1 overflow-y-auto px-6 py-3">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <h1 className="!text-[14px] !font-normal">
            Across <b>vCPU</b>, upwards <b>GiB of memory</b>,{' '}
            <button type="button" className="act" onClick={() => set({ scale: own ? '' : 'own' })}>
              {own ? 'each to its own scale' : 'one scale for all'}
            </button>
          </h1>
          <span className="ml-auto flex flex-wrap items-center gap-3">
            <label className="flex items-center gap-1">
              What if{' '}
              <FailsSelect
                value={search.get('fails') ?? ''}
                onChange={fails}
                view={tolerance.data}
              />{' '}
              fails
            </label>
            <label className="flex items-center gap-1">
              Purpose{' '}
              <select value={label} onChange={(event) => set({ label: event.target.value })}>
                <option value="">any</option>
                {labels.map((found) => (
                  <option key={found}>{found}</option>
                ))}
              </select>
            </label>
            <label className="flex items-center gap-1">
              Network{' '}
              <select value={networkId} onChange={(event) => set({ network: event.target.value })}>
                <option value="">any</option>
                {networks.map((network) => (
                  <option key={network.id} value={network.id}>
                    {network.name}
                  </option>
                ))}
              </select>
            </label>
          </span>
        </div>
        <p className="text-[13px] text-faint">
          In all: {counted(totals.hosts, 'host')} in service or maintenance, {totals.cores} cores,{' '}
          <span className="mono">
            {totals.vcpuTaken} of {totals.vcpuForGuests}
          </span>{' '}
          vCPU and{' '}
          <span className="mono">
            {formatMemory(totals.memoryTakenMiB)} of {formatMemory(totals.memoryForGuestsMiB)}
          </span>{' '}
          taken; nested hosts are not counted again.
        </p>
        <div className="flex flex-wrap items-end gap-x-10">
          {groupsOf(hosts).map(([place, members]) => (
            <section key={place} aria-label={place} className="mt-3">
              <h2 className="border-b border-rule pb-0.5 text-[13px] font-bold">{place}</h2>
              <div className="mt-1 flex flex-wrap items-end gap-x-7 gap-y-4">
                {members.map((host) => (
                  <HostSquare
                    key={host.id}
                    host={host}
                    scale={own ? scaleOf(host) : one}
                    arriving={arrivals.get(host.id)}
                    fallen={fallen.has(host.id)}
                  />
                ))}
              </div>
            </section>
          ))}
        </div>
        {chart.hasNextPage && (
          <button type="button" className="act mt-3" onClick={() => void chart.fetchNextPage()}>
            {hosts.length} of {matching} hosts: draw more
          </button>
        )}
        {hosts.length === 0 && (
          <p className="mt-4 text-faint">No host has that purpose and carries that network.</p>
        )}
      </div>
      <aside
        aria-label="What may fail"
        className="w-full shrink-0 overflow-y-auto border-l border-ink px-5 py-3 md:w-[360px]"
      >
        {failedId ? (
          <>
            {outcome ? (
              <FailurePanel outcome={outcome} />
            ) : (
              <p className="text-faint">{failure.error?.message ?? 'Looking for places …'}</p>
            )}
            <button type="button" className="act mt-2" onClick={() => fails('')}>
              Leave this what-if
            </button>
          </>
        ) : (
          <TolerancePanel view={tolerance.data} choose={(chosen, id) => fails(`${chosen}:${id}`)} />
        )}
      </aside>
    </div>
  );
}

function FailsSelect({
  value,
  onChange,
  view,
}: {
  value: string;
  onChange: (value: string) => void;
  view: ToleranceView | undefined;
}) {
  const groups = view
    ? ([
        ['host', view.tolerance.hosts],
        ['rack', view.tolerance.racks],
        ['site', view.tolerance.sites],
        ['switch', view.tolerance.switches],
      ] as const)
    : [];
  const [kind, ids = ''] = value.split(':');
  const together = kind === 'host' || kind === 'hosts' ? ids.split('+') : [];
  return (
    <>
      <select
        aria-label="What fails"
        className="border-b-2 !border-dashed !border-pencil text-pencil"
        value={together.length > 0 ? `host:${together[0]}` : value}
        onChange={(event) => onChange(event.target.value)}
      >
        <option value="">nothing</option>
        {groups.map(
          ([kind, lines]) =>
            lines.length > 0 && (
              <optgroup key={kind} label={`a ${kind}`}>
                {lines.map(({ failed }) => (
                  <option key={failed.id} value={`${kind}:${failed.id}`}>
                    {kind === 'host' ? failed.name : `${kind} ${failed.name}`}
                  </option>
                ))}
              </optgroup>
            ),
        )}
      </select>
      {together.length > 0 && (
        <select
          aria-label="And at once"
          className="ml-1 border-b-2 !border-dashed !border-pencil text-pencil"
          value={together[1] ?? ''}
          onChange={(event) =>
            onChange(
              event.target.value
                ? `hosts:${together[0]}+${event.target.value}`
                : `host:${together[0]}`,
            )
          }
        >
          <option value="">alone</option>
          {view?.tolerance.hosts
            .filter(({ failed }) => failed.id !== together[0])
            .map(({ failed }) => (
              <option key={failed.id} value={failed.id}>
                and {failed.name}
              </option>
            ))}
        </select>
      )}
    </>
  );
}

/** Site, and rack where there is one. */
function groupsOf(hosts: readonly ChartHost[]): [string, ChartHost[]][] {
  const groups = new Map<string, ChartHost[]>();
  for (const host of hosts) {
    const place = [host.site || 'No site', host.rack].filter(Boolean).join(', ');
    groups.set(place, [...(groups.get(place) ?? []), host]);
  }
  return [...groups];
}

function arrivalsOf(
  outcome: FailureOutcome | undefined,
  hosts: readonly ChartHost[],
): Map<string, Arrival[]> {
  const arrivals = new Map<string, Arrival[]>();
  for (const guest of outcome?.guests ?? []) {
    if (!guest.onHostId) continue;
    const drawn = hosts
      .find((host) => host.id === guest.hostId)
      ?.guests.find((found) => found.id === guest.guestId);
    const arrival = {
      id: guest.guestId,
      name: guest.name,
      vcpu: guest.vcpu,
      memoryMiB: drawn?.memoryMiB ?? guest.memoryMiB,
    };
    arrivals.set(guest.onHostId, [...(arrivals.get(guest.onHostId) ?? []), arrival]);
  }
  return arrivals;
}
