/** Who reaches whom: a sentence, the path hop by hop there and back, the first thing that fails, the change that mends it. */
import type { MachineListRow } from '@insel/contract';
import { useUrlState } from '../../client/url-state.js';
import { Choose } from '../../components/choose.js';
import { useRead } from '../../client/read.js';
import { Answer } from './reach-answer.js';

const detail = (row: MachineListRow) => `${row.kind} ${row.address}`;

export function ReachPage() {
  const [search, set] = useUrlState();
  const { from = '', to = '', ip = '', family = '', service = '' } = Object.fromEntries(search);
  const complete = from !== '' && (to !== '' || ip !== '');
  const query = {
    from,
    to,
    ip,
    ...(service ? { service } : {}),
    ...(family ? { family: family === '6' ? ('6' as const) : ('4' as const) } : {}),
  };
  const answer = useRead('reach', complete ? query : null);
  const turn = () => set({ from: to, to: from, ip: '' });
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Reach</h1>
      <form
        className="mt-1 grid max-w-[940px] grid-cols-1 items-end gap-3 md:grid-cols-[1fr_24px_1fr_160px_96px_100px]"
        onSubmit={(event) => event.preventDefault()}
      >
        <End title="From" value={from} onChange={(id) => set({ from: id })} />
        <button
          type="button"
          className="act mb-1 justify-self-center"
          title="The other way round"
          aria-label="Ask the other way round"
          disabled={!to || !from}
          onClick={turn}
        >
          ⇄
        </button>
        <End title="To" value={to} onChange={(id) => set({ to: id, ip: '' })} />
        <label className="flex flex-col text-xs font-bold text-faint">
          or its address
          <input
            className="mono font-normal"
            placeholder="172.22.12.30"
            value={ip}
            onChange={(event) => set({ ip: event.target.value.trim() })}
          />
        </label>
        <label className="flex flex-col text-xs font-bold text-faint">
          Port
          <input
            className="mono w-full font-normal"
            placeholder="443/tcp"
            value={service}
            onChange={(event) => set({ service: event.target.value.trimStart() })}
          />
        </label>
        <label className="flex flex-col text-xs font-bold text-faint">
          Family
          <select
            className="font-normal"
            value={family}
            onChange={(event) => set({ family: event.target.value })}
          >
            <option value="">whichever</option>
            <option value="4">IPv4</option>
            <option value="6">IPv6</option>
          </select>
        </label>
      </form>
      {!complete && (
        <p className="py-4 text-faint">
          Choose two ends. The answer says yes or no and why, hop by hop, and what would alter it.
        </p>
      )}
      {answer.error && <p className="py-2 text-signal">{answer.error.message}</p>}
      {answer.data &&
        (!('verdict' in answer.data) ? (
          <p role="status" className="py-3 font-bold text-signal">
            {answer.data.sentence}
          </p>
        ) : (
          <Answer answer={answer.data} />
        ))}
    </div>
  );
}

function End({
  title,
  value,
  onChange,
}: {
  title: string;
  value: string;
  onChange: (id: string) => void;
}) {
  const outside = value === 'outside';
  return (
    <div>
      <div className="flex items-baseline justify-between text-xs font-bold text-faint">
        <span>{title}</span>
        <button
          type="button"
          className="act text-xs"
          aria-pressed={outside}
          onClick={() => onChange(outside ? '' : 'outside')}
        >
          {outside ? 'choose a machine' : 'a machine outside'}
        </button>
      </div>
      {outside ? (
        <p className="min-h-[28px] border border-rule px-2 py-[3px]">a machine outside</p>
      ) : (
        <Choose<MachineListRow>
          list="machines"
          label={title}
          value={value}
          onChange={onChange}
          detail={detail}
          placeholder="name or address"
        />
      )}
    </div>
  );
}
