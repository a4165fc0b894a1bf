/** Physical switches with their ports, and the lines between them. */
import type { LineView, PhysicalSwitchView } from '@insel/contract';
import { counted, parseVlans } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { editing, useChange } from '../../frame/change.js';
import { asWhole, Editable } from '../../components/editable.js';
import { errorsOf } from '../../components/field.js';
import { SheetFindings } from '../../components/finding-line.js';
import { PartsTable, type PartColumn, type PartRow } from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { NotesEdit, OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { pathOf } from './reach-page.js';
import { useRead } from '../../frame/read.js';

export function SwitchesPage() {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  const switches = useRead('physicalSwitches');
  const lines = useRead('lines').data ?? [];
  const { make, problem } = useChange();
  const [name, setName] = useState('');
  if (switches.error) return <p className="p-6 text-signal">{switches.error.message}</p>;
  const open = search.get('open');
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Switches and lines</h1>
      <div className="max-w-[1120px]">
        {(switches.data ?? []).map((found) => (
          <SwitchPart
            key={found.id}
            found={found}
            open={open === found.id}
            toggle={() => set({ open: open === found.id ? '' : found.id })}
          />
        ))}
        {switches.data?.length === 0 && (
          <p className="py-2 text-faint">
            No switch yet. Record switches and their ports to see missing VLANs and true single
            paths; without them a network is taken to reach everything that carries it.
          </p>
        )}
        {mayPlan && (
          <form
            className="mt-2 flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void make('physical-switch.record', { name }).then(
                (written) => written && setName(''),
              );
            }}
          >
            <input
              aria-label="Name of a new switch"
              placeholder="name of a new switch"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <button type="submit" className="act">
              Record a switch
            </button>
            <ProblemNote problem={problem} />
          </form>
        )}
        <Lines lines={lines} switches={switches.data ?? []} />
      </div>
    </div>
  );
}

function SwitchPart({
  found,
  open,
  toggle,
}: {
  found: PhysicalSwitchView;
  open: boolean;
  toggle: () => void;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const sites = useRead('sites').data ?? [];
  const racks = useRead('racks').data ?? [];
  const at = editing('physical-switch.edit', found);
  const plugged = found.ports.filter((port) => port.cable).length;
  return (
    <section aria-label={`Switch ${found.name}`} className="border-t border-rule py-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <button
          type="button"
          className="min-h-6 cursor-pointer text-[15px] font-bold"
          aria-expanded={open}
          onClick={toggle}
        >
          {open ? '▾' : '▸'} {found.name}
        </button>
        <span className="text-faint">
          {[
            found.site?.name,
            `${counted(found.ports.length, 'port')}, ${plugged} with a recorded cable`,
            `MTU ${found.mtu}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </div>
      <SheetFindings findings={found.findings} />
      {open && (
        <>
          <Facts>
            <Fact name="Name">
              <TextEdit at={at('name')} name="Name" value={found.name} />
            </Fact>
            <Fact name="Site">
              <OneOf
                at={at('siteId')}
                name="Site"
                value={found.siteId}
                choices={[
                  { value: '', label: 'no site' },
                  ...sites.map((site) => ({ value: site.id, label: site.name })),
                ]}
              />
            </Fact>
            <Fact name="Model">
              <TextEdit at={at('model')} name="Model" value={found.model} />
            </Fact>
            <Fact name="Rack">
              <OneOf
                at={at('rackId')}
                name="Rack"
                value={found.rackId}
                choices={[
                  { value: '', label: 'no rack' },
                  ...racks.map((rack) => ({ value: rack.id, label: rack.name })),
                ]}
              />
            </Fact>
            <Fact name="MTU">
              <Editable
                at={at('mtu')}
                name="MTU"
                value={found.mtu}
                show={String}
                parse={asWhole}
                mono
              />
            </Fact>
            <Fact name="Notes" wide>
              <NotesEdit at={at('notes')} value={found.notes} />
            </Fact>
          </Facts>
          <Ports found={found} />
          {mayPlan && (
            <button
              type="button"
              className="act"
              onClick={() => void make('physical-switch.remove', { id: found.id }, { seen: found })}
            >
              Remove {found.name}
            </button>
          )}
          <ProblemNote problem={problem} />
        </>
      )}
    </section>
  );
}

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

function Ports({ found }: { found: PhysicalSwitchView }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [rows, setRows] = useState<PartRow[] | null>(null);
  const [count, setCount] = useState('24');
  if (!rows) {
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
          <button type="button" className="act" onClick={() => setRows(rowsOf(found))}>
            Edit the ports
          </button>
        )}
      </div>
    );
  }
  const faults: Record<string, string> = {};
  rows.forEach((row, i) => {
    const tagged = parseVlans(String(row.tagged));
    if (!tagged.ok) faults[`${i}.tagged`] = tagged.sentence;
    if (
      String(row.untagged).trim() !== '' &&
      !/^([1-9]\d{0,2}|[1-3]\d{3}|40[0-8]\d|409[0-4])$/.test(String(row.untagged).trim())
    )
      faults[`${i}.untagged`] = 'A VLAN id is 1 to 4094; empty drops untagged frames.';
  });
  const send = async () => {
    if (Object.keys(faults).length) return;
    const ports = rows.map((row) => ({
      name: String(row.name),
      untaggedVlan: String(row.untagged).trim() === '' ? null : Number(row.untagged),
      taggedVlans: String(row.tagged),
      up: Boolean(row.up),
      purpose: String(row.purpose),
    }));
    if (await make('physical-switch.set-ports', { id: found.id, ports }, { seen: found }))
      setRows(null);
  };
  const addMany = () => {
    const from = rows.length + 1;
    const last = rows.at(-1);
    setRows([
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
  const fromServer = Object.fromEntries(
    Object.entries(errorsOf(problem)).map(([field, sentence]) => [
      field
        .replace(/^ports\./, '')
        .replace('taggedVlans', 'tagged')
        .replace('untaggedVlan', 'untagged'),
      sentence,
    ]),
  );
  return (
    <div className="mt-2">
      <PartsTable
        title="Ports"
        name="port"
        columns={COLUMNS}
        rows={rows}
        set={setRows}
        fresh={() => ({
          name: String(rows.length + 1),
          untagged: '',
          tagged: '',
          up: true,
          purpose: '',
        })}
        errors={{ ...fromServer, ...faults }}
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
      <p className="mt-1 flex gap-4">
        <button type="button" className="press" disabled={busy} onClick={() => void send()}>
          Keep these ports
        </button>
        <button type="button" className="act" onClick={() => setRows(null)}>
          Drop what I typed
        </button>
      </p>
      <ProblemNote problem={problem} />
    </div>
  );
}

function Lines({ lines, switches }: { lines: LineView[]; switches: PhysicalSwitchView[] }) {
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
