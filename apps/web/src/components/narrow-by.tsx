/** One thing that a list is narrowed by, as a choice of records; left out where there is nothing to choose. */
import { useUrlState } from '../client/url-state.js';

export function NarrowBy({
  field,
  any,
  rows,
}: {
  /** Its name in the address bar. */
  field: 'profileId' | 'groupId' | 'siteId' | 'site' | 'label' | 'network';
  /** @example 'any role' */
  any: string;
  rows: readonly { id: string; name: string }[];
}) {
  const [search, set] = useUrlState();
  const value = search.get(field) ?? '';
  if (rows.length < 2 && !value) return null;
  return (
    <select
      aria-label={any.replace('any ', 'Narrow by ')}
      className="w-[112px]"
      value={value}
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
}
