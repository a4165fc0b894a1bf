import type { ThisMachine } from '@insel/contract';
import { formatBoth, formatMemory } from '@insel/core';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { call } from '../../client/api.js';

/** What was read from the machine Insel runs on, shown before anything is recorded. */
export function ThisMachinePage() {
  const go = useNavigate();
  const machine = useQuery({
    queryKey: ['this-machine'],
    queryFn: () => call<ThisMachine>('GET', 'this-machine'),
  });
  if (machine.error) return <p className="p-6 text-signal">{machine.error.message}</p>;
  const found = machine.data;
  if (!found) return <p className="p-6 text-faint">Reading this machine …</p>;
  const or = (value: string | number | null) =>
    value ?? <span className="text-faint">unknown</span>;
  return (
    <div className="h-full max-w-[900px] overflow-y-auto px-6 py-4">
      <h1 className="mb-1">The machine Insel runs on</h1>
      <p className="mb-3 text-faint">
        Read from the live system just now. Nothing is recorded until you confirm it on the next
        page.
      </p>
      {found.isGuest && <p className="mb-2 font-bold text-amber">◆ {found.isGuest}</p>}
      {found.isLaptop && <p className="mb-2 font-bold text-amber">◆ {found.isLaptop}</p>}
      <Part title="Processors">
        <Facts>
          <Fact name="Model">{or(found.processorModel)}</Fact>
          <Fact name="Architecture">{or(found.architecture)}</Fact>
          <Fact name="Sockets">{or(found.sockets)}</Fact>
          <Fact name="Cores per socket">{or(found.coresPerSocket)}</Fact>
          <Fact name="Threads per core">{or(found.threadsPerCore)}</Fact>
        </Facts>
      </Part>
      <Part title="Memory">
        <Facts>
          <Fact name="Installed">{or(found.installedMiB && formatMemory(found.installedMiB))}</Fact>
          <Fact name="System sees">{or(found.visibleMiB && formatMemory(found.visibleMiB))}</Fact>
        </Facts>
      </Part>
      <Part title="Disks">
        {found.disks?.map((disk) => (
          <p key={disk.bay}>
            <b>{disk.bay}</b> <span className="mono">{formatBoth(disk.bytes)}</span>{' '}
            {disk.model || 'model unknown'}
          </p>
        ))}
        {!found.disks?.length && <p className="text-faint">unknown</p>}
      </Part>
      <Part title="Addresses">
        {found.addresses.map((address) => (
          <p key={address.ip}>
            <b>{address.port}</b>{' '}
            <span className="mono">
              {address.ip}/{address.prefixLength}
            </span>{' '}
            <span className="text-faint">{address.mac}</span>
          </p>
        ))}
        {found.addresses.length === 0 && <p className="text-faint">unknown</p>}
        <p>
          Gateway <span className="mono">{or(found.gateway)}</span> · name servers{' '}
          <span className="mono">{found.nameServers.join(', ') || 'unknown'}</span>
        </p>
      </Part>
      {found.unread.length > 0 && (
        <p className="my-2 text-faint">Could not be read: {found.unread.join(', ')}.</p>
      )}
      <button
        type="button"
        className="press mt-2"
        onClick={() => void go('/hosts/new', { state: { machine: found } })}
      >
        Go on to record it
      </button>
    </div>
  );
}
