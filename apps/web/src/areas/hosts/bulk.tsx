/** The same fields for several hosts at once: chosen in the list, altered in one change. */
import type { HostGroupView, Named, RackView } from '@insel/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { read } from '../../frame/api.js';
import { useWrite } from '../../frame/write.js';
import { ProblemNote } from '../../ink/problem.js';

const FIELDS = { state: 'State', siteId: 'Site', groupId: 'Host group', rackId: 'Rack', platformId: 'Platform', purpose: 'Purpose', owner: 'Owner', domain: 'Domain', timeZone: 'Time zone', keyboard: 'Keyboard', licence: 'Licence', licenceUntil: 'Licence ends', warrantyUntil: 'Warranty ends', statedLevel: 'Level, stated', virtualisation: 'Virtualisation', labels: 'Labels' } as const;
type Field = keyof typeof FIELDS;
const NAMED: Partial<Record<Field, string>> = { siteId: 'sites', groupId: 'host-groups', rackId: 'racks', platformId: 'platforms' };
const WORDS: Partial<Record<Field, string[]>> = { state: ['planned', 'building', 'in service', 'maintenance', 'failed', 'retired'], statedLevel: ['1', '2', '3', '4'], virtualisation: ['unknown', 'absent', 'switched off', 'on'] };
const NULLABLE = new Set<Field>(['siteId', 'groupId', 'rackId', 'licenceUntil', 'warrantyUntil', 'statedLevel']);

export function BulkEdit({ ids, clear }: { ids: readonly string[]; clear: () => void }) {
  const [field, setField] = useState<Field>('groupId');
  const [value, setValue] = useState('');
  const list = NAMED[field];
  const named = useQuery({ queryKey: [list], enabled: Boolean(list), queryFn: () => read<(Named | HostGroupView | RackView)[]>(list!) }).data ?? [];
  const { write, busy, problem } = useWrite();
  const typed = () => {
    if (value === '' && NULLABLE.has(field)) return null;
    if (field === 'statedLevel') return Number(value);
    if (field === 'labels') return value.split(/[\s,]+/).filter(Boolean);
    return value;
  };
  const options = list ? named.map((row) => ({ value: row.id, label: row.name })) : WORDS[field]?.map((word) => ({ value: word, label: word }));
  const send = async () => {
    if (await write('hosts/edit', { body: { ids, [field]: typed() } })) clear();
  };
  return (
    <div role="region" aria-label="Edit the chosen hosts" className="flex flex-wrap items-center gap-2 border-b border-ink bg-water px-2 py-1">
      <b>{ids.length} chosen:</b> set
      <select aria-label="Field" value={field} onChange={(event) => { setField(event.target.value as Field); setValue(''); }}>{Object.entries(FIELDS).map(([name, title]) => <option key={name} value={name}>{title}</option>)}</select>
      to
      {options ? <select aria-label="Value" value={value} onChange={(event) => setValue(event.target.value)}><option value="">{NULLABLE.has(field) ? 'none' : 'choose'}</option>{options.map((option) => <option key={option.value} value={option.value}>{option.label}</option>)}</select> : <input aria-label="Value" value={value} placeholder={field.endsWith('Until') ? '2027-05-31' : ''} onChange={(event) => setValue(event.target.value)} />}
      <button type="button" className="press" disabled={busy || (value === '' && !NULLABLE.has(field))} onClick={() => void send()}>Set for all {ids.length}</button>
      <button type="button" className="act" onClick={clear}>Drop the choice</button>
      <ProblemNote problem={problem} />
    </div>
  );
}
