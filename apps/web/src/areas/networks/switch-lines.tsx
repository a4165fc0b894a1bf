/** Lines between places, as the switches know them. */
import type { LineView, PhysicalSwitchView } from '@insel/contract';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { TextEdit, YesNo } from '../../components/small-edits.js';
import { useChange, editing } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';

export function Lines({ lines, switches }: { lines: LineView[]; switches: PhysicalSwitchView[] }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [draft, setDraft] = useState({ name: '', aPortId: '', bPortId: '' });
  const free = switches
    .map((found) => ({ ...found, ports: found.ports.filter((port) => !port.cable) }))
    .filter((found) => found.ports.length > 0);
  const port = (field: 'aPortId' | 'bPortId', label: string) => (
    <select
      aria-label={label}
      value={draft[field]}
      onChange={(event) => setDraft({ ...draft, [field]: event.target.value })}
    >
      <option value="">{label}</option>
      {free.map((found) => (
        <optgroup key={found.id} label={found.name}>
          {found.ports.map((one) => (
            <option key={one.id} value={one.id}>
              {found.name}, port {one.name}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
  return (
    <Part title="Lines">
      {lines.map((line) => {
        const at = editing('line.edit', line);
        return (
          <div
            key={line.id}
            className="grid grid-cols-2 items-baseline gap-x-3 md:grid-cols-[150px_1fr_90px_70px] border-b border-rule py-0.5"
          >
            <b>
              <TextEdit at={at('name')} name="Name" value={line.name} />
            </b>
            <span>
              {line.a.name} port <span className="mono">{line.a.port}</span> – {line.b.name} port{' '}
              <span className="mono">{line.b.port}</span>
            </span>
            <YesNo at={at('up')} name={`${line.name} is`} value={line.up} yes="up" no="down" />
            {mayPlan && (
              <button
                type="button"
                className="act"
                onClick={() => void make('line.remove', { id: line.id }, { seen: line })}
              >
                Remove
              </button>
            )}
          </div>
        );
      })}
      {lines.length === 0 && <p className="text-faint">No line between switches.</p>}
      {mayPlan && switches.length > 1 && (
        <form
          className="mt-1 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void make('line.record', draft).then(
              (written) => written && setDraft({ name: '', aPortId: '', bPortId: '' }),
            );
          }}
        >
          <input
            aria-label="Name of a new line"
            placeholder="name of a new line"
            value={draft.name}
            onChange={(event) => setDraft({ ...draft, name: event.target.value })}
          />
          {port('aPortId', 'one end')} {port('bPortId', 'other end')}
          <button type="submit" className="act">
            Record a line
          </button>
        </form>
      )}
      <ProblemNote problem={problem} />
    </Part>
  );
}
