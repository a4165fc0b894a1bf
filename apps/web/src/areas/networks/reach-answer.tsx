/** The answer to a question of reach, in words, with the way and what would mend it. */
import type { ReachAnswer, HopView } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { pathOf } from './path-of.js';

const TONE: Record<ReachAnswer['verdict'], { sign: string; tone: string }> = {
  yes: { sign: '✓', tone: 'text-teal' },
  no: { sign: '■', tone: 'text-signal' },
  'one way': { sign: '◆', tone: 'text-amber' },
  'somebody else answered': { sign: '◆', tone: 'text-amber' },
  refused: { sign: '■', tone: 'text-signal' },
};
export function Answer({ answer }: { answer: ReachAnswer }) {
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
