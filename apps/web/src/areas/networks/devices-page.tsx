/** Equipment that is neither host nor guest: a list, and the open one with its ports, addresses and routes. */
import { DEVICE_KINDS } from '@insel/core';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { Mark } from '../../components/mark.js';
import { Wrong } from '../../components/field.js';
import { useLineForm } from '../../components/line-form.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../client/read.js';
import { DeviceSheet } from './device-sheet.js';

const WINDOW = 200;

export function DevicesPage() {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  const [q, open] = [search.get('q') ?? '', search.get('open') ?? ''];
  const list = useRead('devices', { take: WINDOW, q }, { keep: true });
  if (list.error) return <p className="p-6 text-signal">{list.error.message}</p>;
  return (
    <div className="flex h-full min-h-0">
      <div
        className={`min-h-0 overflow-y-auto ${open ? 'hidden w-[400px] shrink-0 border-r border-ink md:block' : 'w-full'}`}
      >
        <div className="flex items-center gap-3 border-b border-rule px-2 py-1">
          <input
            aria-label="Filter by name or address"
            placeholder="Filter"
            className="w-[130px]"
            value={q}
            onChange={(event) => set({ q: event.target.value })}
          />
          <span className="text-[13px] text-faint">
            {list.data?.total ?? 0} in the list
            {(list.data?.total ?? 0) > WINDOW && `, the first ${WINDOW} shown`}
          </span>
          {mayPlan && <NewDevice open={(id) => set({ open: id })} />}
        </div>
        <ul aria-label="Equipment">
          {(list.data?.rows ?? []).map((row) => (
            <li key={row.id}>
              <button
                type="button"
                aria-current={row.id === open}
                className={`grid min-h-[32px] w-full cursor-pointer grid-cols-[1fr_76px_1.3fr_16px] items-center gap-2 border-b border-rule px-2 text-left ${row.id === open ? 'bg-water font-bold shadow-[inset_3px_0_0_var(--teal)]' : ''}`}
                onClick={() => set({ open: row.id })}
              >
                <span className="truncate">{row.name}</span>
                <span className="text-[13px]">{row.kind}</span>
                <span className="mono truncate text-[13px]" title={row.addresses.join(', ')}>
                  {open && row.addresses.length > 1
                    ? `${row.addresses[0]} + ${row.addresses.length - 1}`
                    : row.addresses.join(', ')}
                </span>
                <Mark mark={row.finding} />
              </button>
            </li>
          ))}
        </ul>
        {list.data?.total === 0 && (
          <p className="p-4 text-faint">
            Routers, printers, access points, computers of their own: what has an address and is
            neither host nor guest. A router recorded here makes Reach answer beyond one network.
          </p>
        )}
      </div>
      {open && (
        <div className="min-h-0 min-w-0 flex-1 overflow-y-auto px-5 py-3">
          <DeviceSheet key={open} id={open} />
        </div>
      )}
    </div>
  );
}

function NewDevice({ open }: { open: (id: string) => void }) {
  const form = useLineForm(() => ({ name: '', kind: 'router' }), {
    type: 'device.record',
    read: ({ name, kind }) => [
      { name, kind, forwards: kind === 'router' || kind === 'firewall', ports: [] },
    ],
    sent: ({ created }) => open(created.find((row) => row.kind === 'device')!.id),
  });
  const { control, errors, send, problem } = form;
  if (!form.open)
    return (
      <button type="button" className="act ml-auto" onClick={form.begin}>
        Record equipment
      </button>
    );
  return (
    <form
      className="ml-auto flex flex-wrap items-center gap-2"
      onSubmit={(event) => void send(event)}
    >
      <input
        autoFocus
        aria-label="Name of new equipment"
        placeholder="name"
        className="w-[130px]"
        {...control('name')}
      />
      <select aria-label="Kind of the new equipment" {...control('kind')}>
        {DEVICE_KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      <button type="submit" className="act">
        Record it
      </button>
      <Wrong errors={errors} problem={problem} />
      <ProblemNote problem={problem} />
    </form>
  );
}
