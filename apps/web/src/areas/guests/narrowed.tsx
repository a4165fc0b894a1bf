/** What the list of guests is narrowed by beside its filter: a role, a group, chosen here or by a link. */

import { useUrlState } from '../../frame/url-state.js';
import { useRead } from '../../frame/read.js';

export function Narrowed() {
  const [search, set] = useUrlState();
  const profiles = useRead('profiles').data ?? [];
  const groups = useRead('guestGroups').data ?? [];
  const narrow = (
    field: 'profileId' | 'groupId',
    any: string,
    rows: { id: string; name: string }[],
  ) => (
    <select
      aria-label={any.replace('any ', 'Narrow by ')}
      className="w-[112px]"
      value={search.get(field) ?? ''}
      onChange={(event) => set({ [field]: event.target.value })}
    >
      <option value="">{any}</option>
      {rows.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </select>
  );
  return (
    <>
      {narrow('profileId', 'any role', profiles)}
      {groups.length > 0 && narrow('groupId', 'any group', groups)}
    </>
  );
}
