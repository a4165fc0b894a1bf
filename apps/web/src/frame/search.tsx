import { arrayQuestion, prefixQuestion } from '@insel/core';
import { useQueryClient } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { AREAS } from './areas.js';
import { ADMINISTRATION, COMMANDS } from './commands.js';
import { useAccount } from '../client/session.js';
import { switchLight } from './theme.js';
import { undoMine } from './undo-mine.js';
import { useRead } from '../client/read.js';

/** By its words, or by what people call it besides. */
const matches = ({ label, also = '' }: { label: string; also?: string }, typed: string): boolean =>
  `${label} ${also}`.toLowerCase().includes(typed.toLowerCase());

/** Finds records, addresses and MACs, and knows the main commands. */
export function Search() {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const go = useNavigate();
  const client = useQueryClient();
  const account = useAccount();
  const typed = text.trim();
  const hits = useRead('search', typed !== '' ? { q: typed } : null);
  const leave = (then: () => void) => {
    setOpen(false);
    setText('');
    (document.activeElement as HTMLElement | null)?.blur();
    then();
  };
  const sum = arrayQuestion(typed);
  const cut = prefixQuestion(typed);
  const commands: { label: string; also?: string; run: () => void }[] = [
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
    ...COMMANDS.map(({ label, path, also }) => ({ label, also, run: () => void go(path) })),
    {
      label: 'Undo my last change',
      run: () => void undoMine().then(() => client.invalidateQueries()),
    },
    { label: 'Day or night', run: switchLight },
    ...(account.role === 'administrator'
      ? ADMINISTRATION.map(({ label, path, also }) => ({ label, also, run: () => void go(path) }))
      : []),
    ...AREAS.map((area) => ({ label: `Go to ${area.title}`, run: () => void go(`/${area.path}`) })),
  ].filter(
    (command) =>
      typed === '' ||
      command.label === sum?.sentence ||
      command.label === cut?.sentence ||
      matches(command, typed),
  );
  return (
    <Command
      shouldFilter={false}
      label="Find or do"
      className="relative ml-auto w-[110px] grow md:w-[180px] xl:w-[230px] md:grow-0"
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
      <span className="key pointer-events-none absolute hidden md:inline top-1 right-1.5">/</span>
      <Command.List
        label="Found"
        hidden={!open}
        className="absolute right-0 z-50 mt-1 max-h-[380px] w-[min(380px,94vw)] overflow-y-auto border border-ink bg-raised p-1"
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
