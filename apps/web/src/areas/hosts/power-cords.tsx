/** Into which feed each supply of a host is plugged. */
import type { HostSheet } from '@insel/contract';
import { ProblemNote } from '../../components/problem.js';
import { Fact } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { NamedSelect } from '../../components/named-select.js';

export function PowerCords({ sheet: { host, feeds } }: { sheet: HostSheet }) {
  const known = useRead('powerFeeds').data ?? [];
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  if (known.length === 0 || host.powerSupplies === 0) return null;
  const plug = (at: number, feedId: string) => {
    const wanted = Array.from({ length: host.powerSupplies }, (_, i) =>
      i === at ? feedId : (feeds[i]?.id ?? ''),
    ).filter(Boolean);
    void make(
      'host.set-cords',
      { id: host.id, cords: wanted.map((id) => ({ feedId: id })) },
      { seen: host },
    );
  };
  return (
    <Fact name="Plugged into">
      {mayPlan
        ? Array.from({ length: host.powerSupplies }, (_, i) => (
            <NamedSelect
              key={`${i} ${feeds[i]?.id}`}
              aria-label={`Feed of supply ${i + 1}`}
              className="mr-2"
              value={feeds[i]?.id ?? ''}
              onChange={(event) => plug(i, event.target.value)}
              rows={known}
              none="not recorded"
            />
          ))
        : feeds.map(({ name }) => name).join(', ') || 'not recorded'}
      <ProblemNote problem={problem} />
    </Fact>
  );
}
