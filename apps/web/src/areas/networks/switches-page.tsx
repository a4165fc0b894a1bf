/** Physical switches with their ports, and the lines between them. */
import type { PhysicalSwitchView } from '@insel/contract';
import { counted } from '@insel/core';
import { useState } from 'react';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { editing, useChange } from '../../client/change.js';
import { asWhole, Editable } from '../../components/editable.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts } from '../../components/sheet.js';
import { NotesEdit, OneOf, TextEdit } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';
import { Lines } from './switch-lines.js';
import { Ports } from './switch-ports.js';

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
