import { arrayQuestion, prefixQuestion } from '@insel/core';
import { useQueryClient } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { AREAS } from './areas.js';
import { useAccount } from './session.js';
import { switchLight } from './theme.js';
import { undoMine } from './undo-mine.js';
import { useRead } from './read.js';

/** Finds records, addresses and MACs, and knows the main commands. */
export function Search() {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const go = useNavigate();
  const client = useQueryClient();
  const account = useAccount();
  const asked = text.trim();
  const hits = useRead('search', asked !== '' ? { q: asked } : null);
  const leave = (then: () => void) => {
    setOpen(false);
    setText('');
    (document.activeElement as HTMLElement | null)?.blur();
    then();
  };
  const sum = arrayQuestion(asked);
  const cut = prefixQuestion(asked);
  const commands = [
    ...(cut
      ? [
          {
            label: cut.sentence,
            run: () => void go(`/networks/plan?block=${encodeURIComponent(cut.block)}`),
          },
        ]
      : []),
    ...(sum
      ? [
          {
            label: sum.sentence,
            run: () =>
              void go(`/hosts/arrays?disks=${sum.disks.map((bytes) => `${bytes}B`).join(',')}`),
          },
        ]
      : []),
    { label: 'Record a host', run: () => void go('/hosts/new') },
    { label: 'Record hosts from a table', run: () => void go('/hosts/table') },
    { label: 'Take facts of a machine in', run: () => void go('/hosts/facts') },
    { label: 'Compare array levels', run: () => void go('/hosts/arrays') },
    { label: 'Groups, racks, platforms, rules', run: () => void go('/hosts/places') },
    { label: 'Record a network', run: () => void go('/networks/new') },
    { label: 'Who reaches whom', run: () => void go('/networks/reach') },
    { label: 'Matrix: guests against guests', run: () => void go('/networks/matrix') },
    { label: 'Patch table', run: () => void go('/networks/patch') },
    { label: 'Plan prefixes', run: () => void go('/networks/plan') },
    { label: 'Switches and lines', run: () => void go('/networks/switches') },
    { label: 'Devices', run: () => void go('/networks/devices') },
    { label: 'Zones, hosts file, reservations', run: () => void go('/networks/names') },
    { label: 'Take a list of machines in', run: () => void go('/networks/list') },
    { label: 'Size a guest', run: () => void go('/guests/size') },
    { label: 'Media shelf', run: () => void go('/guests/media') },
    { label: 'Pools: promised, used, until full', run: () => void go('/guests/pools') },
    { label: 'Roles and groups of guests', run: () => void go('/guests/roles') },
    { label: 'Take measured samples in', run: () => void go('/guests/samples') },
    { label: 'Record guests from a table', run: () => void go('/guests/table') },
    { label: 'Plan a guest', run: () => void go('/guests/new') },
    { label: 'Record an existing guest', run: () => void go('/guests/new?record') },
    { label: 'Start order after a power cut', run: () => void go('/guests/start-order') },
    { label: 'Make clones', run: () => void go('/clones/new') },
    { label: 'Templates and their versions', run: () => void go('/clones/templates') },
    { label: 'Lineage of clones', run: () => void go('/clones/lineage') },
    { label: 'Licences: allowed and used', run: () => void go('/clones/licences') },
    { label: 'Migrate a guest', run: () => void go('/migrations/new') },
    { label: 'Timetable of migrations', run: () => void go('/migrations/timetable') },
    { label: 'Migrations, planned and actual', run: () => void go('/migrations/actual') },
    { label: 'Note something in the log', run: () => void go('/log?note') },
    {
      label: 'Undo my last change',
      run: () => void undoMine().then(() => client.invalidateQueries()),
    },
    { label: 'Day or night', run: switchLight },
    ...(account.role === 'administrator'
      ? [
          { label: 'Record the machine Insel runs on', run: () => void go('/this-machine') },
          { label: 'People', run: () => void go('/people') },
        ]
      : []),
    ...AREAS.map((area) => ({ label: `Go to ${area.title}`, run: () => void go(`/${area.path}`) })),
  ].filter(
    (command) =>
      asked === '' ||
      command.label === sum?.sentence ||
      command.label === cut?.sentence ||
      command.label.toLowerCase().includes(asked.toLowerCase()),
  );
  return (
    <Command
      shouldFilter={false}
      label="Find or do"
      className="relative ml-auto w-[230px]"
      onKeyDown={(event) => event.key === 'Escape' && leave(() => undefined)}
    >
      <Command.Input
        data-search
        placeholder="Find or do"
        value={text}
        onValueChange={setText}
        onFocus={() => setOpen(true)}
        onBlur={(event) => {
          const field = event.currentTarget;
          setTimeout(() => document.activeElement !== field && setOpen(false), 150);
        }}
        className="w-full pr-7"
      />
      <span className="key pointer-events-none absolute top-1 right-1.5">/</span>
      <Command.List
        label="Found"
        hidden={!open}
        className="absolute right-0 z-50 mt-1 max-h-[380px] w-[380px] overflow-y-auto border border-ink bg-raised p-1"
      >
        {(hits.data ?? []).map((hit) => (
          <Command.Item
            key={`${hit.kind}${hit.id}`}
            value={`${hit.kind}${hit.id}`}
            onSelect={() => leave(() => void go(hit.path))}
            className="flex cursor-pointer justify-between gap-3 px-2 py-1 data-[selected=true]:bg-water"
          >
            <b>{hit.label}</b> <span className="truncate text-faint">{hit.detail}</span>
          </Command.Item>
        ))}
        {commands.map((command) => (
          <Command.Item
            key={command.label}
            value={command.label}
            onSelect={() => leave(command.run)}
            className="cursor-pointer px-2 py-1 data-[selected=true]:bg-water"
          >
            {command.label}
          </Command.Item>
        ))}
        {hits.data?.length === 0 && commands.length === 0 && (
          <div className="px-2 py-1 text-faint">Nothing of that name or address in the record.</div>
        )}
      </Command.List>
    </Command>
  );
}
