/** What was found: the answer and its proof, moves in their order, hosts before and after; drawn as a plan. */
import type { RearrangedView } from '@insel/contract';
import {
  counted,
  formatBinary,
  formatDuration,
  MOST_MOVES,
  type RearrangedHost,
} from '@insel/core';
import { Link } from 'react-router';
import { DrawPlan } from '../../components/draw-plan.js';
import { Gauge } from '../../components/gauge.js';
import { Part } from '../../components/sheet.js';
import { useMayPlan } from '../../client/session.js';
import type { MovesQuestion } from './moves-question.js';

export function FoundMoves({
  question,
  answer,
}: {
  question: MovesQuestion;
  answer: RearrangedView;
}) {
  const { headline, proof, assumes, moves, stuck, hosts, bytes, seconds, tolerance, cutShort } =
    answer;
  const mayPlan = useMayPlan();
  const freed = hosts.filter(({ empty, before }) => empty && before.guests > 0);
  return (
    <article aria-label="What was found">
      <h2 className="text-[17px] font-bold">{headline}</h2>
      <p>
        {proof}
        {cutShort && ' The search was cut short: what it had by then stands here.'}
      </p>
      {assumes && <p className="text-faint">{assumes}</p>}
      {moves.length > 0 && (
        <p className="text-faint">
          {formatBinary(bytes, 'up')} travel,{' '}
          {seconds === null ? 'for how long is not known' : `about ${formatDuration(seconds)}`} one
          after another.
          {question.aim === 'fewest' && freed.length > 0 && (
            <>
              {' '}
              {freed.map(({ name }) => name).join(', ')}{' '}
              {answer.wattsFreed === null
                ? 'could be switched off; what they draw is not recorded.'
                : `could be switched off: ${answer.wattsFreed} W less (what is recorded, not measured).`}
            </>
          )}
        </p>
      )}
      <Tolerance tolerance={tolerance} />
      {stuck.length > 0 && (
        <Part title="Not placed">
          <NotPlaced stuck={stuck} />
        </Part>
      )}
      {moves.length > 0 && (
        <Part title="Moves, in order">
          <MoveTable moves={moves} />
          {mayPlan && (
            <DrawMoves
              initial={nameOf(question, hosts)}
              purpose={headline}
              linkBitsPerSecond={question.linkBitsPerSecond}
              moves={moves}
            />
          )}
        </Part>
      )}
      <Part title="Hosts">
        <HostTable hosts={hosts} />
      </Part>
    </article>
  );
}

/** Guests that stay where they should not, why, and the least that would let them go. */
export function NotPlaced({ stuck }: Pick<RearrangedView, 'stuck'>) {
  return stuck.map(({ guestId, name, why, mend }) => (
    <p key={guestId}>
      <Link className="font-bold" to={`/guests/${guestId}`}>
        {name}
      </Link>{' '}
      <span className="text-signal">■ {why}.</span> {mend}
    </p>
  ));
}

export function Tolerance({ tolerance }: Pick<RearrangedView, 'tolerance'>) {
  const { before, beforeOf, after, afterOf, lost } = tolerance;
  return (
    <p>
      One host may fail without a guest left down: {before} of {beforeOf} now,{' '}
      <span className="text-pencil">
        {after} of {afterOf} then
      </span>
      .
      {lost.length > 0 && (
        <b className="text-amber"> ◆ No longer: {lost.slice(0, 12).join(', ')}.</b>
      )}
    </p>
  );
}

export function MoveTable({ moves }: Pick<RearrangedView, 'moves'>) {
  return (
    <table className="w-full text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th className="w-7">#</th>
          <th>Guest</th>
          <th className="px-2">From</th>
          <th>To</th>
          <th>Disks</th>
          <th>How</th>
          <th className="text-right">Travels</th>
          <th className="text-right">About</th>
          <th className="pl-3">Why</th>
        </tr>
      </thead>
      <tbody>
        {moves.map((move, i) => (
          <tr key={`${move.guestId} ${move.toHostId}`} className="border-b border-rule">
            <td className="mono text-faint">{i + 1}</td>
            <td>
              <Link className="font-bold" to={`/guests/${move.guestId}`}>
                {move.name}
              </Link>
            </td>
            <td className="px-2">{move.from}</td>
            <td className="pr-2 text-pencil">{move.to}</td>
            <td className="pr-2">{move.toPool ? `to ${move.toPool}` : 'stay'}</td>
            <td>{howOf(move)}</td>
            <td className="mono text-right whitespace-nowrap">
              {move.bytes > 0 ? formatBinary(move.bytes, 'up') : '–'}
            </td>
            <td className="mono pl-2 text-right whitespace-nowrap">
              {move.seconds === null
                ? 'unknown'
                : move.seconds > 0
                  ? formatDuration(move.seconds)
                  : '–'}
            </td>
            <td className="pl-3">{move.why}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const howOf = ({ state, running }: RearrangedView['moves'][number]): string =>
  state === 'planned' || state === 'building' ? 'planned there' : running ? 'running' : 'stopped';

export function HostTable({ hosts }: { hosts: readonly RearrangedHost[] }) {
  const byUse = hosts.some(({ used }) => used !== null);
  return (
    <table className="w-full max-w-[860px] text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th>Host</th>
          <th className="text-right">Guests</th>
          {byUse && <th className="w-[28%] pl-4">Used, in its fullest hour</th>}
          <th className={`${byUse ? 'w-[28%]' : 'w-[34%]'} pl-4`}>Memory given</th>
          <th className={`${byUse ? 'w-[28%]' : 'w-[34%]'} pl-4`}>Processors given</th>
        </tr>
      </thead>
      <tbody>
        {hosts.map(({ id, name, before, after, empty, used }) => (
          <tr key={id} className="border-b border-rule">
            <td>
              <Link className="font-bold" to={`/hosts/${id}`}>
                {name}
              </Link>
              {empty && before.guests > 0 && <span className="text-pencil"> empty</span>}
            </td>
            <td className="mono text-right">{arrow(before.guests, after.guests, String)}</td>
            {used && <Level label={`Used of ${name}`} before={used.before} after={used.after} />}
            <Level
              label={`Memory of ${name}`}
              before={before.memoryPercent}
              after={after.memoryPercent}
            />
            <Level
              label={`Processors of ${name}`}
              before={before.vcpuPercent}
              after={after.vcpuPercent}
            />
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Level({ label, before, after }: { label: string; before: number; after: number }) {
  return (
    <td className="pl-4">
      <span className="grid grid-cols-[1fr_112px] items-center gap-2">
        <Gauge percent={before} after={after} label={label} />
        <span className="mono">{arrow(before, after, (value) => `${Math.round(value)} %`)}</span>
      </span>
    </td>
  );
}

function arrow(before: number, after: number, show: (value: number) => string) {
  const [was, is] = [show(before), show(after)];
  return was === is ? (
    was
  ) : (
    <>
      {was} → <b className="text-pencil">{is}</b>
    </>
  );
}

const nameOf = ({ aim, emptiedIds }: MovesQuestion, hosts: readonly RearrangedHost[]): string => {
  const named = hosts.filter(({ id }) => emptiedIds.includes(id)).map(({ name }) => name);
  if (aim === 'empty') return `empty ${named.join(', ')}`.slice(0, 60);
  return aim === 'fewest' ? 'fewer hosts' : 'even out';
};

/** Moves as a change that draws them takes them. */
export const drawnMoves = (moves: RearrangedView['moves']) =>
  moves.map(({ guestId, toHostId, toPoolId, running, why }) => ({
    ...{ guestId, targetHostId: toHostId, targetPoolId: toPoolId, running, remark: why },
  }));

/** Moves as a plan of their own, under a name. */
export function DrawMoves({
  initial,
  purpose,
  linkBitsPerSecond,
  moves,
}: {
  initial: string;
  purpose: string;
  linkBitsPerSecond: number;
  moves: RearrangedView['moves'];
}) {
  // Each was possible after those before it: the first so many are a plan, too.
  const drawn = moves.slice(0, MOST_MOVES);
  return (
    <DrawPlan
      initial={initial}
      words={`Draw ${drawn.length < moves.length ? 'the first ' : ''}${counted(drawn.length, 'move')} as a plan`}
      draw={(make, name) =>
        make('plan.draw-moves', { name, purpose, linkBitsPerSecond, moves: drawnMoves(drawn) })
      }
    />
  );
}
