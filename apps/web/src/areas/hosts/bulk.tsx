import type { Seen } from '../../client/change.js';
import { HOST_STATES } from '@insel/core';
import { asWords, BulkEdit, type BulkField } from '../../components/bulk-edit.js';

const FIELDS: readonly BulkField[] = [
  { field: 'groupId', title: 'Host group', list: 'hostGroups', clearable: true },
  { field: 'state', title: 'State', words: HOST_STATES },
  { field: 'siteId', title: 'Site', list: 'sites', clearable: true },
  { field: 'rackId', title: 'Rack', list: 'racks', clearable: true },
  { field: 'platformId', title: 'Platform', list: 'platforms' },
  { field: 'purpose', title: 'Purpose' },
  { field: 'owner', title: 'Owner' },
  { field: 'domain', title: 'Domain' },
  { field: 'timeZone', title: 'Time zone' },
  { field: 'workWindow', title: 'May be worked at', placeholder: 'Sat, Sun 02:00-06:00' },
  { field: 'keyboard', title: 'Keyboard' },
  { field: 'licence', title: 'Licence' },
  { field: 'licenceUntil', title: 'Licence ends', clearable: true, placeholder: '2027-05-31' },
  { field: 'warrantyUntil', title: 'Warranty ends', clearable: true, placeholder: '2027-05-31' },
  {
    field: 'statedLevel',
    title: 'Level, stated',
    words: ['1', '2', '3', '4'],
    clearable: true,
    typed: Number,
  },
  {
    field: 'virtualisation',
    title: 'Virtualisation',
    words: ['unknown', 'absent', 'switched off', 'on'],
  },
  { field: 'labels', title: 'Labels', typed: asWords },
];

export const BulkHosts = ({ rows, clear }: { rows: readonly Seen[]; clear: () => void }) => (
  <BulkEdit type="host.edit-many" many="hosts" rows={rows} fields={FIELDS} clear={clear} />
);
