/** Ports of a switch as a table, and what is connected to each. */
import type { PhysicalSwitchView } from '@insel/contract';
import { parseVlans } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Errors } from '../../components/field.js';
import { usePartsForm } from '../../components/parts-form.js';
import {
  KeepParts,
  type PartColumn,
  type PartRow,
  PartsTable,
} from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { useMayPlan } from '../../client/session.js';
import { pathOf } from './path-of.js';

const COLUMNS: PartColumn[] = [
  { field: 'name', title: 'Port', width: '60px', mono: true },
  { field: 'untagged', title: 'Untagged', width: '80px', mono: true, placeholder: 'none' },
  { field: 'tagged', title: 'Tagged VLANs', width: '190px', mono: true, placeholder: '10-12,20' },
  { field: 'up', title: 'Up', width: '30px', flag: true },
  { field: 'purpose', title: 'Purpose', width: '210px' },
];
const rowsOf = (found: PhysicalSwitchView): PartRow[] =>
  found.ports.map((port) => ({
    name: port.name,
    untagged: port.untaggedVlan === null ? '' : String(port.untaggedVlan),
    tagged: port.taggedVlans,
    up: port.up,
    purpose: port.purpose,
  }));
/** Ports as the change takes them, and what cannot be read. */
function readPorts(rows: readonly PartRow[]) {
  const faults: Errors = {};
  const parts = rows.map((row, i) => {
    const [untagged, tagged] = [String(row.untagged).trim(), String(row.tagged)];
    const vlans = parseVlans(tagged);
    if (!vlans.ok) faults[`${i}.tagged`] = vlans.sentence;
    if (untagged !== '' && !/^([1-9]\d{0,2}|[1-3]\d{3}|40[0-8]\d|409[0-4])$/.test(untagged))
      faults[`${i}.untagged`] = 'A VLAN id is 1 to 4094; empty drops untagged frames.';
    return {
      name: String(row.name),
      untaggedVlan: untagged === '' ? null : Number(untagged),
      taggedVlans: tagged,
      up: Boolean(row.up),
      purpose: String(row.purpose),
    };
  });
  return { parts, faults };
}

export function Ports({ found }: { found: PhysicalSwitchView }) {
  const mayPlan = useMayPlan();
  const form = usePartsForm({
    ...{ type: 'physical-switch.set-ports', id: found.id, list: 'ports', read: readPorts },
    columns: { untaggedVlan: 'untagged', taggedVlans: 'tagged' },
    options: { seen: found },
  });
  const { rows, set, open, begin, drop, errors, busy, problem, send } = form;
  const [count, setCount] = useState('24');
  if (!open) {
    return (
      <div className="mt-2">
        <table className="text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink">
              <th className="w-[60px]">Port</th>
              <th className="w-[80px]">Untagged</th>
              <th className="w-[150px]">Tagged</th>
              <th className="w-[250px]">Cable goes to</th>
              <th>Purpose</th>
            </tr>
          </thead>
          <tbody>
            {found.ports.map((port) => (
              <tr key={port.id} className="border-b border-rule">
                <td className="mono">
                  {port.name}
                  {!port.up && <span className="text-signal"> down</span>}
                </td>
                <td className="mono">{port.untaggedVlan ?? '–'}</td>
                <td className="mono">{port.taggedVlans || '–'}</td>
                <td>
                  {port.cable ? (
                    <>
                      <Link className="underline decoration-rule" to={pathOf(port.cable)}>
                        {port.cable.name}
                      </Link>{' '}
                      {port.cable.port}
                    </>
                  ) : (
                    <span className="text-faint">not recorded</span>
                  )}
                </td>
                <td>{port.purpose}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {mayPlan && (
          <button type="button" className="act" onClick={() => begin(rowsOf(found))}>
            Edit the ports
          </button>
        )}
      </div>
    );
  }
  const addMany = () => {
    const from = rows.length + 1;
    const last = rows.at(-1);
    set([
      ...rows,
      ...Array.from({ length: Math.min(512, Number(count) || 0) }, (_, i) => ({
        name: String(from + i),
        untagged: last?.untagged ?? '',
        tagged: last?.tagged ?? '',
        up: true,
        purpose: '',
      })),
    ]);
  };
  return (
    <div className="mt-2">
      <PartsTable
        title="Ports"
        name="port"
        columns={COLUMNS}
        rows={rows}
        set={set}
        fresh={() => ({
          name: String(rows.length + 1),
          untagged: '',
          tagged: '',
          up: true,
          purpose: '',
        })}
        errors={errors}
      >
        <span>
          <input
            aria-label="How many ports to add"
            className="mono w-[52px]"
            value={count}
            onChange={(event) => setCount(event.target.value)}
          />{' '}
          <button type="button" className="act" onClick={addMany}>
            Add so many alike
          </button>
        </span>
      </PartsTable>
      <KeepParts label="Keep these ports" busy={busy} keep={send} drop={drop} />
      <ProblemNote problem={problem} />
    </div>
  );
}
