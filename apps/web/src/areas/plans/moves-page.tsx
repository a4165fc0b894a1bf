/** Moves that empty a host, get by with fewer hosts or even a group out: asked, looked for, shown with their proof, drawn. */
import type { PatchRoundView, RearrangedView } from '@insel/contract';
import { Area } from '../../components/area.js';
import { ProblemNote } from '../../components/problem.js';
import { usePhone } from '../../components/use-phone.js';
import { read } from '../../frame/read.js';
import { FoundMoves } from './found-moves.js';
import { FoundRound, type AskedRound } from './found-round.js';
import { UnderWay, useSearch } from './search-parts.js';
import { type AskedMoves, Question } from './moves-question.js';

type Found =
  { asked: AskedMoves; answer: RearrangedView } | { round: AskedRound; answer: PatchRoundView };

export function MovesPage() {
  const { look, name, found, problem, forget } = useSearch(
    async (search, asked: AskedMoves | AskedRound): Promise<Found> =>
      'aim' in asked
        ? { asked, answer: await read('rearranged', { ...asked, search }) }
        : { round: asked, answer: await read('patchRound', { ...asked, search }) },
  );
  const phone = usePhone();
  const asked = name !== null || found !== null || problem !== null;
  return (
    <Area
      width={340}
      list={
        <div className="h-full overflow-y-auto px-4 py-3">
          <h1>Find moves</h1>
          <p className="mb-2 text-faint">
            Guests change hosts within a group: each move is possible when it is made, and rules
            hold after each.
          </p>
          <Question look={look} busy={name !== null} />
        </div>
      }
      sheet={
        // On a phone what was found stands in place of the question.
        phone && !asked ? null : (
          <>
            {phone && name === null && (
              <button type="button" className="act mb-2" onClick={forget}>
                Ask something else
              </button>
            )}
            {name !== null && <UnderWay search={name} />}
            <ProblemNote problem={problem} />
            {found &&
              ('asked' in found ? (
                <FoundMoves key={found.answer.revision} {...found} />
              ) : (
                <FoundRound key={found.answer.revision} asked={found.round} answer={found.answer} />
              ))}
            {!found && name === null && !problem && (
              <p className="text-faint">
                Say what is wanted and of which hosts. What is found stands here: the moves in their
                order, what each host has left, what cannot be placed and what it lacks, and whether
                it is proved that nothing is better.
              </p>
            )}
          </>
        )
      }
    />
  );
}
