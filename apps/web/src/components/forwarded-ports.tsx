/** Ports of one machine that lead on to others: to add and to remove. */
import { parseAddress, type Row } from '@insel/core';
import { useState } from 'react';
import { useMayPlan } from '../frame/session.js';
import { useChange } from '../frame/change.js';
import { asWhole } from './editable.js';
import { ProblemNote } from './problem.js';

const EMPTY = { protocol: 'tcp' as 'tcp' | 'udp', port: '', at: '', to: '', toPort: '', why: '' };

export function ForwardedPorts({
  ports,
  holder,
  name,
}: {
  ports: Row<'forwardedPort'>[];
  holder: { hostId?: string; guestId?: string; deviceId?: string };
  name: string;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [draft, setDraft] = useState<typeof EMPTY | null>(null);
  const [fault, setFault] = useState('');
  const send = async () => {
    if (!draft) return;
    const [port, inner] = [asWhole(draft.port), asWhole(draft.toPort || draft.port)];
    const [to, at] = [parseAddress(draft.to), draft.at.trim() ? parseAddress(draft.at) : null];
    const sentence = !port.ok
      ? `Port: ${port.sentence}`
      : !to.ok
        ? to.sentence
        : !inner.ok
          ? `Port inside: ${inner.sentence}`
          : at && !at.ok
            ? at.sentence
            : '';
    setFault(sentence);
    if (sentence || !port.ok || !inner.ok) return;
    const written = await make('forwarded-port.record', {
      ...holder,
      ...{ protocol: draft.protocol, port: port.value, atIp: draft.at.trim() || null },
      ...{ toIp: draft.to, toPort: inner.value, purpose: draft.why.trim() },
    });
    if (written) setDraft(null);
  };
  const field = (key: 'port' | 'at' | 'to' | 'toPort' | 'why', label: string, width: string) => (
    <input
      autoFocus={key === 'port'}
      aria-label={`${label} of a forwarded port of ${name}`}
      placeholder={label.toLowerCase()}
      className={`${key === 'why' ? '' : 'mono'} ${width}`}
      value={draft![key]}
      onChange={(event) => setDraft({ ...draft!, [key]: event.target.value })}
    />
  );
  return (
    <div>
      {ports.map((row) => (
        <p key={row.id} className="flex flex-wrap items-baseline gap-x-3">
          <span className="text-faint">port</span>
          <span className="mono">
            {row.port}/{row.protocol}
            {row.atIp && ` at ${row.atIp}`}
          </span>
          <span className="text-faint">leads to</span>
          <span className="mono">
            {row.toIp}
            {row.toPort === row.port ? '' : `, port ${row.toPort}`}
          </span>
          {row.purpose && <span>{row.purpose}</span>}
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              aria-label={`Remove the forwarded port ${row.port}/${row.protocol}`}
              onClick={() => void make('forwarded-port.remove', { id: row.id }, { seen: row })}
            >
              Remove
            </button>
          )}
        </p>
      ))}
      {mayPlan &&
        (draft ? (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void send();
            }}
          >
            {field('port', 'Port', 'w-[64px]')}
            <select
              aria-label={`Protocol of a forwarded port of ${name}`}
              value={draft.protocol}
              onChange={(event) =>
                setDraft({ ...draft, protocol: event.target.value as 'tcp' | 'udp' })
              }
            >
              <option value="tcp">TCP</option>
              <option value="udp">UDP</option>
            </select>
            {field('at', 'At any address', 'w-[150px]')}
            <span className="text-faint">leads to</span>
            {field('to', 'Address', 'w-[130px]')}
            {field('toPort', 'Same port', 'w-[104px]')}
            {field('why', 'What for', 'w-[130px]')}
            <button type="submit" className="act">
              Record the forwarded port
            </button>
            <button type="button" className="act" onClick={() => setDraft(null)}>
              Drop
            </button>
          </form>
        ) : (
          <button type="button" className="act text-[13px]" onClick={() => setDraft(EMPTY)}>
            Record a forwarded port
          </button>
        ))}
      {fault && <p className="text-xs font-bold text-signal">{fault}</p>}
      <ProblemNote problem={problem} />
    </div>
  );
}
