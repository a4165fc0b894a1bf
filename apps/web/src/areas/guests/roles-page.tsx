/** Roles that guests play, with their sizes and what their systems drive; groups, and how their members are spread. */
import { counted, formatBinary, formatMemory } from '@insel/core';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';
import { AddNamed } from '../../components/named-row.js';
import { useRead } from '../../client/read.js';
import { Role } from './role.js';
import { Groups } from './guest-groups.js';

export function RolesPage() {
  const profiles = useRead('profiles');
  const [search, set] = useUrlState();
  const open = search.get('role') ?? profiles.data?.[0]?.id ?? '';
  const profile = profiles.data?.find((found) => found.id === open);
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[1fr_400px] lg:overflow-hidden">
      <div className="min-w-0 px-5 py-3 lg:overflow-y-auto">
        <h1>Roles</h1>
        <p className="text-[13px] text-faint">
          Working values of the trade: common practice, no source. Alter them to what your own
          guests need.
        </p>
        {profiles.error && <p className="text-signal">{profiles.error.message}</p>}
        <table className="mt-2 w-full text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink text-xs">
              <th>Role</th>
              <th>Family</th>
              <th className="text-right">vCPU</th>
              <th className="text-right">memory</th>
              <th className="text-right">system</th>
              <th className="text-right">data</th>
              <th className="pl-4">grows with</th>
              <th className="text-right">guests</th>
            </tr>
          </thead>
          <tbody>
            {profiles.data?.map((row) => (
              <tr
                key={row.id}
                className={`border-b border-rule align-baseline ${row.id === open ? 'bg-water' : ''}`}
              >
                <td className="py-0.5">
                  <button
                    type="button"
                    aria-current={row.id === open || undefined}
                    className="min-h-6 cursor-pointer text-left font-bold"
                    onClick={() => set({ role: row.id })}
                  >
                    {row.name}
                  </button>
                </td>
                <td>{row.family}</td>
                <td className="mono text-right">{row.usualVcpu}</td>
                <td className="mono text-right">{formatMemory(row.usualMemoryMiB)}</td>
                <td className="mono text-right">
                  {row.usualBytes ? formatBinary(row.usualBytes) : '–'}
                </td>
                <td className="mono text-right">
                  {row.usualDataBytes ? formatBinary(row.usualDataBytes) : '–'}
                </td>
                <td className="pl-4">{row.loadUnit}</td>
                <td className="mono text-right">
                  <Link
                    className="inline-block min-h-6 min-w-6 leading-6 underline decoration-rule"
                    to={`/guests?profileId=${row.id}`}
                    aria-label={`${counted(row.guests, 'guest')} that are a ${row.name}`}
                  >
                    {row.guests}
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <AddRole />
        {profile && <Role key={profile.id} profile={profile} />}
      </div>
      <div className="border-ink px-5 py-3 lg:overflow-y-auto lg:border-l">
        <Groups />
      </div>
    </div>
  );
}

function AddRole() {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  if (!mayPlan) return null;
  return (
    <div className="flex flex-wrap items-baseline gap-4">
      <AddNamed word="role" kept="profile" more={{ family: 'Linux' }} />
      <button type="button" className="act" onClick={() => void make('profile.add-usual', {})}>
        Add usual roles that are missing
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}
