/** What the list of guests is narrowed by beside its filter: a role, a group, chosen here or by a link. */
import { NarrowBy } from '../../components/narrow-by.js';
import { useRead } from '../../client/read.js';

export function Narrowed() {
  const profiles = useRead('profiles').data ?? [];
  const groups = useRead('guestGroups').data ?? [];
  return (
    <>
      <NarrowBy field="profileId" any="any role" rows={profiles} />
      <NarrowBy field="groupId" any="any group" rows={groups} />
    </>
  );
}
