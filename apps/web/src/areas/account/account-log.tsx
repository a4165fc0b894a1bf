/** What was done to accounts, roles and tokens. */
import type { AccountEntry } from '@insel/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../client/api.js';
import { minuteOf } from '../../components/minute.js';

export function AccountLog() {
  const entries = useQuery({
    queryKey: ['people', 'log'],
    queryFn: () => call<AccountEntry[]>('GET', 'people/log'),
  }).data;
  if (!entries?.length) return null;
  return (
    <section aria-label="What was done to accounts">
      <h2 className="mb-2 font-bold">What was done</h2>
      <table className="w-full text-left text-[13px]">
        <thead className="text-xs text-faint">
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>About</th>
            <th>What</th>
          </tr>
        </thead>
        <tbody>
          {entries.map(({ at, actor, about, what }, i) => (
            <tr key={i} className="border-t border-rule align-baseline">
              <td className="mono py-0.5 whitespace-nowrap">{minuteOf(at)}</td>
              <td>{actor}</td>
              <td>{about}</td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
