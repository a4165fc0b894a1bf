/** The chart: every host on one scale, grouped by site and rack, and what leaves and lands when something fails. */
import type { ChartHost, ChartView, FailureView } from '@insel/contract';
import { counted, formatMemory } from '@insel/core';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { usePlanDrawn } from '../../client/in-plan.js';
import { NarrowBy } from '../../components/narrow-by.js';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { FailurePanel, TolerancePanel } from './failure.js';
import type { Arrival, Scale } from './course.js';
import { inPencil } from './in-pencil.js';
import { FailsSelect } from './fails-select.js';
import { HostMap } from './map.js';
import { PlaceGrid } from './place-grid.js';
import { HostSquare } from './square.js';
import { Wash } from './wash.js';
import { read, useRead } from '../../client/read.js';
import { useStandpoint } from '../../client/standpoint.js';

/** Least width of a host's place in the grid, in pixels, and the sides of the largest one. */
const CELL = { full: 150, dense: 74 };
const LARGEST = { full: { x: 126, y: 150 }, dense: { x: 62, y: 66 } };

export function Chart() {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  const [label, networkId] = [search.get('label') ?? '', search.get('network') ?? ''];
  const siteId = search.get('site') ?? '';
  const filter = { label, networkId, siteId };
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
  const drawn = usePlanDrawn();
  const tolerance = useRead('tolerance');
  const [kind, failedId] = (search.get('fails') ?? '').split(':');
  const failure = useRead('failure', kind && failedId ? { kind, id: failedId } : null);
  if (chart.error) return <p className="p-6 text-signal">{chart.error.message}</p>;
  if (!chart.data) return null;
  const [{ form, networks, sites, totals, labels, largest, matching }] = chart.data.pages as [
    ChartView,
    ...ChartView[],
  ];
  const hosts = chart.data.pages.flatMap((page) => page.hosts);
  if (matching === 0 && !label && !networkId && !siteId)
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
  const sides = LARGEST[form === 'dense' ? 'dense' : 'full'];
  const scaleOf = (host: { vcpu: number; memoryMiB: number }): Scale => ({
    x: sides.x / Math.max(1, host.vcpu),
    y: sides.y / Math.max(1, host.memoryMiB),
  });
  const one = scaleOf(largest);
  const outcome = failedId ? failure.data : undefined;
  const arrivals = arrivalsOf(outcome, hosts);
  const fallen = new Set(outcome?.fallenIds);
  const moves = drawn?.moves ?? [];
  const fails = (value: string) => set({ fails: value });
  return (
    <div className="flex h-full min-h-0 flex-col overflow-y-auto md:flex-row md:overflow-hidden">
      <Wash />
      <div className="shrink-0 px-6 py-3 md:min-h-0 md:flex-1 md:shrink md:overflow-y-auto">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <h1 className="mr-auto !text-[14px] !font-normal">
            <b>vCPU</b> across, <b>GiB</b> upwards
          </h1>
          <FailsSelect value={search.get('fails') ?? ''} onChange={fails} view={tolerance.data} />
          <NarrowBy field="site" any="any site" rows={sites} />
          <NarrowBy
            field="label"
            any="any purpose"
            rows={labels.map((found) => ({ id: found, name: found }))}
          />
          <NarrowBy field="network" any="any network" rows={networks} />
        </div>
        <p className="text-[13px] text-faint">
          {counted(totals.hosts, 'host')} in service or maintenance, {totals.cores} cores,{' '}
          <span className="mono">
            {totals.vcpuTaken} of {totals.vcpuForGuests}
          </span>{' '}
          vCPU and{' '}
          <span className="mono">
            {formatMemory(totals.memoryTakenMiB)} of {formatMemory(totals.memoryForGuestsMiB)}
          </span>{' '}
          taken; nested hosts count once.
          {form !== 'map' && (
            <button
              type="button"
              className="act ml-3"
              onClick={() => set({ scale: own ? '' : 'own' })}
            >
              {own ? 'each to its own scale' : 'one scale for all'}
            </button>
          )}
        </p>
        {moves.length > 0 && form !== 'map' && (
          <p className="text-[13px] text-pencil">
            ✎ In pencil: guests that the plan alters or moves, and where they go; □ is where a
            course ends without it.
          </p>
        )}
        {form === 'map' ? (
          <HostMap
            hosts={hosts}
            fallen={fallen}
            arriving={new Set(arrivals.keys())}
            narrow={(site) => set({ site })}
          />
        ) : (
          <PlaceGrid
            groups={groupsOf(hosts)}
            cell={CELL[form]}
            draw={(host) => (
              <HostSquare
                key={host.id}
                host={host}
                scale={own ? scaleOf(host) : one}
                dense={form === 'dense'}
                arriving={arrivals.get(host.id)}
                pencil={inPencil(host, moves)}
                fallen={fallen.has(host.id)}
              />
            )}
          />
        )}
        {chart.hasNextPage && (
          <button type="button" className="act mt-3" onClick={() => void chart.fetchNextPage()}>
            {hosts.length} of {matching} hosts: draw more
          </button>
        )}
        {hosts.length === 0 && (
          <p className="mt-4 text-faint">
            No host stands there, has that purpose and carries that network.
          </p>
        )}
      </div>
      <aside
        aria-label="What may fail"
        className="w-full shrink-0 border-l border-ink px-5 py-3 md:w-[360px] md:overflow-y-auto"
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
  outcome: FailureView | undefined,
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
