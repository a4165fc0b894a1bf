/** What must be up before a host or guest starts its work: services and guests, to add and to take away. */
import type { GuestListRow, NeedView } from '@insel/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../client/session.js';
import { useChange } from '../client/change.js';
import { Choose } from './choose.js';
import { ProblemNote } from './problem.js';
import { useRead } from '../client/read.js';
import { NamedSelect } from './named-select.js';

export function Needs({
  needs,
  holder,
  name,
}: {
  needs: NeedView[];
  holder: { hostId?: string; guestId?: string };
  name: string;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [open, setOpen] = useState(false);
  const [serviceId, setService] = useState('');
  const [onGuestId, setGuest] = useState('');
  const services = useRead('services', open ? {} : null).data ?? [];
  const send = async () => {
    if (await make('need.record', { ...holder, ...(serviceId ? { serviceId } : { onGuestId }) })) {
      setOpen(false);
      setService('');
      setGuest('');
    }
  };
  return (
    <div>
      {needs.map(({ id, revision, service, guest, purpose }) => {
        const what = service?.name ?? guest?.name ?? '';
        return (
          <p key={id} className="flex items-baseline gap-3">
            {service ? (
              <Link
                className="underline decoration-rule"
                to={`/guests/start-order?service=${service.id}`}
              >
                {service.name}
              </Link>
            ) : (
              <Link className="underline decoration-rule" to={`/guests/${guest?.id}`}>
                {guest?.name}
              </Link>
            )}
            {service && <span className="text-faint">whoever provides it</span>}
            <span className="text-faint">{purpose}</span>
            {mayPlan && (
              <button
                type="button"
                className="act text-[13px]"
                aria-label={`${name} no longer needs ${what}`}
                onClick={() => void make('need.remove', { id }, { seen: { id, revision } })}
              >
                Take away
              </button>
            )}
          </p>
        );
      })}
      {needs.length === 0 && !open && <p className="text-faint">Nothing is recorded.</p>}
      {mayPlan &&
        (open ? (
          <div className="flex flex-wrap items-center gap-2">
            <NamedSelect
              aria-label={`Service that ${name} needs`}
              value={serviceId}
              onChange={(event) => setService(event.target.value)}
              rows={services}
              none="no service, but the guest"
            />
            {!serviceId && (
              <span className="w-[170px]">
                <Choose<GuestListRow>
                  list="guests"
                  label={`Guest that ${name} needs`}
                  placeholder="guest"
                  value={onGuestId}
                  onChange={setGuest}
                />
              </span>
            )}
            <button
              type="button"
              className="act"
              disabled={!serviceId && !onGuestId}
              onClick={() => void send()}
            >
              Keep
            </button>
            <button type="button" className="act" onClick={() => setOpen(false)}>
              Drop
            </button>
          </div>
        ) : (
          <p className="flex gap-4">
            <button type="button" className="act text-[13px]" onClick={() => setOpen(true)}>
              Record what it needs
            </button>
            <Link className="act text-[13px]" to="/guests/start-order">
              Start order
            </Link>
          </p>
        ))}
      <ProblemNote problem={problem} />
    </div>
  );
}
