/** The disks of a computer: seen, and typed as a table. */
import type { ComputerView, DeviceView } from '@insel/contract';
import { fieldsOf, formatBinary, formatBoth, parseBytes, type Row } from '@insel/core';
import { usePartsForm } from '../../components/parts-form.js';
import {
  KeepParts,
  PartsTable,
  type PartColumn,
  type PartRow,
} from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { useMayPlan } from '../../client/session.js';

const disk = fieldsOf('computerDisk');
const COLUMNS: PartColumn[] = [
  { field: 'bay', title: 'Disk', width: '70px' },
  { field: 'model', title: 'Model', width: '120px' },
  { field: 'serial', title: 'Serial', width: '110px', mono: true },
  { field: 'size', title: 'Size', width: '90px', mono: true, placeholder: '500 GB' },
  { field: 'used', title: 'Used', width: '80px', mono: true },
  { field: 'sector', title: 'Sector', width: '64px', choices: ['', '512', '4096'] },
  { field: 'health', title: 'Health', width: '100px', choices: disk.health.choices },
  { field: 'layout', title: 'Layout', width: '120px', choices: disk.layout.choices },
  { field: 'boot', title: 'Boot', width: '32px', flag: true },
];

export function ComputerDisks({
  device,
  disks,
}: {
  device: DeviceView;
  disks: ComputerView['disks'];
}) {
  const mayPlan = useMayPlan();
  const form = usePartsForm({
    ...{ type: 'computer.set', id: device.id, list: 'disks', read: readRows },
    columns: { bytes: 'size', usedBytes: 'used', sectorBytes: 'sector' },
    options: { seen: device },
  });
  const { rows, set, open, begin, drop, errors, busy, problem, send } = form;
  if (!open)
    return (
      <div className="mt-2" aria-label="Disks">
        {disks.map((one) => (
          <DiskLine key={one.id} disk={one} />
        ))}
        {disks.length === 0 && <p className="text-faint">No disk is recorded.</p>}
        {mayPlan && (
          <button type="button" className="act" onClick={() => begin(disks.map(typed))}>
            Edit the disks
          </button>
        )}
      </div>
    );
  return (
    <>
      <PartsTable
        title="Disks"
        name="disk"
        columns={COLUMNS}
        rows={rows}
        set={set}
        fresh={() => ({ ...FRESH, bay: `disk ${rows.length + 1}`, boot: rows.length === 0 })}
        errors={errors}
      />
      <KeepParts label="Keep these disks" busy={busy} keep={send} drop={drop} />
      <ProblemNote problem={problem} />
    </>
  );
}

function DiskLine({ disk: one }: { disk: Row<'computerDisk'> }) {
  const said = [
    one.usedBytes !== null && `${formatBinary(one.usedBytes)} used`,
    one.sectorBytes !== null && `sectors of ${one.sectorBytes}`,
    one.layout !== 'unknown' && one.layout,
    one.boot && 'starts from it',
  ].filter(Boolean);
  return (
    <p className="border-b border-rule py-0.5">
      <b>{one.bay}</b> <span className="mono">{formatBoth(one.bytes)}</span>{' '}
      <span className="text-[13px] text-faint">
        {[one.model, one.serial, ...said].filter(Boolean).join(' · ')}
      </span>
      {one.health === 'read errors' && <b className="text-signal"> ■ read errors</b>}
    </p>
  );
}

const FRESH = {
  model: '',
  serial: '',
  size: '',
  used: '',
  sector: '',
  health: 'unknown',
  layout: 'unknown',
};

const typed = (one: Row<'computerDisk'>): PartRow => ({
  bay: one.bay,
  model: one.model,
  serial: one.serial,
  size: `${one.bytes} B`,
  used: one.usedBytes === null ? '' : `${one.usedBytes} B`,
  sector: one.sectorBytes === null ? '' : String(one.sectorBytes),
  health: one.health,
  layout: one.layout,
  boot: one.boot,
});

function readRows(rows: readonly PartRow[]) {
  const faults: Record<string, string> = {};
  const size = (i: number, field: string, text: unknown): number | null => {
    if (String(text).trim() === '') return null;
    const found = parseBytes(String(text));
    if (found.ok) return found.value;
    faults[`${i}.${field}`] = found.sentence;
    return null;
  };
  const parts = rows.map((row, i) => {
    const bytes = size(i, 'size', row.size);
    if (bytes === null && !faults[`${i}.size`])
      faults[`${i}.size`] = 'Write its size, as 500 GB or in bytes.';
    return {
      bay: String(row.bay),
      model: String(row.model),
      serial: String(row.serial),
      bytes: bytes ?? 1,
      usedBytes: size(i, 'used', row.used),
      sectorBytes: row.sector ? Number(row.sector) : null,
      health: row.health as Row<'computerDisk'>['health'],
      layout: row.layout as Row<'computerDisk'>['layout'],
      boot: Boolean(row.boot),
    };
  });
  return { parts, faults };
}
