/** Who reaches whom: a sentence, the path hop by hop there and back, the first thing that fails, the change that mends it. */
import type { MachineListRow } from '@insel/contract';
import type { HopView, ReachAnswer } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { useChange } from '../../frame/change.js';
import { Choose } from '../../components/choose.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../frame/read.js';

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

const TONE: Record<ReachAnswer['verdict'], { sign: string; tone: string }> = {
  yes: { sign: '✓', tone: 'text-teal' },
  no: { sign: '■', tone: 'text-signal' },
  'one way': { sign: '◆', tone: 'text-amber' },
  'somebody else answered': { sign: '◆', tone: 'text-amber' },
  refused: { sign: '■', tone: 'text-signal' },
};

function Answer({ answer }: { answer: ReachAnswer }) {
  const mayPlan = useMayPlan();
  const { makeThis, busy, problem } = useChange();
  const { sign, tone } = TONE[answer.verdict];
  return (
    <div className="max-w-[980px]">
      <p role="status" className="mt-3 text-[17px] leading-snug">
        <span aria-hidden className={`${tone} mr-1 font-bold`}>
          {sign}
        </span>
        <b className={tone}>{answer.sentence}</b>
      </p>
      {answer.mend && (
        <p className="mt-1">
          The smallest change that would mend it:{' '}
          <b className="border-b border-dashed border-pencil text-pencil">{answer.mend.label}.</b>{' '}
          {mayPlan && (
            <button
              type="button"
              className="act"
              disabled={busy}
              onClick={() =>
                void makeThis(answer.mend!.change, {
                  seen: answer.mend!.expects,
                  reason: answer.failure?.sentence,
                })
              }
            >
              Record that
            </button>
          )}
        </p>
      )}
      {answer.failure?.at && !answer.mend && (
        <p className="mt-1 text-faint">
          Look at{' '}
          <Link className="underline decoration-rule" to={pathOf(answer.failure.at)}>
            {answer.failure.at.name}
          </Link>
          ; no single change of the record mends this.
        </p>
      )}
      <ProblemNote problem={problem} />
      {answer.notes.map((note) => (
        <p key={note} className="text-[13px] text-faint">
          {note}
        </p>
      ))}
      <WaysIn answer={answer} />
      <div className="mt-3 grid gap-6 lg:grid-cols-2">
        <Way
          title={`Request to ${answer.to.ip}`}
          hops={answer.request}
          broken={answer.reply.length === 0 && answer.verdict !== 'yes'}
        />
        {answer.reply.length > 0 && (
          <Way title="Reply" hops={answer.reply} broken={answer.verdict === 'one way'} />
        )}
      </div>
    </div>
  );
}

/** Ports of other machines that lead to the one that was asked for. */
function WaysIn({ answer: { waysIn, from } }: { answer: ReachAnswer }) {
  if (waysIn.length === 0) return null;
  return (
    <section aria-label="Ports that lead there" className="mt-2">
      <h2 className="text-[13px] font-bold text-faint">Ports that lead there</h2>
      {waysIn.map(({ at, ip, port, protocol, purpose, verdict }) => {
        const yes = verdict === 'yes';
        return (
          <p key={`${ip}|${port}|${protocol}`} className="flex flex-wrap items-baseline gap-x-3">
            <span aria-hidden className={`font-bold ${yes ? TONE.yes.tone : TONE.no.tone}`}>
              {yes ? TONE.yes.sign : TONE.no.sign}
            </span>
            <span className="mono">
              {ip}, {port}/{protocol}
            </span>
            <span>
              of{' '}
              <Link className="underline decoration-rule" to={pathOf(at)}>
                {at.name}
              </Link>
            </span>
            {purpose && <span className="text-faint">{purpose}</span>}
            <Link
              className="act text-[13px]"
              to={`/networks/reach?from=${from.id}&ip=${ip}&service=${port}/${protocol}`}
            >
              {yes ? 'It answers: see the way' : 'No answer: see why'}
            </Link>
          </p>
        );
      })}
    </section>
  );
}

export function pathOf({ kind, id }: { kind: string; id: string }): string {
  if (kind === 'device') return `/networks/devices?open=${id}`;
  if (kind === 'physicalSwitch' || kind === 'line') return `/networks/switches?open=${id}`;
  return `/${kind}s/${id}`;
}

/** The way as a line of stations: machines as dots, what lies between beside the line. */
function Way({ title, hops, broken }: { title: string; hops: HopView[]; broken: boolean }) {
  const [open, setOpen] = useState(false);
  const cables = hops.some((hop) => hop.over.length > 0);
  return (
    <section aria-label={title}>
      <h2 className="flex gap-3 text-[13px] font-bold text-faint">
        {title}
        {cables && (
          <button
            type="button"
            className="act text-[13px]"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            {open ? 'without cables' : 'with cables'}
          </button>
        )}
      </h2>
      <ol className="mt-1">
        {hops.map((hop, i) => {
          const last = i === hops.length - 1;
          const fails = last && broken;
          return (
            <li
              key={i}
              className={`relative pb-3 pl-6 ${last ? '' : 'before:absolute before:top-3 before:bottom-[-8px] before:left-[6px] before:border-l-2 before:border-ink'}`}
            >
              <span
                aria-hidden
                className={`absolute top-[5px] left-0 h-[14px] w-[14px] rounded-full border-2 ${fails ? 'border-signal bg-ground' : 'border-ink bg-water'}`}
              />
              {hop.machine.kind === 'outside' ? (
                <b>{hop.machine.name}</b>
              ) : (
                <Link className="font-bold underline decoration-rule" to={pathOf(hop.machine)}>
                  {hop.machine.name}
                </Link>
              )}
              <span className="text-[13px] text-faint">
                {' '}
                {[hop.in && `in by ${hop.in}`, hop.out && `out by ${hop.out}`]
                  .filter(Boolean)
                  .join(', ')}
              </span>
              {hop.translatedTo && (
                <p className="text-[13px]">
                  goes on as <span className="mono">{hop.translatedTo}</span> (translated)
                </p>
              )}
              {hop.forwardedTo && (
                <p className="text-[13px]">
                  leads on to <span className="mono">{hop.forwardedTo}</span>
                </p>
              )}
              {hop.next && (
                <p className="text-[13px] text-faint">
                  asks the segment for <span className="mono text-ink">{hop.next}</span>
                </p>
              )}
              {open &&
                hop.over.map((text, n) => (
                  <p key={n} className="border-l-2 border-dotted border-used pl-2 text-[13px]">
                    {text}
                  </p>
                ))}
              {fails && <p className="text-[13px] font-bold text-signal">here it ends</p>}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
