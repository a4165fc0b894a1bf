/** Where new guests go: the answer and its proof, lots by host, licences, hosts before and after, who has no place; drawn as a plan. */
import type { PlacedBatchView } from '@insel/contract';
import { counted } from '@insel/core';
import { DrawPlan } from '../../components/draw-plan.js';
import { Part } from '../../components/sheet.js';
import { useMayPlan } from '../../client/session.js';
import { drawnMoves, HostTable, MoveTable, Tolerance } from './found-moves.js';
import type { BatchQuestion } from './place-page.js';

export function FoundPlaces({
  question,
  answer,
}: {
  question: BatchQuestion;
  answer: PlacedBatchView;
}) {
  const { headline, proof, lots, guests, moves, hosts, tolerance, licences, cutShort } = answer;
  const mayPlan = useMayPlan();
  const taking = new Set(guests.map(({ hostId }) => hostId));
  const touched = hosts.filter(
    ({ id, before, after }) => taking.has(id) || before.guests !== after.guests,
  );
  return (
    <article aria-label="What was found">
      <h2 className="text-[17px] font-bold">{headline}</h2>
      <p>
        {proof}
        {cutShort && ' The search was cut short: what it had by then stands here.'}
      </p>
      <Tolerance tolerance={tolerance} />
      <Part title="Where they go">
        <Lots lots={lots} guests={guests} />
      </Part>
      {licences.length > 0 && (
        <Part title="Licences counted by hosts">
          <Licences licences={licences} />
        </Part>
      )}
      {moves.length > 0 && (
        <Part title="Moves that make room, in order">
          <MoveTable moves={moves} />
        </Part>
      )}
      {mayPlan && guests.length > 0 && guests.every(({ name }) => name !== '') && (
        <DrawBatch question={question} answer={answer} />
      )}
      {guests.some(({ name }) => name === '') && (
        <p className="text-signal">
          ■ The names of a lot are fewer than its guests: write a longer range, or {'{n}'}, which
          counts on.
        </p>
      )}
      <Part title={`Hosts that take any, ${touched.length} of ${hosts.length}`}>
        <HostTable hosts={touched} />
      </Part>
    </article>
  );
}

function Lots({ lots, guests }: Pick<PlacedBatchView, 'lots' | 'guests'>) {
  return (
    <table className="w-full max-w-[860px] text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th>Lot</th>
          <th className="text-right">Placed</th>
          <th className="pl-4">On</th>
        </tr>
      </thead>
      <tbody>
        {lots.map(({ pattern, wanted, placed, on, short }, i) => (
          <tr key={i} className="border-b border-rule align-top">
            <td className="font-bold">{pattern}</td>
            <td className="mono text-right whitespace-nowrap">
              {placed} of {wanted}
            </td>
            <td className="pl-4">
              {on.map(({ hostId, host, count }) => (
                <span key={hostId} className="mr-3 inline-block whitespace-nowrap">
                  {host} <b className="text-pencil">{count}</b>
                </span>
              ))}
              {short.map(({ count, why, mend }) => (
                <p key={why}>
                  <b className="text-signal">
                    ■ {count} without a place: {why}.
                  </b>{' '}
                  {mend}
                </p>
              ))}
              {placed > 0 && (
                <details>
                  <summary className="min-h-6 cursor-pointer leading-6 text-faint">
                    Each by name
                  </summary>
                  <ul>
                    {guests
                      .filter(({ lot }) => lot === i)
                      .map(({ name, host, pool }, n) => (
                        <li key={n}>
                          <b className="text-pencil">{name || 'without a name'}</b> on {host}
                          {pool && `, in pool ${pool}`}
                        </li>
                      ))}
                  </ul>
                </details>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Licences({ licences }: Pick<PlacedBatchView, 'licences'>) {
  return (
    <table className="w-full max-w-[620px] text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th>Licence</th>
          <th>Counted by</th>
          <th className="text-right">Used now</th>
          <th className="text-right">Then</th>
          <th className="text-right">Allowed</th>
          <th className="text-right">To obtain</th>
        </tr>
      </thead>
      <tbody>
        {licences.map(({ entitlementId, name, unit, before, after, allowed }) => (
          <tr key={entitlementId} className="border-b border-rule">
            <td className="font-bold">{name}</td>
            <td>{unit}</td>
            <td className="mono text-right">{before}</td>
            <td className="mono text-right text-pencil">{after}</td>
            <td className="mono text-right">{allowed}</td>
            <td className="mono text-right">
              {after > allowed ? <b className="text-amber">◆ {after - allowed}</b> : 'none'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function DrawBatch({ question, answer }: { question: BatchQuestion; answer: PlacedBatchView }) {
  const { headline, moves, guests } = answer;
  const names = question.lots.map(({ pattern }) => pattern).join(', ');
  return (
    <DrawPlan
      initial={`place ${names}`.slice(0, 60)}
      words={`Draw ${counted(guests.length, 'guest')} as a plan`}
      draw={(make, name) =>
        make('plan.draw-batch', {
          ...{ name, purpose: headline, linkBitsPerSecond: question.linkBitsPerSecond },
          moves: drawnMoves(moves),
          lots: question.lots.map(
            ({ pattern, count: _, poolId: __, guestGroupId, networkIds, ...lot }) => ({
              ...lot,
              ...{ groupId: guestGroupId, networkIds, ruleName: `${pattern} apart`.slice(0, 60) },
            }),
          ),
          guests: guests.map(({ lot, name: called, hostId, poolId }) => ({
            ...{ lot, name: called, hostId, poolId },
          })),
        })
      }
    />
  );
}
