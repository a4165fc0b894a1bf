/** A network inside a host alone, and another one that it carries. */
import type { HostSheet } from '@insel/contract';
import { KINDS } from '@insel/core';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { Wrong } from '../../components/field.js';
import { useLineForm } from '../../components/line-form.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../client/read.js';
import { NamedSelect } from '../../components/named-select.js';

export const MODES = KINDS.virtualSwitch.fields.mode!.choices!;

/** A network inside this host: translated, routed, for host and guests, or for guests alone. */
export function InsideNetwork({ sheet }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { control, values, errors, send, problem, open, begin, drop } = useLineForm(
    () => ({ name: '', mode: 'NAT', prefix: '' }),
    {
      type: 'host.add-inside',
      read: (typed) => [{ hostId: sheet.host.id, ...typed }],
    },
  );
  if (!mayPlan) return null;
  if (!open)
    return (
      <button type="button" className="act mr-3 text-[13px]" onClick={begin}>
        Add a network inside this host
      </button>
    );
  return (
    <form className="mt-1 flex flex-wrap items-center gap-2" onSubmit={(event) => void send(event)}>
      <input
        autoFocus
        aria-label="Name of the inside network"
        placeholder="name"
        className="w-[130px]"
        {...control('name')}
      />
      <select aria-label="Mode of the inside network" {...control('mode')}>
        {MODES.filter((mode) => mode !== 'bridged').map((mode) => (
          <option key={mode}>{mode}</option>
        ))}
      </select>
      <input
        aria-label="Block of the inside network"
        placeholder="192.168.60.0/24"
        className="mono w-[150px]"
        {...control('prefix')}
      />
      <button type="submit" className="act">
        Record it
      </button>{' '}
      <button type="button" className="act" onClick={drop}>
        Drop
      </button>
      {values.mode === 'NAT' && (
        <p className="basis-full text-[13px] text-faint">
          On this platform{' '}
          {sheet.platform.natShared
            ? 'all guests behind translation share one segment and see each other and the host'
            : 'each guest is alone behind translation: neither the host nor its neighbours reach it'}
          . Its block may repeat elsewhere: it gets a routing domain of its own.
        </p>
      )}
      <Wrong errors={errors} problem={problem} />
      <ProblemNote problem={problem} />
    </form>
  );
}

export function CarryNetwork({ hostId, carried }: { hostId: string; carried: string[] }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const networks = useRead('networks', { take: 200 });
  const free = networks.data?.rows.filter((network) => !carried.includes(network.id)) ?? [];
  if (!mayPlan || free.length === 0) return null;
  return (
    <div className="mt-1">
      <NamedSelect
        aria-label="Carry another network, bridged"
        value=""
        onChange={(event) =>
          void make('host.carry', {
            hostId,
            networkId: event.target.value,
            mode: 'bridged',
          })
        }
        rows={free}
        none="Carry another network, bridged …"
      />
      <ProblemNote problem={problem} />
    </div>
  );
}
