import type { Seen } from '../../client/change.js';
import { BOOT_FIRST, CRITICALITIES, GUEST_STATES } from '@insel/core';
import { asWords, BulkEdit, type BulkField } from '../../components/bulk-edit.js';

const FIELDS: readonly BulkField[] = [
  { field: 'profileId', title: 'Role', list: 'profiles', clearable: true },
  { field: 'groupId', title: 'Group', list: 'guestGroups', clearable: true },
  { field: 'state', title: 'State', words: GUEST_STATES },
  { field: 'owner', title: 'Owner' },
  { field: 'criticality', title: 'Criticality', words: CRITICALITIES },
  { field: 'outageWindow', title: 'May be down', placeholder: 'Sat, Sun 02:00-06:00' },
  { field: 'endDate', title: 'Wanted until', clearable: true, placeholder: '2027-05-31' },
  {
    field: 'processorMode',
    title: 'Processor seen',
    words: ['host', 'v1', 'v2', 'v3', 'v4', 'unknown'],
  },
  { field: 'firmware', title: 'Firmware', words: ['UEFI', 'legacy', 'unknown'] },
  { field: 'bootFirst', title: 'Looks first at', words: BOOT_FIRST },
  { field: 'startSeconds', title: 'Seconds to start', typed: Number },
  { field: 'stopSeconds', title: 'Seconds to stop', typed: Number },
  { field: 'purpose', title: 'Purpose' },
  { field: 'domain', title: 'Domain' },
  { field: 'labels', title: 'Labels', typed: asWords },
];

export const BulkGuests = ({ rows, clear }: { rows: readonly Seen[]; clear: () => void }) => (
  <BulkEdit type="guest.edit-many" many="guests" rows={rows} fields={FIELDS} clear={clear} />
);
