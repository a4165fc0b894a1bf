/** Ports of one machine that lead on to others: to add and to remove. */
import { parseAddress, type Row } from '@insel/core';
import { useMayPlan } from '../client/session.js';
import { useChange } from '../client/change.js';
import { asWhole } from './editable.js';
import { Wrong, type Errors } from './field.js';
import { useLineForm } from './line-form.js';
import { ProblemNote } from './problem.js';

const EMPTY = { protocol: 'tcp', port: '', at: '', to: '', toPort: '', why: '' };
type Draft = typeof EMPTY;

function read(draft: Draft): [object, Errors] {
  const [port, inner] = [asWhole(draft.port), asWhole(draft.toPort || draft.port)];
  const [to, at] = [parseAddress(draft.to), draft.at.trim() ? parseAddress(draft.at) : null];
  const errors: Errors = {};
  if (!port.ok) errors.port = `Port: ${port.sentence}`;
  if (!to.ok) errors.toIp = to.sentence;
  if (draft.toPort && !inner.ok) errors.toPort = `Port inside: ${inner.sentence}`;
  if (at && !at.ok) errors.atIp = at.sentence;
  const input = {
    ...{ protocol: draft.protocol, port: port.ok ? port.value : 1, atIp: draft.at.trim() || null },
    ...{ toIp: draft.to, toPort: inner.ok ? inner.value : 1, purpose: draft.why.trim() },
  };
  return [input, errors];
}

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
  const { control, open, begin, drop, send, ...form } = useLineForm(() => EMPTY, {
    type: 'forwarded-port.record',
    read: (typed) => {
      const [port, errors] = read(typed);
      return [{ ...holder, ...port }, errors];
    },
    typedIn: { toIp: 'to', atIp: 'at' },
  });
  const field = (key: keyof Draft, label: string, width: string) => (
    <input
      autoFocus={key === 'port'}
      aria-label={`${label} of a forwarded port of ${name}`}
      placeholder={label.toLowerCase()}
      className={`${key === 'why' ? '' : 'mono'} ${width}`}
      {...control(key)}
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
        (open ? (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => void send(event)}
          >
            {field('port', 'Port', 'w-[64px]')}
            <select aria-label={`Protocol of a forwarded port of ${name}`} {...control('protocol')}>
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
            <button type="button" className="act" onClick={drop}>
              Drop
            </button>
          </form>
        ) : (
          <button type="button" className="act text-[13px]" onClick={begin}>
            Record a forwarded port
          </button>
        ))}
      {open && <Wrong errors={form.errors} problem={form.problem} />}
      <ProblemNote problem={form.problem ?? problem} />
    </div>
  );
}
