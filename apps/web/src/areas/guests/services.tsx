/** Services: what they are, who provides them, how many need them. */
import type { MachineListRow, ServiceView } from '@insel/contract';
import { SERVICE_KINDS } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { useChange } from '../../client/change.js';
import { Choose } from '../../components/choose.js';
import { Wrong } from '../../components/field.js';
import { useLineForm } from '../../components/line-form.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';

export function Services({ services }: { services: ServiceView[] }) {
  const mayPlan = useMayPlan();
  const [search] = useUrlState();
  return (
    <section aria-label="Services" className="mt-4 border-t border-rule pt-2">
      <h2 className="font-bold">Services</h2>
      {services.length === 0 && (
        <p className="text-faint">
          None yet. A service is what several machines can provide: names, accounts, time, storage.
          Whoever needs it starts once one of them runs.
        </p>
      )}
      {services.map((service) => (
        <Service key={service.id} service={service} marked={search.get('service') === service.id} />
      ))}
      {mayPlan && <NewService />}
    </section>
  );
}

function Service({ service, marked }: { service: ServiceView; marked: boolean }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [adding, setAdding] = useState(false);
  const [onHost, setOnHost] = useState('');
  const add = async (row: MachineListRow | null) => {
    if (!row) return;
    setOnHost(row.kind === 'host' ? row.name : '');
    if (row.kind === 'host') return;
    const who = row.kind === 'guest' ? { guestId: row.id } : { deviceId: row.id };
    if (await make('provider.record', { serviceId: service.id, ...who })) setAdding(false);
  };
  return (
    <div className={`border-b border-rule py-1.5 text-[13px] ${marked ? 'bg-water px-1' : ''}`}>
      <p className="flex items-baseline gap-2">
        <b>{service.name}</b>{' '}
        <span className="text-faint">
          {service.what}, needed by {service.needed}
        </span>
      </p>
      <SheetFindings findings={service.findings} />
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-faint">from</span>
        {service.providers.map((provider) => (
          <span key={provider.provided.id}>
            <Link
              className="underline decoration-rule"
              to={
                provider.kind === 'guest'
                  ? `/guests/${provider.id}`
                  : `/networks/devices?open=${provider.id}`
              }
            >
              {provider.name}
            </Link>
            {provider.state !== 'in service' && (
              <span className="text-amber"> {provider.state}</span>
            )}
            {mayPlan && (
              <button
                type="button"
                className="act ml-1 min-w-6"
                aria-label={`${provider.name} no longer provides ${service.name}`}
                onClick={() =>
                  void make(
                    'provider.remove',
                    { id: provider.provided.id },
                    { seen: provider.provided },
                  )
                }
              >
                ×
              </button>
            )}
          </span>
        ))}
        {service.providers.length === 0 && <span>nobody</span>}
        {mayPlan && !adding && (
          <button
            type="button"
            className="act"
            aria-label={`Add who provides ${service.name}`}
            onClick={() => setAdding(true)}
          >
            Add one
          </button>
        )}
        {mayPlan && service.needed === 0 && (
          <button
            type="button"
            className="act"
            aria-label={`Remove the service ${service.name}`}
            onClick={() => void make('service.remove', { id: service.id }, { seen: service })}
          >
            Remove
          </button>
        )}
      </p>
      {adding && (
        <div className="flex items-center gap-2">
          <span className="w-[200px]">
            <Choose<MachineListRow>
              list="machines"
              label={`Who provides ${service.name}`}
              placeholder="guest or equipment"
              value=""
              onChange={(_, row) => void add(row)}
            />
          </span>
          <button type="button" className="act" onClick={() => setAdding(false)}>
            Drop
          </button>
        </div>
      )}
      {onHost && (
        <p role="alert" className="text-signal">
          {onHost} is a host: choose the guest on it that provides the service, or a device.
        </p>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

function NewService() {
  const form = useLineForm(() => ({ name: '', what: 'names' }), {
    type: 'service.record',
    read: (typed) => [typed],
  });
  const { open, begin, drop, control, send, problem, errors } = form;
  if (!open)
    return (
      <button type="button" className="act mt-1" onClick={begin}>
        Record a service
      </button>
    );
  return (
    <form className="mt-1 flex flex-wrap items-center gap-2" onSubmit={(event) => void send(event)}>
      <input
        autoFocus
        aria-label="Name of the service"
        placeholder="name"
        className="w-[150px]"
        {...control('name')}
      />
      <select aria-label="What the service is" {...control('what')}>
        {SERVICE_KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      <button type="submit" className="act">
        Keep
      </button>
      <button type="button" className="act" onClick={drop}>
        Drop
      </button>
      <Wrong errors={errors} problem={problem} />
      <ProblemNote problem={problem} />
    </form>
  );
}
