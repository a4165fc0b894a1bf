/** A round of work at hosts: what comes of all, then each stop with its moves, what may fail meanwhile, and its plan. */
import type { PatchRoundView } from '@insel/contract';
import { counted, formatBinary, formatDuration, type RoundStop } from '@insel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Part } from '../../components/sheet.js';
import { useMayPlan } from '../../client/session.js';
import { DrawMoves, MoveTable, NotPlaced } from './found-moves.js';

export interface RoundQuestion {
  groupId: string | null;
  hostIds: string[];
  returns: boolean;
  workMinutes: number;
  platformId: string | null;
  linkBitsPerSecond: number;
  seconds: number;
}

export function FoundRound({
  question,
  answer,
}: {
  question: RoundQuestion;
  answer: PatchRoundView;
}) {
  const { headline, stops, cutShort } = answer;
  const mayPlan = useMayPlan();
  return (
    <article aria-label="What was found">
      <h2 className="text-[17px] font-bold">{headline}</h2>
      <p className="text-faint">
        {question.returns
          ? 'Guests come back to their host before the next one is emptied: the same moves, the other way round.'
          : 'Guests stay where they went: each stop is asked of what the one before leaves.'}{' '}
        Each host takes {question.workMinutes} minutes of work; the one with least on it comes
        first.
        {cutShort && ' It was stopped: hosts that come later were not asked.'}
      </p>
      {stops.map((stop, i) => (
        <Stop key={stop.hostId} stop={stop} number={i + 1}>
          {mayPlan &&
            stop.moves.length > 0 &&
            (question.returns || i === firstToMove(stops) ? (
              <DrawMoves
                initial={`work at ${stop.host}`}
                purpose={`Stop ${i + 1} of ${stops.length}: ${stop.host} is emptied, worked at for ${question.workMinutes} minutes${question.returns ? ', and takes its guests back' : ''}.`}
                linkBitsPerSecond={question.linkBitsPerSecond}
                moves={stop.moves}
              />
            ) : (
              <p className="text-[13px] text-faint">
                To be drawn when the stop before is done: it is asked again then, of what is there.
              </p>
            ))}
        </Stop>
      ))}
    </article>
  );
}

const firstToMove = (stops: readonly RoundStop[]): number =>
  stops.findIndex(({ moves }) => moves.length > 0);

function Stop({
  stop: { hostId, host, moves, stuck, proof, bytes, seconds, shutDown, tolerance, renewed },
  number,
  children,
}: {
  stop: RoundStop;
  number: number;
  children: ReactNode;
}) {
  const { after, afterOf, lost } = tolerance;
  return (
    <Part title={`${number}. ${host}`}>
      <p>
        <Link className="font-bold underline decoration-rule" to={`/hosts/${hostId}`}>
          {host}
        </Link>{' '}
        {stuck.length > 0 ? (
          <b className="text-signal">■ cannot be emptied.</b>
        ) : moves.length === 0 ? (
          'carries nothing.'
        ) : (
          <>
            {counted(moves.length, 'move')}, {formatBinary(bytes, 'up')},{' '}
            {seconds === null ? 'for how long is not known' : `about ${formatDuration(seconds)}`}{' '}
            each way.
          </>
        )}{' '}
        <span className="text-faint">{proof}</span>
      </p>
      {renewed && stuck.length === 0 && (
        <p>
          {renewed.hosts} of {renewed.of} hosts have the new release while it is worked at; nobody
          goes from these back to the old one.
        </p>
      )}
      {moves.length > 0 && stuck.length === 0 && (
        <p>
          Meanwhile{' '}
          <span className="text-pencil">
            {after} of {afterOf}
          </span>{' '}
          of the others may fail without a guest left down.
          {lost.length > 0 && (
            <b className="text-amber"> ◆ Not any more: {lost.slice(0, 12).join(', ')}.</b>
          )}
        </p>
      )}
      {shutDown.length > 0 && stuck.length === 0 && (
        <p>
          <b className="text-amber">◆ Down while they move:</b> {shutDown.join(', ')}.
        </p>
      )}
      <NotPlaced stuck={stuck} />
      {moves.length > 0 && (
        <details>
          <summary className="min-h-6 cursor-pointer leading-6 text-faint">
            {counted(moves.length, 'move')} in order
          </summary>
          <MoveTable moves={moves} />
        </details>
      )}
      {stuck.length === 0 && children}
    </Part>
  );
}
